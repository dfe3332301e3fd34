import { z } from 'zod'
import { makeBookingInput, moveBookingInput } from '../engine/commands/bookingCommands.ts'
import { changeBookingInput } from '../engine/commands/bookingFacts.ts'
import { manyBookingsAct, seenBooking, statusToGive } from '../engine/commands/manyBookings.ts'
import { invoiceInput, paymentInput } from '../engine/commands/paymentCommands.ts'
import { booking } from '../model/booking.ts'
import { serviceId } from '../model/business.ts'
import { instant, isoDate } from '../model/values.ts'
import { ask, change, changed, command, commandOn, made, tell } from './described.ts'
import { announcement, manyAnswer } from './announcements.ts'
import { bookingLine, bookingView } from './views.ts'

/** One start of a service, with all who have booked it; with nobody where it is only offered. */
const timetableLine = z.object({
  serviceId,
  serviceName: z.string(),
  startAt: instant,
  endAt: instant,
  placeZone: z.string(),
  seats: z.number().int(),
  taken: z.number().int(),
  bookings: z.array(
    booking
      .pick({ id: true, clientId: true, status: true, partySize: true, revision: true })
      .extend({ clientName: z.string(), ownStatus: z.string().nullable() })
      .strip(),
  ),
})
export type TimetableLine = z.infer<typeof timetableLine>

/** A date of the business's zone, with what is booked and what leaves on it, in the order of time. */
const timetableDay = z.object({
  on: isoDate,
  isClosed: z.boolean(),
  holiday: z.string().nullable(),
  lines: z.array(timetableLine),
})
export type TimetableDay = z.infer<typeof timetableDay>

const timetableView = z.object({ days: z.array(timetableDay) })

const seenBookings = z
  .array(seenBooking)
  .min(1, 'Choose bookings first.')
  .max(200, 'At most 200 bookings at once.')

/** Bookings, and what a person can do with one and with many. */
export const bookingEndpoints = {
  bookings: ask({
    path: '/api/bookings',
    summary: 'Bookings that start within some dates, the last one included',
    query: z.object({ from: isoDate, to: isoDate }).strict(),
    answer: z.object({ bookings: z.array(bookingLine) }),
  }),
  timetable: ask({
    path: '/api/timetable',
    summary: 'What is booked and what leaves at fixed times, day by day, the last day included',
    query: z.object({ from: isoDate, to: isoDate }).strict(),
    answer: timetableView,
  }),
  actOnBookings: tell({
    path: '/api/bookings/acts',
    summary: 'One act on many bookings, as it was announced',
    body: z.object({ ...command, bookings: seenBookings, act: manyBookingsAct }).strict(),
    answer: manyAnswer,
  }),
  booking: ask({ path: '/api/bookings/:id', summary: 'One booking', answer: bookingView }),
  makeBooking: tell({
    path: '/api/bookings',
    summary: 'New booking',
    body: z.object({ ...command, booking: makeBookingInput }).strict(),
    answer: made,
  }),
  confirmBooking: tell({
    path: '/api/bookings/:id/confirm',
    summary: 'Confirm a requested booking',
    body: z.object({ ...commandOn }).strict(),
    answer: changed,
  }),
  moveBooking: tell({
    path: '/api/bookings/:id/move',
    summary: 'Give a booking another time',
    body: z.object({ ...commandOn, times: moveBookingInput }).strict(),
    answer: changed,
  }),
  changeBooking: change({
    path: '/api/bookings/:id',
    summary: 'Change how many a booking is for, who takes part, pays and is in charge, and what was answered',
    body: z.object({ ...commandOn, facts: changeBookingInput }).strict(),
    answer: changed,
  }),
  giveOwnStatus: tell({
    path: '/api/bookings/:id/status',
    summary: "Give a booking a status of the business's own; null: only what the present one means",
    body: z.object({ ...commandOn, status: statusToGive }).strict(),
    answer: changed,
  }),
  askAboutBooking: tell({
    path: '/api/bookings/:id/consequences',
    summary: 'What an act on a booking would do; nothing is done',
    body: z.discriminatedUnion('act', [
      z.object({ act: z.literal('move'), revision: commandOn.revision, times: moveBookingInput }).strict(),
      z
        .object({ act: z.enum(['cancel', 'confirm', 'miss', 'complete']), revision: commandOn.revision })
        .strict(),
      z
        .object({
          act: z.literal('status'),
          revision: commandOn.revision,
          status: statusToGive,
        })
        .strict(),
    ]),
    answer: announcement,
    isRecorded: false,
  }),
  settleBooking: tell({
    path: '/api/bookings/:id/settle',
    summary: 'End the settle time of a booking now',
    body: z.object(commandOn).strict(),
    answer: changed,
  }),
  missBooking: tell({
    path: '/api/bookings/:id/miss',
    summary: 'Mark a booking as missed: nobody came',
    body: z.object({ ...commandOn }).strict(),
    answer: changed,
  }),
  completeBooking: tell({
    path: '/api/bookings/:id/complete',
    summary: 'Say that a booking has taken place, before that is so by itself',
    body: z.object({ ...commandOn }).strict(),
    answer: changed,
  }),
  cancelBooking: tell({
    path: '/api/bookings/:id/cancel',
    summary: 'Cancel a booking',
    body: z.object({ ...commandOn }).strict(),
    answer: changed,
  }),
  addInvoice: tell({
    path: '/api/bookings/:id/invoices',
    summary: 'A further invoice for a booking',
    body: z.object({ ...command, invoice: invoiceInput }).strict(),
    answer: made,
  }),
  notePayment: tell({
    path: '/api/invoices/:id/payments',
    summary: 'Note that an invoice has been paid, all or part of it',
    body: z.object({ ...command, payment: paymentInput }).strict(),
    answer: made,
  }),
  voidInvoice: tell({
    path: '/api/invoices/:id/void',
    summary: 'Take an invoice back',
    body: z.object(command).strict(),
    answer: made,
  }),
} as const
