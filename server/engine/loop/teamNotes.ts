import {
  lastChanceNote,
  morningNote,
  noteAheadMs,
  type Note,
  type NotedMessage,
} from '#core/insight/notes.ts'
import type { Person } from '#core/model/business.ts'
import type { Send } from '#core/model/send.ts'
import { lastChanceOf } from '#core/planning/lastChance.ts'
import { runFacts } from '#core/planning/runFacts.ts'
import type { Slice } from '#core/planning/slice.ts'
import { sendLabel } from '#core/planning/sendLabel.ts'
import { hourMs, isoDateOf, minuteOfDay } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import { readNoteWishes, type Wishing } from '../../db/settingsStore.ts'
import { readSend } from '../../db/sendStore.ts'
import type { MailAccount } from '../../mail/mailAccount.ts'
import type { Application } from '../application.ts'
import { tellPerson } from '../tellPerson.ts'
import { focusOnSend } from '../../db/livingStore.ts'

/** A note that falls due: whose morning it is, or whose message has its last chance soon. */
export type NoteMoment =
  | { readonly kind: 'morning'; readonly at: number; readonly wishing: Wishing; readonly on: string }
  | { readonly kind: 'last chance'; readonly at: number; readonly sendId: string }

/** Notes by mail to the team. */
export interface TeamNotes {
  /** The next one up to a moment; null: none. */
  next(until: number): NoteMoment | null
  send(moment: NoteMoment): Promise<void>
  /** Leaves one out that something was thrown at. */
  leaveOut(moment: NoteMoment): void
}

/** A morning that is over for longer than this is not told any more. */
const latestMorningMs = 4 * hourMs

function nextMorning(application: Application, wishing: Wishing, now: number): NoteMoment | null {
  const { morningAt } = wishing.wishes
  if (morningAt === null) return null
  const { business, zones } = application.settings.required()
  const zone = zones.zone(business.zone)
  const today = dayAt(zone, now)
  for (const day of [today, today + 1]) {
    const at = instantAt(zone, day, minuteOfDay(morningAt))
    const on = isoDateOf(day)
    const isNoted = application.store.statements.one('readNote', {
      personId: wishing.person.id,
      kind: 'morning',
      key: on,
    })
    if (!isNoted && at > now - latestMorningMs) return { kind: 'morning', at, wishing, on }
  }
  return null
}

function nextLastChance(application: Application): NoteMoment | null {
  const row = application.store.statements.one('nextLastChance')
  return row
    ? { kind: 'last chance', at: Number(row['at']) - 1 - noteAheadMs, sendId: String(row['key']) }
    : null
}

interface Found {
  readonly noted: NotedMessage
  readonly inChargeId: string | null
}

function noted(send: Send, slice: Slice): Found {
  const { settings, facts } = slice
  const run = facts.runs.find(({ id }) => id === send.runId)
  return {
    noted: {
      action: sendLabel(send, settings),
      clientName: facts.client.name,
      lastChanceAt: lastChanceOf(send, slice),
      trouble: send.state === 'waiting' ? '' : (send.reason?.sentence ?? `It has ${send.state}.`),
    },
    inChargeId: (run && runFacts(run, slice)?.personInCharge?.id) ?? null,
  }
}

/** The messages of a query of their ids; each client is read once. */
function foundIn(application: Application, rows: readonly Record<string, unknown>[]): readonly Found[] {
  const byClient = groupedBy(rows, ({ clientId }) => String(clientId))
  return [...byClient].flatMap(([clientId, own]) => {
    const focus = {
      subjectIds: own.map((row) => String(row['subjectId'])),
      runIds: own.map((row) => String(row['runId'])),
    }
    const slice = application.readableSliceOf(clientId, focus)
    return own.flatMap((row) => {
      const send = slice?.facts.sends.find(({ id }) => id === row['id'])
      return slice && send ? [noted(send, slice)] : []
    })
  })
}

/** The owner sees to everything, the others to what they are in charge of. */
const isFor = ({ id, role }: Person, inChargeId: string | null) => role === 'owner' || id === inChargeId

function noteOfMorning(
  application: Application,
  person: Person,
  on: string,
  now: number,
  deskUrl: string,
): Note | null {
  const { business, zones } = application.settings.required()
  const zone = zones.zone(business.zone)
  const yesterday = instantAt(zone, dayAt(zone, now) - 1, 0)
  const mine = (found: readonly Found[]) => found.filter(({ inChargeId }) => isFor(person, inChargeId))
  const { statements } = application.store
  const waiting = mine(foundIn(application, statements.all('waitingIds'))).map((one) => one.noted)
  const recent = statements.all('troubleIds', { since: yesterday })
  const trouble = mine(foundIn(application, recent)).map((one) => one.noted)
  const tasks = statements
    .all('openTasks', { afterId: null, limit: -1 })
    .filter(
      (row) => String(row['dueOn']) <= on && (row['personId'] === null || row['personId'] === person.id),
    )
    .map((row) => ({ title: String(row['title']), clientName: String(row['clientName']) }))
  const due = statements
    .all('enquiriesDue', { dueBy: on, limit: -1 })
    .filter(({ personInChargeId }) => personInChargeId === null || personInChargeId === person.id)
    .map((row) => ({
      title: `Enquiry${row.what === '' ? '' : ` “${String(row.what)}”`}, due in “${String(row.stage)}”`,
      clientName: String(row.clientName),
    }))
  return morningNote({ waiting, trouble, tasks: [...tasks, ...due] }, zone, now, deskUrl)
}

/** The next note to anybody who wishes for one, up to a moment; null: there is none. */
function nextNote(application: Application, people: readonly Wishing[], until: number): NoteMoment | null {
  if (people.length === 0) return null
  const now = application.clock.now()
  const mornings = people.map((one) => nextMorning(application, one, now))
  return [...mornings, nextLastChance(application)]
    .filter((one) => one !== null)
    .filter(({ at }) => at <= until)
    .reduce<NoteMoment | null>((first, one) => (first === null || one.at < first.at ? one : first), null)
}

export function createTeamNotes(
  application: Application,
  account: MailAccount,
  publicUrl: () => string,
): TeamNotes {
  const { statements } = application.store
  const wishing = () => readNoteWishes(statements).filter(({ person }) => person.isActive)
  /**
   * The row stands before the mail is handed over: after a crash it is not sent again. Where the account is at fault it
   * comes again.
   */
  const tell = async (person: Person, kind: NoteMoment['kind'], key: string, note: Note | null) => {
    const row = { personId: person.id, kind, key }
    statements.run('insertNote', { ...row, at: application.clock.now() })
    if (note === null) {
      statements.run('answerNote', { ...row, answer: 'nothing to tell' })
      return
    }
    const outcome = await tellPerson(application, account, person, note, key)
    if (outcome.kind === 'account') statements.run('forgetNote', row)
    else statements.run('answerNote', { ...row, answer: outcome.answer })
    application.changes.publish(['mail'])
  }
  return {
    next(until) {
      const canTell = application.settings.current()?.isSendingOn && account.room() > 0
      return canTell ? nextNote(application, wishing(), until) : null
    },
    leaveOut(moment) {
      const at = application.clock.now()
      const people = moment.kind === 'morning' ? [moment.wishing] : wishing()
      const key = moment.kind === 'morning' ? moment.on : moment.sendId
      for (const { person } of people) {
        statements.run('insertNote', { personId: person.id, kind: moment.kind, key, at })
      }
    },
    async send(moment) {
      if (moment.kind === 'morning') {
        const { person } = moment.wishing
        const deskUrl = `${publicUrl()}/desk`
        const note = noteOfMorning(application, person, moment.on, application.clock.now(), deskUrl)
        await tell(person, 'morning', moment.on, note)
        return
      }
      const id = moment.sendId
      const send = readSend(statements, id)
      const slice = send && application.readableSliceOf(send.clientId, focusOnSend(send))
      const { business, zones } = application.settings.required()
      const what = slice && send.state === 'waiting' ? noted(send, slice) : null
      const note =
        what && lastChanceNote(what.noted, zones.zone(business.zone), `${publicUrl()}/desk/decide/${id}`)
      for (const { person, wishes } of wishing()) {
        const isWanted = wishes.isAtOnceOn && what !== null && isFor(person, what.inChargeId)
        await tell(person, 'last chance', id, isWanted ? note : null)
      }
    },
  }
}
