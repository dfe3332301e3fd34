import { z } from 'zod'
import { allowance } from './allowance.ts'
import { pictureId } from './letter.ts'
import { offer } from './offer.ts'
import { openingHours } from './openingHours.ts'
import { emailAddress, idOf, isoDate, oneLine, requiredLine, severalLines } from './values.ts'

export const business = z
  .object({
    name: requiredLine(120, 'The business needs a name.'),
    zone: z.string().min(1),
    postalAddress: oneLine(300),
    phone: oneLine(60),
    senderName: requiredLine(120, 'Messages need the name of a sender.'),
    senderAddress: emailAddress,
    sendingHours: openingHours,
    officeHours: openingHours,
    /** ISO 3166 country and, where holidays differ within it, its subdivision, such as `DE` and `BB`. */
    holidayRegion: z.object({ country: z.string().length(2), subdivision: z.string().nullable() }).strict(),
    /** Hours after the end of a confirmed booking until it counts as completed by itself. */
    completesAfterHours: z
      .number()
      .int()
      .min(0)
      .max(24 * 60),
    /** For how long quick changes settle before their net result is told. */
    settleMinutes: z.number().int().min(0).max(60),
    /** Where a yearly 29 February falls in a common year. */
    leapDay: z.enum(['28 February', '1 March']),
    /** How many promotional messages a client gets a day, and their distance from any other message. */
    promotionalPerDay: z.number().int().min(1),
    promotionalGapHours: z.number().int().min(0),
    /** Below this many minutes a move is too small to send a reminder again. */
    moveThresholdMinutes: z.number().int().min(0),
    /** A second sender several people write as; null: there is none. */
    sharedMailbox: z
      .object({ name: oneLine(120), address: emailAddress })
      .strict()
      .nullable(),
    /** Where answers go; null: to the sender. */
    replyTo: emailAddress.nullable(),
    /** How many messages the main mail account takes. */
    allowance,
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type Business = z.infer<typeof business>

export const personId = idOf('pe')
/** What somebody of the team may do: everything, the work with clients, or look. */
export const roles = ['owner', 'helper', 'onlooker'] as const

/** A time in which somebody of the team is away, both days counted, and who stands in. */
export const away = z
  .object({
    from: isoDate,
    to: isoDate,
    /** Null: nobody. */
    standInId: personId.nullable(),
  })
  .strict()
  .refine(({ from, to }) => from <= to, { message: 'It ends before it begins.', path: ['to'] })

/** What stands under messages beside the name: some lines, and a picture. */
export const signature = z.object({ text: severalLines(300), pictureId: pictureId.nullable() }).strict()
export const noSignature: z.infer<typeof signature> = { text: '', pictureId: null }

export const person = z
  .object({
    id: personId,
    name: requiredLine(120, 'A person needs a name.'),
    email: emailAddress,
    role: z.enum(roles),
    isActive: z.boolean(),
    /** When they can be booked, on the clock of the business; null: whenever what they do is offered. */
    hours: openingHours.nullable(),
    /** Where answers to messages in their name go; null: to their own address. */
    replyTo: emailAddress.nullable(),
    signature,
    away: z.array(away).max(50, 'At most 50 times away.'),
    /** Who has taken over what was theirs, once they have left; null: nobody. */
    handedToId: personId.nullable(),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type Person = z.infer<typeof person>

/** What is not said of somebody of the team yet. */
export const plainPerson = {
  hours: null,
  replyTo: null,
  signature: noSignature,
  away: [],
  handedToId: null,
} as const satisfies Partial<Person>

export const serviceId = idOf('sv')
export const service = z
  .object({
    id: serviceId,
    name: requiredLine(120, 'A service needs a name.'),
    place: oneLine(200),
    /** Zone of the place where it happens; null: that of the business. */
    placeZone: z.string().nullable(),
    durationMinutes: z
      .number()
      .int()
      .min(1, 'At least 1 minute.')
      .max(14 * 24 * 60, 'At most 14 days.'),
    /** How many people one start time can take. */
    seats: z.number().int().min(1, 'At least one seat.').max(1_000_000, 'At most 1,000,000 seats.'),
    offer,
    isActive: z.boolean(),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type Service = z.infer<typeof service>
