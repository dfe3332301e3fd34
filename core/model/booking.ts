import { z } from 'zod'
import { personId, serviceId } from './business.ts'
import { clientId, contactId } from './client.ts'
import { idOf, instant, oneLine, severalLines } from './values.ts'

export const bookingId = idOf('bk')
export const bookingStatus = z.enum(['requested', 'confirmed', 'cancelled', 'completed', 'missed'])
export type BookingStatus = z.infer<typeof bookingStatus>
/** In these a booking takes room. */
export const seatStatuses: readonly BookingStatus[] = ['requested', 'confirmed', 'completed']

/** Start and end, one of several sittings. */
const session = z.object({ startAt: instant, endAt: instant }).strict()

/**
 * What of a booking's past counts for what is planned. Everything else about earlier times follows from it, or does
 * not matter any more.
 */
const history = z
  .object({
    /** The last move that reached the threshold from what the client had been told: what went before it can be due again. */
    dueAgainSince: instant,
    /** Times it had before moves too small to count, since then, oldest first. */
    nearby: z.array(z.object({ startAt: instant, endAt: instant, setAt: instant }).strict()),
    /**
     * When a change was made and taken back while it settled: as if it had never been, but time has passed. It had
     * voided all messages of the booking, or those that hang on its times.
     */
    undone: z.array(z.object({ from: instant, to: instant, voided: z.enum(['all', 'times']) }).strict()),
    /** Each status it has ever had, those of the business's own by name. */
    reached: z.array(z.string()),
    /** When its last move had settled; null: it has not moved. */
    movedAt: instant.nullable(),
  })
  .strict()
export type BookingHistory = z.infer<typeof history>

/** What a client answered to a question of the service, with the question's words as they were asked. */
export const givenAnswer = z.object({ question: oneLine(200), answer: severalLines(2000) }).strict()
export type GivenAnswer = z.infer<typeof givenAnswer>

/** Who cancelled a booking, why, and what it costs. */
export const cancellation = z
  .object({
    by: z.enum(['client', 'business']),
    reason: severalLines(1000),
    feeCents: z.number().int().min(0),
  })
  .strict()
export type Cancellation = z.infer<typeof cancellation>

/** Who of a client's contacts a booking is for. */
export const bookingPeople = z
  .object({
    /** Null: the primary contact. */
    payerId: contactId.nullable(),
    /** Who takes part, as far as they are named; nobody: the primary contact. */
    participantIds: z.array(contactId).max(100),
  })
  .strict()
export type BookingPeople = z.infer<typeof bookingPeople>
export const nobodyNamed: BookingPeople = { payerId: null, participantIds: [] }

/** The status of the business's own that a booking has, beside what that means. */
export const bookingOwn = z
  .object({
    /** By name; null: none. */
    status: z.string().nullable(),
    /** When each was last entered. */
    at: z.record(z.string(), instant),
    /** Changes of it that settle: since when, until when, and how it stood before. */
    settling: z
      .object({
        since: instant,
        until: instant,
        from: z.object({ status: z.string().nullable(), at: z.record(z.string(), instant) }).strict(),
      })
      .strict()
      .nullable(),
  })
  .strict()
export type BookingOwn = z.infer<typeof bookingOwn>
export const noOwnStatus: BookingOwn = { status: null, at: {}, settling: null }

export const booking = z
  .object({
    id: bookingId,
    clientId,
    serviceId,
    /** Who of the team is in charge; null: the business. */
    personInChargeId: personId.nullable(),
    status: bookingStatus,
    own: bookingOwn.default(noOwnStatus),
    startAt: instant,
    endAt: instant,
    partySize: z.number().int().min(1),
    /** Where it has several sessions, each with its own times; else empty. */
    sessions: z.array(session),
    answers: z.array(givenAnswer),
    /** What was agreed for it alone, in cents; null: what its service costs. */
    priceCents: z.number().int().min(0).nullable().default(null),
    people: bookingPeople.default(nobodyNamed),
    /** Null: it is not cancelled, or nothing more is known of that. */
    cancellation: cancellation.nullable(),
    /** What it was called in the calendar it was brought in from; null: it was made here. */
    broughtInAs: z.string().max(400).nullable().default(null),
    madeAt: instant,
    /** When each status was last entered. */
    statusAt: z.partialRecord(bookingStatus, instant),
    /** The moment start and end got their present values. */
    timesSetAt: instant,
    history,
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
            own: bookingOwn.default(noOwnStatus),
            startAt: instant,
            endAt: instant,
            sessions: z.array(session),
            statusAt: z.partialRecord(bookingStatus, instant),
            timesSetAt: instant,
            history,
          })
          .strict()
          .nullable(),
        /** Messages about the change that a person wants to see first, by what names them in a difference. */
        holdBack: z.array(z.string()).default([]),
      })
      .strict()
      .nullable(),
    /**
     * The times the client was last told in a message, before that those it was made with; `since`: what counted as
     * due again then.
     */
    told: z.object({ startAt: instant, endAt: instant, since: instant }).strict(),
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

/** The history of a booking that has just been made. */
export function freshHistory(status: BookingStatus, madeAt: number): BookingHistory {
  return { dueAgainSince: madeAt, nearby: [], undone: [], reached: [status], movedAt: null }
}

export function canBecome(from: BookingStatus, to: BookingStatus): boolean {
  return bookingTransitions[from].includes(to)
}

/** When the last of a booking's quick changes has settled; null: none is settling. */
export function settlingEnd({ settling, own }: Booking): number | null {
  const untils = [settling, own.settling].flatMap((one) => (one ? [one.until] : []))
  return untils.length === 0 ? null : Math.max(...untils)
}

/** Until when a message about a booking has to wait because that settles; null: it goes at its own moment. */
export function settlesUntil(booking: Booking | null, dueAt: number | null): number | null {
  const untils = [booking?.settling, booking?.own.settling].flatMap((settling) =>
    settling && dueAt !== null && dueAt >= settling.since && dueAt < settling.until ? [settling.until] : [],
  )
  return untils.length === 0 ? null : Math.max(...untils)
}
