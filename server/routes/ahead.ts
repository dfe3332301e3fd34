import type { Router } from 'express'
import type { z } from 'zod'
import { instantOfLocal } from '#core/time/localText.ts'
import { endpoints } from '#core/api/endpoints.ts'
import type { AskedManyAct } from '#core/api/messageEndpoints.ts'
import { manyAnswer } from '#core/api/announcements.ts'
import { type LoadView } from '#core/api/views.ts'
import { windowsAt } from '#core/engine/atSending/allowance.ts'
import type { ManyAct } from '#core/engine/commands/manySends.ts'
import { forecastDelays, surelyFits } from '#core/insight/forecast.ts'
import { byLocalDay, crowdedDays, fullestWeek, muchInAWeek, type QuarterCount } from '#core/insight/load.ts'
import { sendState } from '#core/model/send.ts'
import { dayMs, isoDateOf, type EpochDay } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { asJson, fromJson } from '../db/columns.ts'
import type { Application } from '../engine/application.ts'
import { sentSince } from '../db/sendStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { businessZone, spanOfDates } from './businessTime.ts'
import { sendLines } from './lines.ts'
import { askedOf, asking, serve, valueOf } from './route.ts'

function chosen(application: Application, query: z.output<typeof endpoints.sendDays.query>) {
  const { states, from, to, clientId, serviceId, sequenceId, letterId } = query
  return {
    ...spanOfDates(application, from, to),
    clientId: clientId ?? null,
    serviceId: serviceId ?? null,
    sequenceId: sequenceId ?? null,
    letterId: letterId ?? null,
    statesJson: asJson(states.length === 0 ? sendState.options : states),
  }
}

const isChosen = ({ clientId, serviceId, sequenceId, letterId }: z.output<typeof endpoints.sendDays.query>) =>
  [clientId, serviceId, sequenceId, letterId].some((one) => one !== undefined)

const quarters = (rows: readonly { readonly quarter: unknown; readonly count: unknown }[]) =>
  rows.map(({ quarter, count }): QuarterCount => ({ quarter: Number(quarter), count: Number(count) }))

/** How many messages in some states each day has, as far as there are any. */
function daysOfAll(
  application: Application,
  { from, to, statesJson }: { from: number; to: number; statesJson: string },
): ReadonlyMap<EpochDay, number> {
  const { statements } = application.store
  const zone = businessZone(application)
  const span = statements.one('spanOfSends')
  const days = new Map<EpochDay, number>()
  if (span?.['first'] == null) return days
  const lastDay = dayAt(zone, Math.min(to - 1, Number(span['last'])))
  for (let day = dayAt(zone, Math.max(from, Number(span['first']))); day <= lastDay; day += 1) {
    const within = { from: instantAt(zone, day, 0), to: instantAt(zone, day + 1, 0), statesJson }
    const count = Number(statements.one('countAllBetween', within)?.['count'] ?? 0)
    if (count > 0) days.set(day, count)
  }
  return days
}

/** Looking for weeks with much begins and ends so far outside the days asked for. */
const weekAround = 6 * dayMs

/** More clients who get much are not named. */
const mostCrowded = 50

interface Stretch {
  readonly from: number
  readonly to: number
}

/** Clients who get much within a week that lies in some days, at least in part. */
function crowdedClients(
  application: Application,
  span: Stretch,
  around: Stretch,
): LoadView['crowdedClients'] {
  const { statements } = application.store
  const zone = businessZone(application)
  const asked = { ...around, now: application.clock.now(), atLeast: muchInAWeek, most: mostCrowded }
  return statements.all('clientsWithMuch', asked).flatMap(({ clientId }) => {
    const row = statements.one('momentsOfClient', { ...around, clientId: String(clientId) })
    const week = fullestWeek(fromJson(row?.['momentsJson']) as number[])
    if (!week || week.messages < muchInAWeek || week.toAt < span.from || week.fromAt >= span.to) return []
    return [
      {
        clientId: String(clientId),
        clientName: String(row?.['clientName']),
        messages: week.messages,
        from: isoDateOf(dayAt(zone, week.fromAt)),
        to: isoDateOf(dayAt(zone, week.toAt)),
      },
    ]
  })
}

function loadOf(application: Application, query: { from: string; to: string }): LoadView {
  const { allowance } = application.settings.required().business
  const zone = businessZone(application)
  const span = spanOfDates(application, query.from, query.to)
  const now = application.clock.now()
  const rows = application.store.statements.all('messagesByQuarter', { ...span, now })
  const of = (part: 'count' | 'waiting') =>
    byLocalDay(
      rows.map((row): QuarterCount => ({ quarter: Number(row['quarter']), count: Number(row[part]) })),
      zone,
    )
  const all = of('count')
  const waiting = of('waiting')
  const crowded = crowdedDays(all)
  const { perDay } = allowance
  const around = { from: span.from - weekAround, to: span.to + weekAround }
  return {
    allowance,
    days: [...all].map(([day, messages]) => ({
      on: isoDateOf(day),
      messages,
      waiting: waiting.get(day) ?? 0,
      isOverAllowance: perDay !== null && messages > perDay,
      isCrowded: crowded.has(day),
    })),
    crowdedClients: crowdedClients(application, span, around),
  }
}

/** What the allowance will hold back of everything that is on its way. */
function forecastOf({ application }: RunningApplication) {
  const { business, mailAccounts } = application.settings.required()
  const { statements } = application.store
  const { allowance } = business
  // Without an allowance nothing waits for it.
  if (windowsAt(allowance, businessZone(application), application.clock.now()).length === 0) {
    return { allowance, waiting: 0, lastAt: null }
  }
  const now = application.clock.now()
  const zone = businessZone(application)
  const counted = (from: number) => sentSince(statements, from)
  // Nothing has gone after now: there only what is on the wire counts, the same for every moment.
  const onTheWire = counted(now + 1)
  const sent = (from: number) => (from > now ? onTheWire : counted(from))
  // Counting goes by an index; looking at each is for where it is tight.
  if (surelyFits(allowance, zone, now, quarters(statements.all('dueByQuarter')), sent)) {
    return { allowance, waiting: 0, lastAt: null }
  }
  // What goes through another account by its purpose is none of this one's.
  const elsewhere = mailAccounts.flatMap(({ purposes }) => purposes.map(String))
  const coming = statements
    .all('dueMessages', { until: Number.MAX_SAFE_INTEGER, through: null })
    .filter(({ purpose }) => !elsewhere.includes(String(purpose)))
    .map(({ id, dueAt, purpose }) => ({
      id: String(id),
      dueAt: Number(dueAt),
      isPromotional: purpose === 'promotional',
    }))
  const delays = forecastDelays(allowance, zone, now, coming, sent)
  return {
    allowance,
    waiting: delays.length,
    lastAt: delays.length === 0 ? null : Math.max(...delays.map(({ at }) => at)),
  }
}

const actOf = (application: Application, asked: AskedManyAct): ManyAct =>
  asked.act === 'move'
    ? { act: 'move', to: instantOfLocal(businessZone(application), asked.toLocal) }
    : { act: asked.act }

/** All messages, day by day, and what can be done with many of them at once. */
export function aheadRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.forecast, () => forecastOf(running))
  serve(router, statements, endpoints.load, ({ query }) => loadOf(application, query))
  serve(router, statements, endpoints.sends, ({ query }) => ({
    sends: sendLines(application, 'listByTime', {
      ...chosen(application, query),
      limit: query.limit,
      offset: query.offset,
    }),
  }))
  serve(router, statements, endpoints.sendDays, ({ query }) => {
    const asked = chosen(application, query)
    const days = isChosen(query)
      ? byLocalDay(
          quarters(application.store.statements.all('countByQuarter', asked)),
          businessZone(application),
        )
      : daysOfAll(application, asked)
    return { days: [...days].map(([day, count]) => ({ on: isoDateOf(day), count })) }
  })
  serve(router, statements, endpoints.askAboutSends, ({ body, personId }) => {
    const call = asking('actOnSends', personId)
    const { announcement, answer } = askedOf(() =>
      valueOf(commands.actOnSends(call, body.ids, actOf(application, body.act))),
    )
    return { ...announcement, ...manyAnswer.parse(answer) }
  })
  serve(router, statements, endpoints.actOnSends, ({ body, called }) => {
    const call = called('actOnSends')
    const answer = valueOf(commands.actOnSends(call, body.ids, actOf(application, body.act)))
    return { done: answer.done, refused: [...answer.refused] }
  })
}
