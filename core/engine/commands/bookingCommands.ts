import { z } from 'zod'
import { instantOfLocal } from '../../time/localText.ts'
import {
  bookingStatus,
  freshHistory,
  noOwnStatus,
  nobodyNamed,
  seatStatuses,
  type Booking,
  type Cancellation,
  type GivenAnswer,
} from '../../model/booking.ts'
import { personId, serviceId, type Service } from '../../model/business.ts'
import { clientId } from '../../model/client.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { localDateTime } from '../../model/values.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { dateAndTime } from '../../time/format.ts'
import {
  bookingChange,
  bookingWords,
  statusChange,
  withStatus,
  type StatusByHand,
} from '../following/bookingStatus.ts'
import { cancellingFee } from '../../model/policy.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { endOwnSettling, ownStatusChange } from '../following/ownStatus.ts'
import { isSameTime, movedBooking, resuming, type BookedTimes } from '../following/bookingMove.ts'
import { endSettling, settlingFrom } from '../following/bookingSettling.ts'

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

/** Why so many people cannot be had then; null: they can. */
export function seatsProblem(
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

/** Why somebody cannot be in charge; null: they can, or nobody is meant. */
export function personProblem({ people }: Settings, personId: string | null) {
  return personId === null || people.some(({ id, isActive }) => id === personId && isActive)
    ? null
    : refused<never>('not found', 'There is no such person in the team.', 'personInChargeId')
}

/** What is asked for when a booking is made, beside its times. */
export type BookingAsked = Omit<MakeBookingInput, 'startLocal' | 'endLocal'> & {
  readonly answers?: readonly GivenAnswer[]
  /** What it is called in the calendar it comes from: it has been agreed, so nothing starts because of it. */
  readonly broughtInAs?: string
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
  const nobody = personProblem(settings, input.personInChargeId)
  if (nobody) return nobody
  if (endAt <= startAt) return refused('invalid', endFault.message, 'endLocal')
  const booking: Booking = {
    id: context.newId('bk'),
    clientId: facts.client.id,
    serviceId: service.id,
    personInChargeId: input.personInChargeId,
    status: input.status,
    own: noOwnStatus,
    startAt,
    endAt,
    partySize: input.partySize,
    sessions,
    answers: [...answers],
    priceCents: null,
    people: nobodyNamed,
    cancellation: null,
    broughtInAs: input.broughtInAs ?? null,
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
  return done(
    conclude(slice, bookingChange(settings, booking, kind, sentence, context), context, {
      startsNothing: booking.broughtInAs !== null,
    }),
  )
}

export function makeBooking(
  slice: Slice,
  { startLocal, endLocal, ...input }: MakeBookingInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
  /** What was asked and answered before, as in an enquiry. */
  answers: readonly GivenAnswer[] = [],
): Result<readonly Effect[]> {
  const times = timesAtPlace(slice.settings, input.serviceId, { startLocal, endLocal })
  if (!times) return refused('not found', 'There is no such service.', 'serviceId')
  return bookAt(slice, { ...input, answers }, times, seatsTaken, context)
}

type Found = Result<Booking>

/** A booking in the revision that an act was decided on. */
export function findBooking({ facts }: Slice, bookingId: string, revision: number): Found {
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

/** What a person of the team makes of a booking's status. */
export const statusCommands = {
  confirm: confirmBooking,
  cancel: cancelBooking,
  miss: missBooking,
  complete: completeByHand,
} as const

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

/** A booking gets other times; one that stands, only such as are still ahead. */
export function moveAhead(
  slice: Slice,
  bookingId: string,
  revision: number,
  times: BookedTimes,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const isStanding = found.value.status === 'requested' || found.value.status === 'confirmed'
  if (isStanding && times.startAt <= context.now) {
    return refused('invalid', 'This start is already past.', 'startLocal')
  }
  return moveTo(slice, bookingId, revision, times, seatsTaken, context)
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
  return times
    ? moveAhead(slice, bookingId, revision, times, seatsTaken, context)
    : refused('not found', 'There is no such service.', 'serviceId')
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

/** A status of the business's own, by name; null: only what the present one means. */
export function giveOwnStatus(
  slice: Slice,
  bookingId: string,
  revision: number,
  name: string | null,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const changed = ownStatusChange(slice, found.value, name, context)
  return changed.ok ? done(conclude(slice, changed.value.effects, context, changed.value.manner)) : changed
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
  const { settling, own } = found.value
  if (!settling && !own.settling) return refused('not allowed now', 'Nothing is settling here any more.')
  const first = settling ? endSettling(slice, bookingId, context) : []
  if (!own.settling) return done(first)
  const next = { settings: slice.settings, facts: withEffects(slice.facts, first) }
  return done([...first, ...endOwnSettling(next, bookingId, context)])
}
