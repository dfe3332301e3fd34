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
     * A quick change is settling: since when and until when, and how it stood before (null: it was not there yet).
     * Only what is left at its end is told.
     */
    settling: z
      .object({
        since: instant,
        until: instant,
        from: z
          .object({
            status: bookingStatus,
            startAt: instant,
            endAt: instant,
            statusAt: z.partialRecord(bookingStatus, instant),
            timesSetAt: instant,
          })
          .strict()
          .nullable(),
        /** Messages about the change that a person wants to see first, by what names them in a difference. */
        holdBack: z.array(z.string()).default([]),
      })
      .strict()
      .nullable(),
    /** The times the client was last told in a message; before that those it was made with. */
    told: z.object({ startAt: instant, endAt: instant }).strict(),
    revision: z.number().int().min(1),
  })
  .strict()
export type Booking = z.infer<typeof booking>

/**
 * What a booking's status may change into. Cancelled, missed or completed it can become confirmed again; a cancelled
 * request becomes a request again only while the cancellation settles.
 */
export const bookingTransitions: Readonly<Record<BookingStatus, readonly BookingStatus[]>> = {
  requested: ['confirmed', 'cancelled'],
  confirmed: ['cancelled', 'completed', 'missed'],
  cancelled: ['confirmed', 'requested'],
  completed: ['confirmed', 'missed'],
  missed: ['confirmed'],
}

export function canBecome(from: BookingStatus, to: BookingStatus): boolean {
  return bookingTransitions[from].includes(to)
}
