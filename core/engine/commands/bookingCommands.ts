import { z } from 'zod'
import { instantOfLocal } from '../../time/localText.ts'
import {
  bookingStatus,
  freshHistory,
  type Booking,
  type BookingHistory,
  type Cancellation,
  type GivenAnswer,
} from '../../model/booking.ts'
import { personId, serviceId, type Service } from '../../model/business.ts'
import { clientId } from '../../model/client.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { localDateTime } from '../../model/values.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { shiftFromTold } from '../../planning/answers.ts'
import { minuteMs } from '../../time/calendar.ts'
import { dateAndTime } from '../../time/format.ts'
import {
  bookingChange,
  bookingWords,
  isEndingUnsettled,
  madeAgain,
  statusChange,
  without,
  withoutEnding,
  withStatus,
  type StatusByHand,
} from '../following/bookingStatus.ts'
import { cancellingFee } from '../../model/policy.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { endSettling, settlingFrom, undoing, withUndone, type Undoing } from '../following/bookingSettling.ts'

/** Start and end as the clock at the place shows them. */
const times = { startLocal: localDateTime, endLocal: localDateTime }
const endsAfterStart = ({ startLocal, endLocal }: { startLocal: string; endLocal: string }) =>
  startLocal < endLocal
const endFault = { message: 'The end must be after the start.', path: ['endLocal'] }

export const makeBookingInput = z
  .object({
    clientId,
    serviceId,
    ...times,
    partySize: z
      .number()
      .int('A whole number of people.')
      .min(1, 'At least one person.')
      .max(500, 'At most 500 people.'),
    status: bookingStatus.extract(['requested', 'confirmed']),
    personInChargeId: personId.nullable(),
  })
  .strict()
  .refine(endsAfterStart, endFault)
export type MakeBookingInput = z.infer<typeof makeBookingInput>

export const moveBookingInput = z.object(times).strict().refine(endsAfterStart, endFault)
export type MoveBookingInput = z.infer<typeof moveBookingInput>

/** Seats that others have already taken of a service during a stretch of time. */
export type SeatsTaken = (
  serviceId: string,
  startAt: number,
  endAt: number,
  exceptBookingId: string | null,
) => number

/** Start and end as instants, and sessions within them where there are several. */
export interface BookedTimes {
  readonly startAt: number
  readonly endAt: number
  readonly sessions?: Booking['sessions']
  /** Who does it then, where that is somebody else. */
  readonly personInChargeId?: string
}

/** Times as the clock at the place shows them, as instants. Null: there is no such service. */
export function timesAtPlace(
  settings: Settings,
  serviceId: string,
  { startLocal, endLocal }: MoveBookingInput,
): BookedTimes | null {
  const service = settings.services.find(({ id }) => id === serviceId)
  if (!service) return null
  const zone = placeZone(settings, service)
  return { startAt: instantOfLocal(zone, startLocal), endAt: instantOfLocal(zone, endLocal) }
}

function seatsProblem(
  service: Service,
  wanted: Pick<Booking, 'startAt' | 'endAt' | 'partySize'>,
  exceptId: string | null,
  seatsTaken: SeatsTaken,
) {
  const left = service.seats - seatsTaken(service.id, wanted.startAt, wanted.endAt, exceptId)
  if (wanted.partySize <= left) return null
  const sentence =
    left <= 0
      ? `${service.name} has no seats left at that time.`
      : `${service.name} has only ${left} of ${service.seats} seats left at that time.`
  return refused<never>('no seats left', sentence, 'partySize')
}

/** What is asked for when a booking is made, beside its times. */
export type BookingAsked = Omit<MakeBookingInput, 'startLocal' | 'endLocal'> & {
  readonly answers?: readonly GivenAnswer[]
}

/** A new booking at given instants. */
export function bookAt(
  slice: Slice,
  input: BookingAsked,
  { startAt, endAt, sessions = [] }: BookedTimes,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { settings, facts } = slice
  const { now } = context
  const { answers = [] } = input
  const service = settings.services.find((one) => one.id === input.serviceId && one.isActive)
  if (!service) return refused('not found', 'There is no such service.', 'serviceId')
  const inCharge = input.personInChargeId
  if (inCharge !== null && !settings.people.some((one) => one.id === inCharge && one.isActive)) {
    return refused('not found', 'There is no such person in the team.', 'personInChargeId')
  }
  if (endAt <= startAt) return refused('invalid', endFault.message, 'endLocal')
  const booking: Booking = {
    id: context.newId('bk'),
    clientId: facts.client.id,
    serviceId: service.id,
    personInChargeId: inCharge,
    status: input.status,
    startAt,
    endAt,
    partySize: input.partySize,
    sessions,
    answers: [...answers],
    cancellation: null,
    madeAt: now,
    statusAt: { [input.status]: now },
    timesSetAt: now,
    history: freshHistory(input.status, now),
    settling: input.status === 'confirmed' ? null : settlingFrom(null, settings, now),
    told: { startAt, endAt, since: now },
    revision: 1,
  }
  if (booking.startAt <= now) return refused('invalid', 'This start is already past.', 'startLocal')
  const noSeats = seatsProblem(service, booking, null, seatsTaken)
  if (noSeats) return noSeats
  const kind = input.status === 'confirmed' ? 'booking confirmed' : 'booking requested'
  const sentence = `Booking ${input.status}: ${bookingWords(settings, booking)}, for ${input.partySize}.`
  return done(conclude(slice, bookingChange(settings, booking, kind, sentence, context), context))
}

export function makeBooking(
  slice: Slice,
  { startLocal, endLocal, ...input }: MakeBookingInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const times = timesAtPlace(slice.settings, input.serviceId, { startLocal, endLocal })
  if (!times) return refused('not found', 'There is no such service.', 'serviceId')
  return bookAt(slice, input, times, seatsTaken, context)
}

type Found = Result<Booking>

function findBooking({ facts }: Slice, bookingId: string, revision: number): Found {
  const booking = facts.bookings.find((one) => one.id === bookingId)
  if (!booking) return refused('not found', 'There is no such booking.')
  if (booking.revision !== revision) {
    return refused(
      'changed meanwhile',
      'Somebody has changed this booking meanwhile. Look at it again, then decide.',
    )
  }
  return done(booking)
}

function changeStatus(
  slice: Slice,
  bookingId: string,
  revision: number,
  status: StatusByHand,
  context: EngineContext,
  cancellation: Cancellation | null = null,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const changed = statusChange(slice, found.value, status, context, cancellation)
  return changed.ok ? done(conclude(slice, changed.value.effects, context, changed.value.manner)) : changed
}

type StatusCommand = (
  slice: Slice,
  bookingId: string,
  revision: number,
  context: EngineContext,
) => Result<readonly Effect[]>

export const confirmBooking: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'confirmed', context)

/** Cancelled by the business: that costs the client nothing. */
export const cancelBooking: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'cancelled', context, {
    by: 'business',
    reason: '',
    feeCents: 0,
  })

/** Cancelled by the client, or for them because they asked for it, with what that costs now. */
export function cancelForClient(
  slice: Slice,
  bookingId: string,
  revision: number,
  reason: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const service = serviceOf(slice.settings, found.value.serviceId)
  const feeCents = cancellingFee(service, found.value, context.now)
  return changeStatus(slice, bookingId, revision, 'cancelled', context, { by: 'client', reason, feeCents })
}

/** Nobody came. */
export const missBooking: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'missed', context)

/** It has taken place, said before that is so by itself. */
export const completeByHand: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'completed', context)

const seatStatuses: readonly Booking['status'][] = ['requested', 'confirmed', 'completed']

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

interface MovedBooking {
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
  const history = withUndone(from.history, old.settling.since, now, voided)
  return {
    ...old,
    startAt,
    endAt,
    sessions,
    timesSetAt,
    status,
    statusAt,
    history,
    revision: old.revision + 1,
  }
}

/** The booking at its new times, and how that acts. */
function movedBooking(old: Booking, times: BookedTimes, settings: Settings, now: number): MovedBooking {
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

const isSameTime = (old: Booking, { startAt, endAt, sessions }: BookedTimes) =>
  startAt === old.startAt &&
  endAt === old.endAt &&
  (sessions === undefined || JSON.stringify(sessions) === JSON.stringify(old.sessions))

/** A booking gets other times, which may lie in the past: then it is only put right. */
export function moveTo(
  slice: Slice,
  bookingId: string,
  revision: number,
  times: BookedTimes,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const old = found.value
  const { settings } = slice
  const service = serviceOf(settings, old.serviceId)
  if (times.endAt <= times.startAt) return refused('invalid', endFault.message, 'endLocal')
  if (isSameTime(old, times)) return refused('invalid', 'That is the time it already has.', 'startLocal')
  const moved = movedBooking(old, times, settings, context.now)
  const { kind } = moved
  const { personInChargeId = moved.booking.personInChargeId } = times
  const booking: Booking = { ...moved.booking, personInChargeId }
  const noSeats = seatStatuses.includes(booking.status)
    ? seatsProblem(service, booking, old.id, seatsTaken)
    : null
  if (noSeats) return noSeats
  const zone = placeZone(settings, service)
  const sentence = `Booking moved: ${service.name}, from ${dateAndTime(zone, old.startAt)} to ${dateAndTime(zone, times.startAt)}.`
  const again = booking.status === 'requested' ? 'booking requested' : 'booking confirmed'
  const event = kind === 'again' ? again : 'booking moved'
  const effects = bookingChange(settings, booking, event, sentence, context)
  const { clientId } = booking
  const requestedAgain = { on: 'booking requested', name: '', at: context.now, clientId } as const
  return done(
    conclude(slice, effects, context, {
      startsNothing: kind === 'corrected',
      // A request made again has nothing to settle.
      settled:
        kind === 'again' && again === 'booking requested'
          ? [{ ...requestedAgain, subject: { kind: 'booking', id: booking.id } }]
          : [],
      undoes: kind === 'moved' ? resuming(old, booking) : null,
    }),
  )
}

export function moveBooking(
  slice: Slice,
  bookingId: string,
  revision: number,
  input: MoveBookingInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const times = timesAtPlace(slice.settings, found.value.serviceId, input)
  if (!times) return refused('not found', 'There is no such service.', 'serviceId')
  const isStanding = found.value.status === 'requested' || found.value.status === 'confirmed'
  if (isStanding && times.startAt <= context.now) {
    return refused('invalid', 'This start is already past.', 'startLocal')
  }
  return moveTo(slice, bookingId, revision, times, seatsTaken, context)
}

/** A move within the settle time of a cancellation undoes that; one back to the old times undoes the move. */
function resuming(old: Booking, booking: Booking): Undoing | null {
  const whole = undoing(booking)
  if (whole) return whole
  const { settling } = old
  return settling && old.status !== booking.status && old.status !== 'completed'
    ? { bookingId: old.id, since: settling.since, isWhole: false }
    : null
}

/** A confirmed booking becomes completed by itself some hours after its end. */
export function completeBooking(slice: Slice, bookingId: string, context: EngineContext): readonly Effect[] {
  const booking = slice.facts.bookings.find((one) => one.id === bookingId)
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'booking completes', key: bookingId } }
  if (booking?.status !== 'confirmed') return [cleared]
  const completed = withStatus(booking, 'completed', context.now)
  const sentence = `Booking completed: ${bookingWords(slice.settings, booking)}.`
  const effects = bookingChange(slice.settings, completed, 'booking completed', sentence, context)
  return conclude(slice, effects, context)
}

/** Ends the settle time of a booking at once: what is left to tell is told now. */
export function settleNow(
  slice: Slice,
  bookingId: string,
  revision: number,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  if (!found.value.settling) return refused('not allowed now', 'Nothing is settling here any more.')
  return done(endSettling(slice, bookingId, context))
}
