import { z } from 'zod'
import { personId, serviceId } from './business.ts'
import { clientId } from './client.ts'
import { idOf, instant } from './values.ts'

export const bookingId = idOf('bk')
export const bookingStatus = z.enum(['requested', 'confirmed', 'cancelled', 'completed', 'missed'])
export type BookingStatus = z.infer<typeof bookingStatus>

export const booking = z
  .object({
    id: bookingId,
    clientId,
    serviceId,
    /** Who of the team is in charge; null: the business. */
    personInChargeId: personId.nullable(),
    status: bookingStatus,
    startAt: instant,
    endAt: instant,
    partySize: z.number().int().min(1),
    /** Where it has several sessions, each with its own times; else empty. */
    sessions: z.array(z.object({ startAt: instant, endAt: instant }).strict()),
    madeAt: instant,
    /** When each status was last entered. */
    statusAt: z.partialRecord(bookingStatus, instant),
    /** The moment start and end got their present values. */
    timesSetAt: instant,
    /**
     * A quick change is settling: since when and until when, and what the client was last told (null: nothing yet).
     * Only what is left at its end is told.
     */
    settling: z
      .object({
        since: instant,
        until: instant,
        from: z.object({ status: bookingStatus, startAt: instant, endAt: instant }).strict().nullable(),
      })
      .strict()
      .nullable(),
    revision: z.number().int().min(1),
  })
  .strict()
export type Booking = z.infer<typeof booking>

/** What a booking's status may change into. A status without an entry on the right is final. */
export const bookingTransitions: Readonly<Record<BookingStatus, readonly BookingStatus[]>> = {
  requested: ['confirmed', 'cancelled'],
  confirmed: ['cancelled', 'completed', 'missed'],
  cancelled: [],
  completed: [],
  missed: [],
}

export function canBecome(from: BookingStatus, to: BookingStatus): boolean {
  return bookingTransitions[from].includes(to)
}
