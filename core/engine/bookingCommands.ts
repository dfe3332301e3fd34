import { z } from 'zod'
import { bookingStatus, canBecome, type Booking } from '../model/booking.ts'
import { personId, serviceId, type Service } from '../model/business.ts'
import { clientId } from '../model/client.ts'
import type { EventKind } from '../model/event.ts'
import type { StartEvent } from '../model/sequence.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { localDateTime } from '../model/values.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../planning/slice.ts'
import { epochDayOf, hourMs, minuteMs, minuteOfDay } from '../time/calendar.ts'
import { dateAndTime } from '../time/format.ts'
import { instantAt } from '../time/zones.ts'
import { appendEvent, type EngineContext } from './context.ts'
import type { Effect } from './effects.ts'
import { conclude } from './react.ts'

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

function bookingWords(settings: Settings, booking: Booking): string {
  const service = serviceOf(settings, booking.serviceId)
  return `${service.name}, ${dateAndTime(placeZone(settings, service), booking.startAt)}`
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

function completion(settings: Settings, booking: Booking): Effect {
  const moment = { kind: 'booking completes', key: booking.id } as const
  const at = booking.endAt + settings.business.completesAfterHours * hourMs
  return booking.status === 'confirmed'
    ? { kind: 'set due moment', moment: { ...moment, at } }
    : { kind: 'clear due moment', moment }
}

function settlement({ id, settling }: Booking): Effect {
  const moment = { kind: 'settle ends', key: id } as const
  return settling
    ? { kind: 'set due moment', moment: { ...moment, at: settling.until } }
    : { kind: 'clear due moment', moment }
}

function changed(slice: Slice, booking: Booking, kind: EventKind, sentence: string, context: EngineContext) {
  const subject = { kind: 'booking', id: booking.id } as const
  const event = appendEvent(context, kind, { clientId: booking.clientId, subject }, sentence)
  const put: Effect = { kind: 'put booking', booking }
  return conclude(slice, [put, completion(slice.settings, booking), settlement(booking), event], context)
}

/** The settling of a booking that changes now: from its first change on, against what the client was last told. */
function settlingFrom(before: Booking | null, { business }: Settings, now: number): Booking['settling'] {
  if (before?.settling) return before.settling
  const from = before && { status: before.status, startAt: before.startAt, endAt: before.endAt }
  return { since: now, until: now + business.settleMinutes * minuteMs, from }
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
  const booking: Booking = {
    id: context.newId('bk'),
    clientId: facts.client.id,
    serviceId: service.id,
    personInChargeId: inCharge,
    status: input.status,
    startAt: localInstant(settings, service, input.startLocal),
    endAt: localInstant(settings, service, input.endLocal),
    partySize: input.partySize,
    sessions,
    madeAt: context.now,
    statusAt: { [input.status]: context.now },
    timesSetAt: context.now,
    settling: input.status === 'confirmed' ? null : settlingFrom(null, settings, context.now),
    revision: 1,
  }
  if (booking.startAt <= context.now) return refused('invalid', 'This start is already past.', 'startLocal')
  const noSeats = seatsProblem(service, booking, null, seatsTaken)
  if (noSeats) return noSeats
  const kind = input.status === 'confirmed' ? 'booking confirmed' : 'booking requested'
  const sentence = `Booking ${input.status}: ${bookingWords(settings, booking)}, for ${input.partySize}.`
  return done(changed(slice, booking, kind, sentence, context))
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

type StatusByHand = 'confirmed' | 'cancelled' | 'missed'

const becoming: Readonly<Record<StatusByHand, string>> = {
  confirmed: 'confirmed',
  cancelled: 'cancelled',
  missed: 'marked as missed',
}

/** Gives a booking another status by hand. Confirming ends its settle time; the others settle. */
function changeStatus(
  slice: Slice,
  bookingId: string,
  revision: number,
  status: StatusByHand,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  if (!canBecome(found.value.status, status)) {
    return refused(
      'not allowed now',
      `A booking that is ${found.value.status} cannot be ${becoming[status]}.`,
    )
  }
  const settling = status === 'confirmed' ? null : settlingFrom(found.value, slice.settings, context.now)
  const booking = { ...withStatus(found.value, status, context.now), settling }
  const sentence = `Booking ${status}: ${bookingWords(slice.settings, booking)}.`
  return done(changed(slice, booking, `booking ${status}`, sentence, context))
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

function withStatus(booking: Booking, status: Booking['status'], now: number): Booking {
  return {
    ...booking,
    status,
    statusAt: { ...booking.statusAt, [status]: now },
    revision: booking.revision + 1,
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
  if (old.status !== 'requested' && old.status !== 'confirmed') {
    return refused('not allowed now', `A booking that is ${old.status} cannot be moved.`)
  }
  const { settings } = slice
  const service = serviceOf(settings, old.serviceId)
  const startAt = localInstant(settings, service, input.startLocal)
  const endAt = localInstant(settings, service, input.endLocal)
  if (startAt === old.startAt && endAt === old.endAt) {
    return refused('invalid', 'That is the time it already has.', 'startLocal')
  }
  if (startAt <= context.now) return refused('invalid', 'This start is already past.', 'startLocal')
  const settling = settlingFrom(old, settings, context.now)
  const booking = { ...old, startAt, endAt, timesSetAt: context.now, settling, revision: old.revision + 1 }
  const noSeats = seatsProblem(service, booking, old.id, seatsTaken)
  if (noSeats) return noSeats
  const zone = placeZone(settings, service)
  const sentence = `Booking moved: ${service.name}, from ${dateAndTime(zone, old.startAt)} to ${dateAndTime(zone, startAt)}.`
  return done(changed(slice, booking, 'booking moved', sentence, context))
}

/** A confirmed booking becomes completed by itself some hours after its end. */
export function completeBooking(slice: Slice, bookingId: string, context: EngineContext): readonly Effect[] {
  const booking = slice.facts.bookings.find((one) => one.id === bookingId)
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'booking completes', key: bookingId } }
  if (!booking || !canBecome(booking.status, 'completed')) return [cleared]
  const completed = withStatus(booking, 'completed', context.now)
  const sentence = `Booking completed: ${bookingWords(slice.settings, booking)}.`
  return changed(slice, completed, 'booking completed', sentence, context)
}

/** What is left to tell when a booking's quick changes have settled; null: nothing. */
export function netChange(
  { settling, status, startAt, endAt }: Booking,
  thresholdMinutes: number,
): StartEvent | null {
  if (!settling) return null
  const { from } = settling
  if (from === null) return status === 'requested' ? 'booking requested' : null
  if (from.status !== status && (status === 'cancelled' || status === 'missed')) return `booking ${status}`
  const shift = Math.max(Math.abs(startAt - from.startAt), Math.abs(endAt - from.endAt))
  return shift > 0 && shift >= thresholdMinutes * minuteMs ? 'booking moved' : null
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
    statusAt: isStatus ? { ...booking.statusAt, [booking.status]: context.now } : booking.statusAt,
  }
  const start = net && {
    on: net,
    name: '',
    at: context.now,
    clientId: booking.clientId,
    subject: { kind: 'booking' as const, id: bookingId },
  }
  return conclude(slice, [{ kind: 'put booking', booking: settled }, cleared], context, start ? [start] : [])
}
