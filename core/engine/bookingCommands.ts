import { z } from 'zod'
import { bookingStatus, type Booking } from '../model/booking.ts'
import { personId, serviceId, type Service } from '../model/business.ts'
import { clientId } from '../model/client.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { localDateTime } from '../model/values.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../planning/slice.ts'
import { shiftFromTold } from '../planning/stored.ts'
import { epochDayOf, minuteMs, minuteOfDay } from '../time/calendar.ts'
import { dateAndTime } from '../time/format.ts'
import { instantAt } from '../time/zones.ts'
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
} from './bookingStatus.ts'
import type { EngineContext } from './context.ts'
import type { Effect } from './effects.ts'
import { conclude } from './react.ts'
import { endSettling, settlingFrom, undoing } from './settling.ts'

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

function localInstant(settings: Settings, service: Service, local: string): number {
  return instantAt(placeZone(settings, service), epochDayOf(local.slice(0, 10)), minuteOfDay(local.slice(11)))
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

export function makeBooking(
  slice: Slice,
  input: MakeBookingInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
  sessions: Booking['sessions'] = [],
): Result<readonly Effect[]> {
  const { settings, facts } = slice
  const service = settings.services.find((one) => one.id === input.serviceId && one.isActive)
  if (!service) return refused('not found', 'There is no such service.', 'serviceId')
  const inCharge = input.personInChargeId
  if (inCharge !== null && !settings.people.some((one) => one.id === inCharge && one.isActive)) {
    return refused('not found', 'There is no such person in the team.', 'personInChargeId')
  }
  const told = {
    startAt: localInstant(settings, service, input.startLocal),
    endAt: localInstant(settings, service, input.endLocal),
  }
  const booking: Booking = {
    id: context.newId('bk'),
    clientId: facts.client.id,
    serviceId: service.id,
    personInChargeId: inCharge,
    status: input.status,
    ...told,
    partySize: input.partySize,
    sessions,
    madeAt: context.now,
    statusAt: { [input.status]: context.now },
    timesSetAt: context.now,
    settling: input.status === 'confirmed' ? null : settlingFrom(null, settings, context.now),
    told,
    revision: 1,
  }
  if (booking.startAt <= context.now) return refused('invalid', 'This start is already past.', 'startLocal')
  const noSeats = seatsProblem(service, booking, null, seatsTaken)
  if (noSeats) return noSeats
  const kind = input.status === 'confirmed' ? 'booking confirmed' : 'booking requested'
  const sentence = `Booking ${input.status}: ${bookingWords(settings, booking)}, for ${input.partySize}.`
  return done(conclude(slice, bookingChange(settings, booking, kind, sentence, context), context))
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
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const changed = statusChange(slice, found.value, status, context)
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

export const cancelBooking: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'cancelled', context)

/** Nobody came. */
export const missBooking: StatusCommand = (slice, bookingId, revision, context) =>
  changeStatus(slice, bookingId, revision, 'missed', context)

const seatStatuses: readonly Booking['status'][] = ['requested', 'confirmed', 'completed']

/** The booking at its new times, and how that acts: a plain move, an undoing, made again, or a correction of the past. */
function movedBooking(
  old: Booking,
  startAt: number,
  endAt: number,
  settings: Settings,
  now: number,
): { readonly booking: Booking; readonly kind: 'moved' | 'again' | 'corrected' } {
  const isAhead = startAt > now
  const isOver = !seatStatuses.slice(0, 2).includes(old.status)
  const atNewTimes = { ...old, startAt, endAt }
  if (isOver && !isAhead) {
    return { booking: { ...atNewTimes, timesSetAt: now, revision: old.revision + 1 }, kind: 'corrected' }
  }
  if (old.status === 'cancelled' || old.status === 'missed') {
    if (!isEndingUnsettled(old, now)) return { booking: madeAgain(atNewTimes, now), kind: 'again' }
  }
  const standing = isEndingUnsettled(old, now) ? withoutEnding(old) : old
  const settling = settlingFrom(old, settings, now)
  const isBack = settling?.from?.startAt === startAt && settling.from.endAt === endAt
  const isSmall = shiftFromTold({ ...atNewTimes }) < settings.business.moveThresholdMinutes * minuteMs
  const before = settling?.from?.timesSetAt ?? old.timesSetAt
  const isCompleted = old.status === 'completed'
  return {
    booking: {
      ...standing,
      startAt,
      endAt,
      status: isCompleted ? 'confirmed' : standing.status,
      statusAt: isCompleted
        ? { ...without(standing.statusAt, 'completed'), confirmed: now }
        : standing.statusAt,
      // Too small to count, or back where it was: nothing is late by that.
      timesSetAt: isBack || isSmall ? before : now,
      settling,
      revision: old.revision + 1,
    },
    kind: 'moved',
  }
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
  const old = found.value
  const { settings } = slice
  const service = serviceOf(settings, old.serviceId)
  const startAt = localInstant(settings, service, input.startLocal)
  const endAt = localInstant(settings, service, input.endLocal)
  if (startAt === old.startAt && endAt === old.endAt) {
    return refused('invalid', 'That is the time it already has.', 'startLocal')
  }
  const isOpen = old.status === 'requested' || old.status === 'confirmed'
  if (isOpen && startAt <= context.now) {
    return refused('invalid', 'This start is already past.', 'startLocal')
  }
  const { booking, kind } = movedBooking(old, startAt, endAt, settings, context.now)
  const noSeats = seatStatuses.includes(booking.status)
    ? seatsProblem(service, booking, old.id, seatsTaken)
    : null
  if (noSeats) return noSeats
  const zone = placeZone(settings, service)
  const sentence = `Booking moved: ${service.name}, from ${dateAndTime(zone, old.startAt)} to ${dateAndTime(zone, startAt)}.`
  const event = kind === 'again' ? 'booking confirmed' : 'booking moved'
  const effects = bookingChange(settings, booking, event, sentence, context)
  return done(
    conclude(slice, effects, context, {
      startsNothing: kind === 'corrected',
      undoes: kind === 'moved' ? resuming(old, booking) : null,
    }),
  )
}

/** A move within the settle time of a cancellation undoes that; one back to the old times undoes the move. */
function resuming(old: Booking, booking: Booking) {
  const { settling } = old
  return settling && old.status !== booking.status
    ? { bookingId: old.id, since: settling.since }
    : undoing(booking)
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
