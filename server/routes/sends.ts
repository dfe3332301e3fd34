import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { DecideLine, SendLine, SendPreview, SendView } from '#core/api/views.ts'
import { checkAtSending } from '#core/engine/checkAtSending.ts'
import { lastChanceOf } from '#core/planning/lastChance.ts'
import type { Slice } from '#core/planning/slice.ts'
import { forecastDelays } from '#core/insight/forecast.ts'
import { sendState } from '#core/model/send.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { simpleParser } from 'mailparser'
import { asJson } from '../db/columns.ts'
import { readSend } from '../db/sendStore.ts'
import type { Office } from '../engine/office.ts'
import type { RunningOffice } from '../engine/runningOffice.ts'
import { sendLines } from './lines.ts'
import { Refusal } from '../http/problems.ts'
import { serve, valueOf } from './route.ts'

/** More than this many lines are not sent to a page at once. */
const mostLines = 2000

async function sendView({ office }: RunningOffice, id: string): Promise<SendView> {
  const { statements } = office.store
  const send = readSend(statements, id)
  if (!send) throw new Refusal('not found', 'There is no such message.')
  const line = sendLines(office, 'listOfClient', { clientId: send.clientId }).find((one) => one.id === id)
  if (!line) throw new Refusal('not found', 'There is no such message.')
  const message = statements.one('readMessage', { sendId: id })
  const source = message?.['source']
  return {
    ...line,
    send,
    subject: typeof message?.['subject'] === 'string' ? message['subject'] : null,
    text: Buffer.isBuffer(source) ? ((await simpleParser(source)).text ?? null) : null,
    answer: typeof message?.['answer'] === 'string' ? message['answer'] : null,
  }
}

/** What waits for a person, what has the least time left first. */
function waitingLines(office: Office): DecideLine[] {
  const lines = sendLines(office, 'listWaiting', { limit: mostLines })
  const slices = new Map<string, Slice | null>()
  const sliceOf = (clientId: string) => {
    if (!slices.has(clientId)) slices.set(clientId, office.sliceOf(clientId))
    return slices.get(clientId) ?? null
  }
  return lines
    .map((line): DecideLine => {
      const slice = sliceOf(line.clientId)
      const send = slice?.facts.sends.find(({ id }) => id === line.id)
      return { ...line, lastChanceAt: slice && send ? lastChanceOf(send, slice) : null }
    })
    .sort(
      (one, other) =>
        (one.lastChanceAt ?? Infinity) - (other.lastChanceAt ?? Infinity) || one.shownAt - other.shownAt,
    )
}

/** A message as its recipient will see it at the moment it is to go. */
function sendPreview({ office }: RunningOffice, id: string): SendPreview {
  const send = readSend(office.store.statements, id)
  const slice = send && office.sliceOf(send.clientId)
  if (!send || !slice) throw new Refusal('not found', 'There is no such message.')
  const at = Math.max(office.clock.now(), send.dueAt ?? 0)
  const verdict = checkAtSending(send, slice, at)
  const message = verdict.goes ? verdict.message : null
  const lines = sendLines(office, 'listOfClient', { clientId: send.clientId })
  const index = lines.findIndex((one) => one.id === id)
  const isGone = ({ state }: SendLine) => state === 'sent' || state === 'bounced'
  const booking = slice.facts.bookings.find((one) => one.id === send.subject.id)
  return {
    subject: message?.subject ?? '',
    html: message?.html ?? null,
    text: message?.text ?? '',
    problem: verdict.goes ? null : (verdict.state && verdict.reason.sentence) || null,
    personalLine: send.decision.personalLine ?? '',
    hasLetter: send.stepKind === 'mail',
    before: lines.filter(isGone).at(-1) ?? null,
    after:
      lines.slice(index + 1).find(({ state }) => ['ready', 'approved', 'expected'].includes(state)) ?? null,
    bookingStartAt: booking?.startAt ?? null,
  }
}

function desk({ office }: RunningOffice) {
  const settings = office.settings.required()
  const zone = settings.zones.zone(settings.business.zone)
  const now = office.clock.now()
  const today = dayAt(zone, now)
  const times = {
    from: instantAt(zone, today, 0),
    to: instantAt(zone, today + 1, 0),
    clientId: null,
    limit: mostLines,
  }
  const wentOut = sendLines(office, 'listByTime', { ...times, statesJson: asJson(['sent']) })
  const states = ['ready', 'approved', 'waiting', 'expected', 'sending']
  return {
    decide: waitingLines(office),
    trouble: sendLines(office, 'listTrouble', {}),
    wentOut: wentOut.reverse(),
    stillToday: sendLines(office, 'listByTime', { ...times, statesJson: asJson(states) }),
  }
}

/** What the allowance will hold back of everything that is on its way. */
function forecastOf({ office }: RunningOffice) {
  const { business, zones } = office.settings.required()
  const { statements } = office.store
  const coming = statements.all('dueMessages', { until: Number.MAX_SAFE_INTEGER }).map((row) => ({
    id: String(row['id']),
    dueAt: Number(row['dueAt']),
    isPromotional: row['purpose'] === 'promotional',
  }))
  const sentSince = (from: number) => Number(statements.one('sentSince', { from })?.['count'] ?? 0)
  const { allowance } = business
  const delays = forecastDelays(allowance, zones.zone(business.zone), office.clock.now(), coming, sentSince)
  return {
    allowance,
    waiting: delays.length,
    lastAt: delays.length === 0 ? null : Math.max(...delays.map(({ at }) => at)),
  }
}

export function sendRoutes(router: Router, running: RunningOffice) {
  const { office, commands } = running
  const { statements } = office.store
  serve(router, statements, endpoints.desk, () => desk(running))
  serve(router, statements, endpoints.forecast, () => forecastOf(running))
  serve(router, statements, endpoints.sends, ({ query }) => {
    const settings = office.settings.required()
    const zone = settings.zones.zone(settings.business.zone)
    const sends = sendLines(office, 'listByTime', {
      from: instantAt(zone, epochDayOf(query.from), 0),
      to: instantAt(zone, epochDayOf(query.to) + 1, 0),
      clientId: query.clientId ?? null,
      statesJson: asJson(query.states.length === 0 ? sendState.options : query.states),
      limit: mostLines + 1,
    })
    return { sends: sends.slice(0, mostLines), isCut: sends.length > mostLines }
  })
  serve(router, statements, endpoints.send, ({ parameters }) => sendView(running, parameters.id))
  serve(router, statements, endpoints.sendPreview, ({ parameters }) => sendPreview(running, parameters.id))
  serve(router, statements, endpoints.writePersonalLine, ({ parameters, body, personId }) =>
    valueOf(
      commands.writePersonalLine(
        { id: body.commandId, personId, name: 'writePersonalLine' },
        parameters.id,
        body.line,
      ),
    ),
  )
  serve(router, statements, endpoints.decideSend, ({ parameters, body, personId }) =>
    valueOf(
      commands.decideSend({ id: body.commandId, personId, name: 'decideSend' }, parameters.id, body.decision),
    ),
  )
}
