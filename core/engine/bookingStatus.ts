import { canBecome, type Booking, type BookingStatus } from '../model/booking.ts'
import type { EventKind } from '../model/event.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../planning/slice.ts'
import { hourMs } from '../time/calendar.ts'
import { dateAndTime } from '../time/format.ts'
import { appendEvent, type EngineContext } from './context.ts'
import type { Effect } from './effects.ts'
import type { Manner } from './react.ts'
import { settlingFrom, undoing } from './settling.ts'

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
): readonly Effect[] {
  const { id, clientId } = booking
  const event = appendEvent(context, kind, { clientId, subject: { kind: 'booking', id } }, sentence)
  return [{ kind: 'put booking', booking }, ...momentsOf(settings, booking), event]
}

/** The moments at which a booking has to be looked at again. */
export function momentsOf(settings: Settings, booking: Booking): readonly Effect[] {
  const { id: key, clientId, endAt } = booking
  const over = { kind: 'event over', key, clientId, at: endAt } as const
  return [completion(settings, booking), settlement(booking), { kind: 'set due moment', moment: over }]
}

/** A change of a booking as effects, and what is special about how it acts. */
export interface BookingChange {
  readonly effects: readonly Effect[]
  readonly manner: Manner
}

export function withStatus(booking: Booking, status: BookingStatus, now: number): Booking {
  return {
    ...booking,
    status,
    statusAt: { ...booking.statusAt, [status]: now },
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

/** A booking whose cancellation or miss never happened: it stands as it did before. */
export function withoutEnding(booking: Booking): Booking {
  const from = booking.settling?.from
  const revision = booking.revision + 1
  return {
    ...booking,
    status: from?.status ?? 'requested',
    statusAt: from?.statusAt ?? without(without(booking.statusAt, 'cancelled'), 'missed'),
    revision,
  }
}

/** A booking that had ended and is made again: its status and its making are of this moment, without a settle time. */
export function madeAgain(booking: Booking, now: number): Booking {
  const { startAt, endAt, revision } = booking
  return {
    ...booking,
    status: 'confirmed',
    statusAt: { confirmed: now },
    madeAt: now,
    timesSetAt: now,
    told: { startAt, endAt },
    settling: null,
    revision: revision + 1,
  }
}

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
  if (isAhead && isEndingUnsettled(booking, now) && booking.settling?.from?.status === 'confirmed') {
    const next = withoutEnding(booking)
    return change(next, 'The booking stands after all', { startsNothing: true, undoes: undoing(next) })
  }
  if (isAhead && isEnded(booking) && !isEndingUnsettled(booking, now)) {
    return change(madeAgain(booking, now), 'Booked again', {})
  }
  const next = { ...withStatus(booking, 'confirmed', now), settling: null }
  const isUndone = isAhead && isEndingUnsettled(booking, now)
  return change(next, 'Booking confirmed', {
    startsNothing: isEnded(booking) && !isAhead,
    undoes: isUndone && booking.settling ? { bookingId: booking.id, since: booking.settling.since } : null,
  })
}

export type StatusByHand = 'confirmed' | 'cancelled' | 'missed'

const becoming: Readonly<Record<StatusByHand, string>> = {
  confirmed: 'confirmed',
  cancelled: 'cancelled',
  missed: 'marked as missed',
}

/** Gives a booking another status. Confirming ends its settle time; the others settle. */
export function statusChange(
  { settings }: Slice,
  booking: Booking,
  status: StatusByHand,
  context: EngineContext,
): Result<BookingChange> {
  const isAllowed =
    canBecome(booking.status, status) && !(booking.status === 'completed' && status === 'confirmed')
  if (!isAllowed) {
    return refused('not allowed now', `A booking that is ${booking.status} cannot be ${becoming[status]}.`)
  }
  if (status === 'confirmed') return done(confirmedChange(booking, settings, context))
  const settling = settlingFrom(booking, settings, context.now)
  const next = { ...withStatus(booking, status, context.now), settling }
  const sentence = `Booking ${status}: ${bookingWords(settings, next)}.`
  return done({ effects: bookingChange(settings, next, `booking ${status}`, sentence, context), manner: {} })
}
