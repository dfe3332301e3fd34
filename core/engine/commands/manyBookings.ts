import { z } from 'zod'
import { bookingId, seatStatuses, type Booking } from '../../model/booking.ts'
import { refused, type Result } from '../../model/problem.ts'
import { isoDate, timeOfDay } from '../../model/values.ts'
import { placeZone, serviceOf, type Slice } from '../../planning/slice.ts'
import { epochDayOf, minuteOfDay, minuteMs } from '../../time/calendar.ts'
import { instantAt, wallAt } from '../../time/zones.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { giveOwnStatus, moveAhead, statusCommands, type SeatsTaken } from './bookingCommands.ts'
import { oneByOne, type ManyDone } from './oneByOne.ts'

/** A booking in the revision an act was decided on. */
export const seenBooking = z.object({ id: bookingId, revision: z.number().int().min(1) }).strict()
export type SeenBooking = z.infer<typeof seenBooking>

/** A status of the business's own by name; null: only what the present one means. */
export const statusToGive = z.string().min(1).max(40).nullable()

/** What can be done with many bookings at once. */
export const manyBookingsAct = z.discriminatedUnion('act', [
  z.object({ act: z.enum(['confirm', 'cancel', 'miss', 'complete']) }).strict(),
  z
    .object({
      act: z.literal('status'),
      status: statusToGive,
    })
    .strict(),
  z
    .object({
      act: z.literal('move'),
      /** A date of the place. */
      on: isoDate,
      /** Null: each at the time of day it has. */
      at: timeOfDay.nullable(),
    })
    .strict(),
])
export type ManyBookingsAct = z.infer<typeof manyBookingsAct>
type Move = Extract<ManyBookingsAct, { act: 'move' }>

/** When a booking would take place on another date, as long as it takes now. */
export function timesOn(slice: Slice, booking: Booking, { on, at }: Move) {
  const zone = placeZone(slice.settings, serviceOf(slice.settings, booking.serviceId))
  const own = Math.floor(wallAt(zone, booking.startAt).msOfDay / minuteMs)
  const startAt = instantAt(zone, epochDayOf(on), at === null ? own : minuteOfDay(at))
  return { startAt, endAt: startAt + booking.endAt - booking.startAt }
}

function actOn(
  slice: Slice,
  { id, revision }: SeenBooking,
  asked: ManyBookingsAct,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (asked.act === 'status') return giveOwnStatus(slice, id, revision, asked.status, context)
  if (asked.act !== 'move') return statusCommands[asked.act](slice, id, revision, context)
  const booking = slice.facts.bookings.find((one) => one.id === id)
  if (!booking) return refused('not found', 'There is no such booking.')
  return moveAhead(slice, id, revision, timesOn(slice, booking, asked), seatsTaken, context)
}

/** Seats taken as an act on many bookings goes on: with what it has decided already and is not stored yet. */
export interface SeatCount {
  readonly seatsTaken: SeatsTaken
  readonly note: (slice: Slice, effects: readonly Effect[]) => void
}

export function countingSeats(stored: SeatsTaken): SeatCount {
  const decided = new Map<string, { readonly before: Booking; readonly after: Booking }>()
  return {
    seatsTaken(serviceId, startAt, endAt, exceptId) {
      const seatsOf = (one: Booking) => {
        const isMet = one.serviceId === serviceId && one.startAt < endAt && one.endAt > startAt
        return isMet && seatStatuses.includes(one.status) && one.id !== exceptId ? one.partySize : 0
      }
      return [...decided.values()].reduce(
        (sum, { before, after }) => sum - seatsOf(before) + seatsOf(after),
        stored(serviceId, startAt, endAt, exceptId),
      )
    },
    note({ facts }, effects) {
      for (const effect of effects) {
        if (effect.kind !== 'put booking') continue
        const { booking: after } = effect
        const stands = facts.bookings.find(({ id }) => id === after.id)
        const before = decided.get(after.id)?.before ?? stands
        if (before) decided.set(after.id, { before, after })
      }
    },
  }
}

/** Does one thing with several bookings of one client, one after the other; the others go on where one cannot. */
export const actOnBookings = (
  slice: Slice,
  bookings: readonly SeenBooking[],
  asked: ManyBookingsAct,
  seats: SeatCount,
  context: EngineContext,
): ManyDone =>
  oneByOne(slice, bookings, (present, seen) => {
    const result = actOn(present, seen, asked, seats.seatsTaken, context)
    if (result.ok) seats.note(present, result.value)
    return result
  })
