import { seatStatuses, type Booking, type BookingHistory } from '../../model/booking.ts'
import { shiftFromTold } from '../../planning/answers.ts'
import type { Settings } from '../../planning/slice.ts'
import { minuteMs } from '../../time/calendar.ts'
import { isEndingUnsettled, madeAgain, without, withoutEnding } from './bookingStatus.ts'
import { settlingFrom, undoing, withUndone, type Undoing } from './bookingSettling.ts'

/** Start and end as instants, and sessions within them where there are several. */
export interface BookedTimes {
  readonly startAt: number
  readonly endAt: number
  readonly sessions?: Booking['sessions']
  /** Who does it then, where that is somebody else. */
  readonly personInChargeId?: string
}

/** What of its past counts once a booking has moved now. */
function movedHistory(old: Booking, times: BookedTimes, settings: Settings, now: number): BookingHistory {
  const thresholdMs = settings.business.moveThresholdMinutes * minuteMs
  const isFar = shiftFromTold({ ...times, told: old.told }) >= thresholdMs
  const isSmallStep = shiftFromTold({ ...times, told: old }) < thresholdMs
  const before = { startAt: old.startAt, endAt: old.endAt, setAt: old.timesSetAt }
  return {
    ...old.history,
    dueAgainSince: isFar ? now : old.told.since,
    nearby: !isFar && isSmallStep ? [...old.history.nearby, before] : [],
  }
}

/** Sessions move with the start, unless they are given anew. */
function movedSessions({ sessions, startAt }: Booking, times: BookedTimes): Booking['sessions'] {
  const shift = times.startAt - startAt
  return times.sessions ?? sessions.map((one) => ({ startAt: one.startAt + shift, endAt: one.endAt + shift }))
}

export interface MovedBooking {
  readonly booking: Booking
  /** How the move acts: as a plain one, as made again, or as a correction of the past. */
  readonly kind: 'moved' | 'again' | 'corrected'
}

/** Back where it was before what is settling: as if it had never moved, but time has passed. */
function movedBack(old: Booking, now: number): Booking | null {
  const from = old.settling?.from
  if (!from || !old.settling) return null
  const voided = old.status === from.status ? 'times' : 'all'
  const { startAt, endAt, sessions, timesSetAt, status, statusAt } = from
  const own = old.status === status ? old.own : from.own
  const history = withUndone(from.history, old.settling.since, now, voided)
  return {
    ...old,
    startAt,
    endAt,
    sessions,
    timesSetAt,
    status,
    own,
    statusAt,
    history,
    revision: old.revision + 1,
  }
}

/** The booking at its new times, and how that acts. */
export function movedBooking(
  old: Booking,
  times: BookedTimes,
  settings: Settings,
  now: number,
): MovedBooking {
  const { startAt, endAt } = times
  const sessions = movedSessions(old, times)
  const isAhead = startAt > now
  const isOver = !seatStatuses.slice(0, 2).includes(old.status)
  const atNewTimes = { ...old, startAt, endAt, sessions }
  if (isOver && !isAhead) {
    return { booking: { ...atNewTimes, timesSetAt: now, revision: old.revision + 1 }, kind: 'corrected' }
  }
  const isUnsettled = isEndingUnsettled(old, now)
  if ((old.status === 'cancelled' || old.status === 'missed') && !isUnsettled) {
    return { booking: madeAgain(atNewTimes, now), kind: 'again' }
  }
  const from = old.settling?.from
  if (from && old.settling && old.settling.until > now && from.startAt === startAt && from.endAt === endAt) {
    const back = movedBack(old, now)
    if (back) return { booking: back, kind: 'moved' }
  }
  const standing = isUnsettled ? withoutEnding(old, now) : { ...old, revision: old.revision + 1 }
  const isCompleted = old.status === 'completed'
  return {
    booking: {
      ...standing,
      startAt,
      endAt,
      sessions,
      status: isCompleted ? 'confirmed' : standing.status,
      statusAt: isCompleted
        ? { ...without(standing.statusAt, 'completed'), confirmed: now }
        : standing.statusAt,
      timesSetAt: now,
      history: movedHistory(standing, times, settings, now),
      settling: settlingFrom(old, settings, now),
    },
    kind: 'moved',
  }
}

/** Whether a booking has some times already. */
export const isSameTime = (old: Booking, { startAt, endAt, sessions }: BookedTimes) =>
  startAt === old.startAt &&
  endAt === old.endAt &&
  (sessions === undefined || JSON.stringify(sessions) === JSON.stringify(old.sessions))

/** A move within the settle time of a cancellation undoes that; one back to the old times undoes the move. */
export function resuming(old: Booking, booking: Booking): Undoing | null {
  const whole = undoing(booking)
  if (whole) return whole
  const { settling } = old
  return settling && old.status !== booking.status && old.status !== 'completed'
    ? { bookingId: old.id, since: settling.since, undone: 'the ending' }
    : null
}
