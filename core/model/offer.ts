import { z } from 'zod'
import { openingHours } from './openingHours.ts'
import { emailAddress, idOf, isoDate, oneLine, requiredLine, severalLines, timeOfDay } from './values.ts'

const wholeMinutes = z.number().int('Whole minutes.').min(0, 'Not below 0 minutes.')

/** Departures at a fixed time of day, on some weekdays of a stretch of dates. */
export const departure = z
  .object({
    at: timeOfDay,
    /** ISO 8601 weekdays, Monday 1. */
    weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose at least one weekday.').max(7),
    from: isoDate,
    to: isoDate,
  })
  .strict()
  .refine(({ from, to }) => from <= to, { message: 'The last day lies before the first.', path: ['to'] })
export type Departure = z.infer<typeof departure>

/** When a service can begin: every so often within some hours, or at fixed departures. On the clock of its place. */
export const starts = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('hours'),
      hours: openingHours,
      /** From one start to the next, counted from the opening. */
      everyMinutes: wholeMinutes.min(5, 'At least 5 minutes from one start to the next.').max(1440),
    })
    .strict(),
  z
    .object({
      kind: z.literal('departures'),
      departures: z.array(departure).max(60, 'At most 60 lines of departures.'),
      holidays: z.enum(['open', 'closed']),
      closedDates: z.array(isoDate).max(400),
    })
    .strict(),
])
export type Starts = z.infer<typeof starts>

const questionParts = {
  id: idOf('qu'),
  label: requiredLine(200, 'A question needs its words.'),
  isRequired: z.boolean(),
}

/** What a client is asked when booking. */
export const question = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('line'), ...questionParts }).strict(),
  z.object({ kind: z.literal('text'), ...questionParts }).strict(),
  z.object({ kind: z.literal('yes or no'), ...questionParts }).strict(),
  z
    .object({
      kind: z.literal('choice'),
      ...questionParts,
      options: z
        .array(requiredLine(120, 'An option needs its words.'))
        .min(2, 'Give at least two options.')
        .max(20, 'At most 20 options.')
        .refine((options) => new Set(options).size === options.length, 'Two options are the same.'),
    })
    .strict(),
])
export type Question = z.infer<typeof question>

const longestBuffer = 7 * 24 * 60

const wholeDays = z.number().int('Whole days.').min(0, 'Not below 0 days.').max(365, 'At most 365 days.')

/** What is paid before the event, each part asked for by an invoice once the booking is confirmed. */
export const paying = z
  .object({
    /** A part of the price, due so many days after it is asked for; null: all of it at once. */
    deposit: z
      .object({
        percent: z.number().int().min(1, 'At least 1 %.').max(99, 'At most 99 %.'),
        withinDays: wholeDays,
      })
      .strict()
      .nullable(),
    /** The rest is due so many days before the event. */
    balanceDaysBefore: wholeDays,
  })
  .strict()
export type Paying = z.infer<typeof paying>

/** How a service is offered: when and by whom it is done, what it costs, what clients are told and asked. */
export const offer = z
  .object({
    /** Whether clients can book it on the public page. */
    isPublic: z.boolean(),
    /** What clients read about it there. */
    forClients: severalLines(1000),
    /** How to get to its place. */
    directions: severalLines(1000),
    /** Several bookings share one start until its seats are taken; else it is done for one booking at a time. */
    isShared: z.boolean(),
    bufferBeforeMinutes: wholeMinutes.max(longestBuffer, 'At most 7 days.'),
    bufferAfterMinutes: wholeMinutes.max(longestBuffer, 'At most 7 days.'),
    starts,
    /** So long before the start clients can still book it. */
    noticeHours: z.number().int().min(0, 'Not below 0 hours.').max(2160, 'At most 2160 hours, 90 days.'),
    /** So many days ahead clients can book it. */
    horizonDays: z.number().int().min(1, 'At least 1 day.').max(730, 'At most 730 days.'),
    /** Who can do it; empty: that does not matter. */
    personIds: z.array(idOf('pe')).max(50),
    /** Whether what a client books counts at once, is looked at first, or once they confirm it from their mailbox. */
    confirms: z.enum(['at once', 'on request', 'by the client']),
    /** Null: it is not said. */
    price: z
      .object({
        cents: z.number().int().min(0, 'Not below 0.').max(100_000_000, 'At most 1,000,000.'),
        per: z.enum(['person', 'booking']),
      })
      .strict()
      .nullable(),
    /** Null: nothing is asked for by itself. */
    paying: paying.nullable().default(null),
    /** Cancelling costs nothing until so many hours before the start, then a part of the price. */
    cancelling: z
      .object({
        freeUntilHours: z
          .number()
          .int()
          .min(0, 'Not below 0 hours.')
          .max(2160, 'At most 2160 hours, 90 days.'),
        feePercent: z.number().int().min(0, 'Not below 0 %.').max(100, 'At most 100 %.'),
      })
      .strict(),
    /** Until so many hours before the start clients can move or cancel it by themselves. */
    changeUntilHours: z.number().int().min(0, 'Not below 0 hours.').max(2160, 'At most 2160 hours, 90 days.'),
    questions: z
      .array(question)
      .max(20, 'At most 20 questions.')
      .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, 'Two questions have one id.'),
    /** How messages about it are signed where the business sends them, and where answers go; null: as everywhere. */
    sender: z
      .object({ name: oneLine(120).nullable(), replyTo: emailAddress.nullable() })
      .strict()
      .default({ name: null, replyTo: null }),
  })
  .strict()
export type Offer = z.infer<typeof offer>

const workingDay = [{ from: '08:00', to: '17:00' }]

/** How a new service is offered until somebody says otherwise: not to the public, in office hours, two hours apart. */
export const standardOffer: Offer = {
  isPublic: false,
  forClients: '',
  directions: '',
  isShared: true,
  bufferBeforeMinutes: 120,
  bufferAfterMinutes: 120,
  starts: {
    kind: 'hours',
    hours: {
      weekly: Array.from({ length: 7 }, (_, index) => (index < 5 ? workingDay : [])),
      holidays: 'closed',
      closedDates: [],
    },
    everyMinutes: 60,
  },
  noticeHours: 24,
  horizonDays: 90,
  personIds: [],
  confirms: 'on request',
  price: null,
  paying: null,
  cancelling: { freeUntilHours: 24, feePercent: 0 },
  changeUntilHours: 24,
  questions: [],
  sender: { name: null, replyTo: null },
}
