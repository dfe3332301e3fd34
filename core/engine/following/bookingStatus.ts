import {
  canBecome,
  freshHistory,
  noOwnStatus,
  type Booking,
  type Cancellation,
  type BookingHistory,
  type BookingStatus,
} from '../../model/booking.ts'
import type { EventKind } from '../../model/event.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { moneyIn } from '../../letters/language.ts'
import { hourMs } from '../../time/calendar.ts'
import { dateAndTime } from '../../time/format.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { comingMoment } from './ownStatusComing.ts'
import type { Manner } from './react.ts'
import { settlingFrom, undoing, withUndone } from './bookingSettling.ts'

/** A booking as a person is told of it: service, date and time. */
export function bookingWords(settings: Settings, booking: Booking): string {
  const service = serviceOf(settings, booking.serviceId)
  return `${service.name}, ${dateAndTime(placeZone(settings, service), booking.startAt)}`
}

function completion(settings: Settings, booking: Booking): Effect {
  const moment = { kind: 'booking completes', key: booking.id, clientId: booking.clientId } as const
  const at = booking.endAt + settings.business.completesAfterHours * hourMs
  return booking.status === 'confirmed'
    ? { kind: 'set due moment', moment: { ...moment, at } }
    : { kind: 'clear due moment', moment }
}

function settlement({ id, clientId, settling }: Booking): Effect {
  const moment = { kind: 'settle ends', key: id, clientId } as const
  return settling
    ? { kind: 'set due moment', moment: { ...moment, at: settling.until } }
    : { kind: 'clear due moment', moment }
}

/** A changed booking with the moments that hang on it, and the event that tells of it. */
export function bookingChange(
  settings: Settings,
  booking: Booking,
  kind: EventKind,
  sentence: string,
  context: EngineContext,
  /** Which one, where an event of this kind goes by name. */
  name = '',
): readonly Effect[] {
  const { id, clientId } = booking
  const event = appendEvent(context, kind, { clientId, subject: { kind: 'booking', id }, name }, sentence)
  return [{ kind: 'put booking', booking }, ...momentsOf(settings, booking), event]
}

/** The moments at which a booking has to be looked at again. */
export function momentsOf(settings: Settings, booking: Booking): readonly Effect[] {
  const { id: key, clientId, endAt } = booking
  const over = { kind: 'event over', key, clientId, at: endAt } as const
  return [
    completion(settings, booking),
    settlement(booking),
    { kind: 'set due moment', moment: over },
    ...comingMoment(settings, booking),
  ]
}

/** A change of a booking as effects, and what is special about how it acts. */
export interface BookingChange {
  readonly effects: readonly Effect[]
  readonly manner: Manner
}

/** A history that knows of a status, too. */
export function withReached(history: BookingHistory, status: string): BookingHistory {
  return history.reached.includes(status) ? history : { ...history, reached: [...history.reached, status] }
}

export function withStatus(booking: Booking, status: BookingStatus, now: number): Booking {
  return {
    ...booking,
    status,
    own: { ...booking.own, status: null, settling: null },
    cancellation: null,
    statusAt: { ...booking.statusAt, [status]: now },
    history: withReached(booking.history, status),
    revision: booking.revision + 1,
  }
}

const isEnded = ({ status }: Booking) => status === 'cancelled' || status === 'missed'

/** Cancelled or missed, and the change is still settling: confirmed or moved ahead now, it never happened. */
export function isEndingUnsettled(booking: Booking, now: number): boolean {
  return isEnded(booking) && booking.settling !== null && booking.settling.until > now
}

/** The moments of all statuses but one. */
export function without(statusAt: Booking['statusAt'], status: BookingStatus): Booking['statusAt'] {
  return Object.fromEntries(Object.entries(statusAt).filter(([name]) => name !== status))
}

/** The status a booking had before it ended. */
function statusBefore({ statusAt }: Booking): 'requested' | 'confirmed' {
  const { requested = -Infinity, confirmed = -Infinity } = statusAt
  return requested > confirmed ? 'requested' : 'confirmed'
}

/** A booking whose cancellation or miss never happened: it has the status it had before. */
export function withoutEnding(booking: Booking, now: number): Booking {
  const { settling, history, revision } = booking
  const from = settling?.from
  return {
    ...booking,
    status: from?.status ?? 'requested',
    own: from?.own ?? noOwnStatus,
    cancellation: null,
    statusAt: from?.statusAt ?? without(without(booking.statusAt, 'cancelled'), 'missed'),
    history: withUndone(
      { ...history, reached: from?.history.reached ?? ['requested'] },
      settling?.since ?? now,
      now,
      'all',
    ),
    revision: revision + 1,
  }
}

/**
 * A booking that had ended and is made again: it has the status it had before, or is confirmed by that. Its status and
 * its making are of this moment, without a settle time.
 */
export function madeAgain(booking: Booking, now: number, asked?: 'confirmed'): Booking {
  const { startAt, endAt, revision, history } = booking
  const status = asked ?? statusBefore(booking)
  return {
    ...booking,
    status,
    own: noOwnStatus,
    cancellation: null,
    statusAt: { [status]: now },
    madeAt: now,
    timesSetAt: now,
    history: { ...freshHistory(status, now), reached: withReached(history, status).reached },
    told: { startAt, endAt, since: now },
    settling: null,
    revision: revision + 1,
  }
}

/** The settle time that goes on when a booking is confirmed: that of a change, not that of its own making. */
const settlingOn = ({ settling }: Booking) => (settling?.from ? settling : null)

function confirmedChange(booking: Booking, settings: Settings, context: EngineContext): BookingChange {
  const { now } = context
  const isAhead = booking.startAt > now
  const change = (next: Booking, words: string, manner: Manner): BookingChange => ({
    effects: bookingChange(
      settings,
      next,
      'booking confirmed',
      `${words}: ${bookingWords(settings, next)}.`,
      context,
    ),
    manner,
  })
  const { settling } = booking
  if (isEndingUnsettled(booking, now) && settling) {
    const before = withoutEnding(booking, now)
    if (settling.from && settling.from.status !== 'requested') {
      const undoes = undoing(before) ?? { bookingId: booking.id, since: settling.since, undone: 'the ending' }
      return change(before, 'The booking stands after all', { startsNothing: true, undoes })
    }
    const next = { ...withStatus(before, 'confirmed', now), settling: settlingOn(booking) }
    const undoes = { bookingId: booking.id, since: settling.since, undone: 'the ending' } as const
    return change(next, 'Booking confirmed', { undoes })
  }
  if (isAhead && isEnded(booking)) return change(madeAgain(booking, now, 'confirmed'), 'Booked again', {})
  const next = { ...withStatus(booking, 'confirmed', now), settling: settlingOn(booking) }
  return change(next, 'Booking confirmed', { startsNothing: isEnded(booking) })
}

export type StatusByHand = 'confirmed' | 'cancelled' | 'missed' | 'completed'

const becoming: Readonly<Record<StatusByHand, string>> = {
  confirmed: 'confirmed',
  cancelled: 'cancelled',
  missed: 'marked as missed',
  completed: 'marked as completed',
}

/** A booking that has taken place, as a person says before it is so by itself. Nothing of that settles. */
function completedByHand(
  settings: Settings,
  booking: Booking,
  context: EngineContext,
): Result<BookingChange> {
  if (booking.startAt > context.now) {
    return refused('not allowed now', 'This booking is still ahead: it cannot have taken place.')
  }
  const next = withStatus(booking, 'completed', context.now)
  const sentence = `Booking completed: ${bookingWords(settings, next)}.`
  return done({ effects: bookingChange(settings, next, 'booking completed', sentence, context), manner: {} })
}

const cancelledBy = (cancellation: Cancellation | null) =>
  cancellation?.by === 'client' ? ' by the client' : ''

/** Why it was cancelled and what that costs, as further sentences; empty: nothing is known of that. */
function because(cancellation: Cancellation | null): string {
  const { reason = '', feeCents = 0 } = cancellation ?? {}
  const why = reason === '' ? '' : ` “${reason}”`
  return feeCents === 0 ? why : `${why} Fee: ${moneyIn('en', feeCents)}.`
}

/** Gives a booking another status. Confirming ends its settle time; the others settle. */
export function statusChange(
  { settings }: Slice,
  booking: Booking,
  status: StatusByHand,
  context: EngineContext,
  /** Where it is cancelled: by whom, why and what it costs. */
  cancellation: Cancellation | null = null,
): Result<BookingChange> {
  const isAllowed =
    canBecome(booking.status, status) && !(booking.status === 'completed' && status === 'confirmed')
  if (!isAllowed) {
    return refused('not allowed now', `A booking that is ${booking.status} cannot be ${becoming[status]}.`)
  }
  if (status === 'confirmed') return done(confirmedChange(booking, settings, context))
  if (status === 'completed') return completedByHand(settings, booking, context)
  const settling = settlingFrom(booking, settings, context.now)
  const next = { ...withStatus(booking, status, context.now), settling, cancellation }
  const sentence = `Booking ${status}${cancelledBy(cancellation)}: ${bookingWords(settings, next)}.${because(cancellation)}`
  return done({ effects: bookingChange(settings, next, `booking ${status}`, sentence, context), manner: {} })
}
