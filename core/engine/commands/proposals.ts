import { firstDayMeant, type AnswerRead } from '../../incoming/readAnswer.ts'
import type { Booking } from '../../model/booking.ts'
import { fullName, primaryContact } from '../../model/client.ts'
import type { Incoming } from '../../model/incoming.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Proposal } from '../../model/proposal.ts'
import { aboutOf } from '../../planning/about.ts'
import { placeZone, serviceOf, type Slice } from '../../planning/slice.ts'
import {
  epochDayOf,
  isoDateOf,
  minuteMs,
  minuteOfDay,
  timeOfDayOf,
  type EpochDay,
} from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import { localAt } from '../../time/localText.ts'
import { dayAt } from '../../time/zones.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { bookingWords } from '../following/bookingStatus.ts'
import { nameOfRun } from '../following/stopRuns.ts'
import { cancelForClient, confirmBooking, moveBooking, type SeatsTaken } from './bookingCommands.ts'
import { happened, withoutPromotional } from './dealingCommands.ts'
import { stopRuns } from './runCommands.ts'
import { addTask } from './taskCommands.ts'

/** What an answer seems to want, in a sentence, and the one act that follows from it; null: nothing can be proposed. */
export interface Proposed {
  readonly sentence: string
  readonly proposal: Proposal | null
}

const nothing = (sentence: string): Proposed => ({ sentence, proposal: null })

interface About {
  readonly slice: Slice
  readonly read: AnswerRead
  readonly incoming: Incoming
  readonly today: EpochDay
  readonly now: number
}

const isAhead = ({ status, startAt }: Booking, now: number) =>
  (status === 'requested' || status === 'confirmed') && startAt > now

/** The booking an answer is about: that of the message it answers, that on the day it names, the only one ahead. */
function bookingMeant({ slice, read, incoming, now }: About): Booking | null {
  const { settings, facts } = slice
  const ahead = facts.bookings.filter((one) => isAhead(one, now))
  const send = facts.sends.find(({ id }) => id === incoming.match.sendId)
  // What was answered says what it is about: an enquiry is none of the bookings.
  if (send?.subject.kind === 'enquiry') return null
  const about = send && aboutOf(send.subject, facts).booking
  const answered = ahead.find(({ id }) => id === about?.id)
  if (answered) return answered
  const day = firstDayMeant(read)
  const on = ahead.filter(
    (one) => dayAt(placeZone(settings, serviceOf(settings, one.serviceId)), one.startAt) === day,
  )
  const [only] = on.length > 0 ? on : ahead
  return only && (on.length === 1 || ahead.length === 1) ? only : null
}

/** Who answers, by the name they are called by. */
function nameOf({ slice, incoming }: About): string {
  const { client } = slice.facts
  const contact = client.contacts.find(
    ({ email }) => email?.toLowerCase() === incoming.from.address.toLowerCase(),
  )
  return fullName(client, contact ?? primaryContact(client))
}

const task = ({ today, incoming }: About, title: string, day: EpochDay | null): Proposal => ({
  act: 'set task',
  task: {
    title: title.slice(0, 200),
    dueOn: isoDateOf(Math.max(today, day ?? today)),
    personId: incoming.personId,
  },
})

function cancelling(about: About): Proposed {
  const booking = bookingMeant(about)
  if (!booking) return nothing('It wants to cancel, and it is not clear which booking.')
  const words = bookingWords(about.slice.settings, booking)
  return {
    sentence: `It wants to cancel: ${words}.`,
    proposal: { act: 'cancel booking', bookingId: booking.id },
  }
}

/** A booking on another day, at its own time or at the one that is named. */
function movedTo(
  { slice: { settings } }: About,
  booking: Booking,
  day: EpochDay,
  minute: number | null,
): Proposal {
  const zone = placeZone(settings, serviceOf(settings, booking.serviceId))
  const time = minute === null ? localAt(zone, booking.startAt).slice(11) : timeOfDayOf(minute)
  const startLocal = `${isoDateOf(day)}T${time}`
  const minutes =
    epochDayOf(startLocal.slice(0, 10)) * 1440 +
    minuteOfDay(time) +
    (booking.endAt - booking.startAt) / minuteMs
  const endLocal = `${isoDateOf(Math.floor(minutes / 1440))}T${timeOfDayOf(minutes % 1440)}`
  return { act: 'move booking', bookingId: booking.id, startLocal, endLocal }
}

function moving(about: About): Proposed {
  const { read } = about
  const booking = bookingMeant({ ...about, read: { ...read, date: null } })
  const day = firstDayMeant(read)
  const when = day === null ? '' : ` ${longDate(day)} is named.`
  if (!booking)
    return {
      sentence: `It wants another time.${when}`,
      proposal: task(about, `${nameOf(about)} wants another time`, null),
    }
  const words = bookingWords(about.slice.settings, booking)
  if (day === null || read.date === null || read.date.to > day || day < about.today) {
    return {
      sentence: `It wants another time for: ${words}.${when}`,
      proposal: task(about, `${nameOf(about)} wants another time: ${words}`, null),
    }
  }
  return {
    sentence: `It wants another time for: ${words}.${when}`,
    proposal: movedTo(about, booking, day, read.date.minute),
  }
}

/** Sequences at work for something else than a booking that is still ahead. */
function sequencesBeside({ slice, now }: About): readonly string[] {
  const { runs, resting, bookings } = slice.facts
  const ahead = bookings.filter((one) => isAhead(one, now)).map(({ id }) => id)
  const open = runs.filter(
    ({ id, state, subject }) => state === 'running' && !resting.has(id) && !ahead.includes(subject.id),
  )
  return [...new Set(open.map(({ sequenceId }) => sequenceId))].slice(0, 50)
}

function noLongerWanted(about: About): Proposed {
  const ids = sequencesBeside(about)
  const sentence = 'They need nothing any more.'
  if (ids.length === 0)
    return { sentence: `${sentence} Nothing is at work for them.`, proposal: { act: 'nothing' } }
  return { sentence, proposal: { act: 'stop sequences', sequenceIds: [...ids] } }
}

function later(about: About): Proposed {
  const day = firstDayMeant(about.read)
  if (day === null) return nothing('It says later, and not when.')
  return {
    sentence: `Not before ${longDate(day)}.`,
    proposal: task(about, `Write to ${nameOf(about)} again`, day),
  }
}

function calling(about: About): Proposed {
  const { date } = about.read
  const day = firstDayMeant(about.read)
  const { phone } = primaryContact(about.slice.facts.client)
  const at = date?.minute == null ? '' : ` at ${timeOfDayOf(date.minute)}`
  const number = phone === '' ? '' : `, ${phone}`
  const when = day === null ? '' : ` ${longDate(day)}${at}.`
  return {
    sentence: `It wants to be called.${when}`,
    proposal: task(about, `Call ${nameOf(about)}${at}${number}`, day),
  }
}

function agreeing(about: About): Proposed {
  const booking = bookingMeant(about)
  const { settings } = about.slice
  if (booking?.status === 'requested') {
    return {
      sentence: `It agrees to: ${bookingWords(settings, booking)}.`,
      proposal: { act: 'confirm booking', bookingId: booking.id },
    }
  }
  const day = firstDayMeant(about.read)
  if (day === null) return nothing('It agrees: read to what.')
  return {
    sentence: `It agrees to ${longDate(day)}.`,
    proposal: task(about, `Confirm ${longDate(day)} to ${nameOf(about)}`, null),
  }
}

function stoppingMail(about: About): Proposed {
  const sentence = 'They want no more mail.'
  if (about.slice.facts.client.takesPromotional) return { sentence, proposal: { act: 'no promotional mail' } }
  const ids = sequencesBeside(about)
  return ids.length === 0
    ? {
        sentence: `${sentence} They get no promotional mail, and nothing else is planned.`,
        proposal: { act: 'nothing' },
      }
    : { sentence, proposal: { act: 'stop sequences', sequenceIds: [...ids] } }
}

/** What an answer asks for, and the one act that is proposed. Nothing is done by itself. */
export function proposedFor(slice: Slice, incoming: Incoming, read: AnswerRead, now: number): Proposed {
  const { zones, business } = slice.settings
  const about: About = { slice, read, incoming, now, today: dayAt(zones.zone(business.zone), now) }
  const proposed = {
    'stop writing': stoppingMail,
    cancel: cancelling,
    move: moving,
    'no longer wanted': noLongerWanted,
    later,
    call: calling,
    agrees: agreeing,
    asks: () => nothing('It asks something: answer it.'),
    thanks: () => ({ sentence: 'It says thank you.', proposal: { act: 'nothing' } as const }),
    unknown: () => nothing('Rules cannot tell what it wants: read it.'),
  }[read.intent](about)
  if (read.also.length === 0) return proposed
  return { ...proposed, sentence: `${proposed.sentence} It says something else as well: read it through.` }
}

/** What an act is called, with what it is done to. */
export function proposalWords(proposal: Proposal, { settings, facts }: Slice): string {
  switch (proposal.act) {
    case 'cancel booking':
      return 'Cancel the booking'
    case 'confirm booking':
      return 'Confirm the booking'
    case 'move booking':
      return `Move the booking to ${longDateOf(proposal.startLocal)}`
    case 'set task':
      return `Set the task “${proposal.task.title}” for ${longDateOf(proposal.task.dueOn)}`
    case 'stop sequences': {
      const names = facts.runs
        .filter(({ sequenceId }) => proposal.sequenceIds.includes(sequenceId))
        .map((run) => `“${nameOfRun({ settings, facts }, run)}”`)
      return `Stop ${[...new Set(names)].join(', ')}`
    }
    case 'no promotional mail':
      return 'Send no promotional mail any more'
    case 'nothing':
      return 'Done, nothing to do'
  }
}

const longDateOf = (local: string) => {
  const [date = '', time] = local.split('T')
  return `${longDate(epochDayOf(date))}${time === undefined ? '' : `, ${time}`}`
}

function bookingOf({ facts }: Slice, id: string): Result<Booking> {
  const booking = facts.bookings.find((one) => one.id === id)
  return booking ? done(booking) : refused('not found', 'There is no such booking.')
}

function noMoreMail(slice: Slice, context: EngineContext): readonly Effect[] {
  const { client } = slice.facts
  if (!client.takesPromotional) return []
  const did = { kind: 'opted out', name: '', at: context.now } as const
  const told = happened(client.id, did, context, 'Wrote that they want no more mail.')
  return conclude(slice, [...withoutPromotional(client), ...told], context)
}

/** Why a client's answer made somebody cancel, for the history. */
const askedIn = ({ subject }: Incoming) =>
  subject === '' ? 'Asked for by mail' : `Asked for by mail: ${subject}`

function stopSequences(
  slice: Slice,
  ids: readonly string[],
  context: EngineContext,
): Result<readonly Effect[]> {
  let effects: readonly Effect[] = []
  for (const id of ids) {
    const stopped = stopRuns({ ...slice, facts: withEffects(slice.facts, effects) }, id, context)
    if (!stopped.ok) return stopped
    effects = [...effects, ...stopped.value]
  }
  return done(effects)
}

/** Does what was proposed, as a person said. */
export function carryOutProposal(
  slice: Slice,
  incoming: Incoming,
  proposal: Proposal,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  switch (proposal.act) {
    case 'cancel booking': {
      const found = bookingOf(slice, proposal.bookingId)
      if (!found.ok) return found
      return cancelForClient(
        slice,
        proposal.bookingId,
        found.value.revision,
        askedIn(incoming).slice(0, 200),
        context,
      )
    }
    case 'confirm booking': {
      const found = bookingOf(slice, proposal.bookingId)
      return found.ok ? confirmBooking(slice, proposal.bookingId, found.value.revision, context) : found
    }
    case 'move booking': {
      const found = bookingOf(slice, proposal.bookingId)
      if (!found.ok) return found
      const { startLocal, endLocal } = proposal
      return moveBooking(
        slice,
        proposal.bookingId,
        found.value.revision,
        { startLocal, endLocal },
        seatsTaken,
        context,
      )
    }
    case 'set task':
      return addTask(
        slice.settings,
        { clientId: slice.facts.client.id, subject: null },
        proposal.task,
        context,
      )
    case 'stop sequences':
      return stopSequences(slice, proposal.sequenceIds, context)
    case 'no promotional mail':
      return done(noMoreMail(slice, context))
    case 'nothing':
      return done([])
  }
}
