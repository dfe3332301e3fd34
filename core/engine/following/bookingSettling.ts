import type { Booking, BookingHistory } from '../../model/booking.ts'
import type { StartEvent } from '../../model/startEvent.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import { shiftFromTold } from '../../planning/answers.ts'
import { minuteMs } from '../../time/calendar.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { heldBack } from './heldBack.ts'
import { conclude } from './react.ts'

/** The settling of a booking that changes now: from its first change on, against how it stood before. */
export function settlingFrom(
  before: Booking | null,
  { business }: Settings,
  now: number,
): Booking['settling'] {
  if (before?.settling) return before.settling
  const from = before && {
    status: before.status,
    own: before.own,
    startAt: before.startAt,
    endAt: before.endAt,
    sessions: before.sessions,
    statusAt: before.statusAt,
    timesSetAt: before.timesSetAt,
    history: before.history,
  }
  return { since: now, until: now + business.settleMinutes * minuteMs, from, holdBack: [] }
}

/** What is left to tell when a booking's quick changes have settled; null: nothing. */
export function netChange(booking: Booking, thresholdMinutes: number): StartEvent | null {
  const { settling, status } = booking
  // A change undone while it settled counts as not having happened.
  if (!settling || isAsBefore(booking)) return null
  const { from } = settling
  if (from === null) return status === 'requested' ? 'booking requested' : null
  if (status === 'cancelled' || status === 'missed') {
    return from.status === status ? null : `booking ${status}`
  }
  const shift = shiftFromTold(booking)
  return shift > 0 && shift >= thresholdMinutes * minuteMs ? 'booking moved' : null
}

/** Whether a booking stands as it did before the change that is settling. */
function isAsBefore({ settling, status, startAt, endAt }: Booking): boolean {
  const from = settling?.from
  return from?.status === status && from.startAt === startAt && from.endAt === endAt
}

/** A change that undoes, while it settles, an earlier one of a booking. */
export interface Undoing {
  readonly bookingId: string
  /** When what is undone began. */
  readonly since: number
  /** Only where it ended is something left of the change: what else is undone has not happened, and neither stops nor starts. */
  readonly undone: 'everything' | 'the ending' | 'own status'
}

/** The whole undoing that a change amounts to; null: it is none. */
export function undoing(booking: Booking): Undoing | null {
  return booking.settling && isAsBefore(booking)
    ? { bookingId: booking.id, since: booking.settling.since, undone: 'everything' }
    : null
}

/** A booking's history with a change that was taken back now; time has passed all the same. */
export function withUndone(
  history: BookingHistory,
  from: number,
  to: number,
  voided: 'all' | 'times',
): BookingHistory {
  return { ...history, undone: [...history.undone, { from, to, voided }] }
}

/** When the last act was that a net change comes from. */
function lastActAt(booking: Booking, net: StartEvent): number {
  if (net === 'booking moved') return booking.timesSetAt
  const at = net === 'booking requested' ? booking.madeAt : booking.statusAt[booking.status]
  return at ?? booking.madeAt
}

/** The end of a booking's settle time: sequences on the net change start now. */
export function endSettling(slice: Slice, bookingId: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'settle ends', key: bookingId } }
  const booking = slice.facts.bookings.find((one) => one.id === bookingId)
  if (!booking?.settling) return [cleared]
  const net = netChange(booking, slice.settings.business.moveThresholdMinutes)
  const isStatus = net === `booking ${booking.status}`
  const settled: Booking = {
    ...booking,
    settling: null,
    madeAt: net === 'booking requested' ? context.now : booking.madeAt,
    statusAt: isStatus ? { ...booking.statusAt, [booking.status]: context.now } : booking.statusAt,
    history: net === 'booking moved' ? { ...booking.history, movedAt: context.now } : booking.history,
  }
  const start = net && {
    on: net,
    name: '',
    at: context.now,
    actedAt: lastActAt(booking, net),
    clientId: booking.clientId,
    subject: { kind: 'booking' as const, id: bookingId },
  }
  const concluded = conclude(slice, [{ kind: 'put booking', booking: settled }, cleared], context, {
    settled: start ? [start] : [],
  })
  return heldBack(concluded, booking.settling.holdBack, context.now)
}
