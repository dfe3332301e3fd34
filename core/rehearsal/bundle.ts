import { z } from 'zod'
import { bookingId, bookingStatus } from '../model/booking.ts'
import { allowance, noAllowance } from '../model/allowance.ts'
import { personId, serviceId } from '../model/business.ts'
import { interval } from '../model/openingHours.ts'
import { clientId, contactId, namedDate } from '../model/client.ts'
import { letterContent, letterId } from '../model/letter.ts'
import { startRule, stopRule } from '../model/sequence.ts'
import { sequenceId, step } from '../model/step.ts'
import { emailAddress, isoDate, language } from '../model/values.ts'
import { invoiceId } from '../model/dealings.ts'
import { enquiryId } from '../model/enquiry.ts'
import { act, bundleVariation, momentText, sessions } from './acts.ts'

const hours = z
  .object({
    /** Seven lists, Monday first. */
    weekly: z.array(z.array(interval)).length(7),
    holidays: z.enum(['open', 'closed']).default('open'),
    closedDates: z.array(isoDate).default([]),
  })
  .strict()

const always = { weekly: Array.from({ length: 7 }, () => [{ from: '00:00', to: '24:00' as const }]) }
const dayAndNight = hours.parse(always)

const bundleBusiness = z
  .object({
    zone: z.string().min(1),
    sendingHours: hours.default(dayAndNight),
    officeHours: hours.default(dayAndNight),
    /** Public holidays: those of a region, or explicit dates. */
    holidays: z
      .union([
        z
          .object({ country: z.string().length(2), subdivision: z.string().nullable().default(null) })
          .strict(),
        z.object({ dates: z.array(isoDate) }).strict(),
      ])
      .default({ dates: [] }),
    leapDay: z.enum(['28 February', '1 March']).default('28 February'),
    settleMinutes: z.number().int().min(0).max(60).default(2),
    moveThresholdMinutes: z.number().int().min(0).default(15),
    completesAfterHours: z.number().int().min(0).default(12),
    promotionalPerDay: z.number().int().min(1).default(1),
    promotionalGapHours: z.number().int().min(0).default(24),
    /** How many messages the mail account takes, all clients together; null: no limit. */
    allowance: allowance.default(noAllowance),
  })
  .strict()

const bundleService = z.object({ id: serviceId, placeZone: z.string().nullable().default(null) }).strict()

const bundleContact = z
  .object({
    id: contactId,
    firstName: z.string().default(''),
    lastName: z.string().default(''),
    email: emailAddress.nullable(),
    phone: z.string().default(''),
    isPrimary: z.boolean().default(false),
  })
  .strict()

const bundleClient = z
  .object({
    id: clientId,
    name: z.string().min(1).default('Client'),
    zone: z.string().nullable().default(null),
    contacts: z.array(bundleContact).min(1),
    namedDates: z.array(namedDate).default([]),
    tags: z.array(z.string()).default([]),
    takesPromotional: z.boolean().default(true),
    isActive: z.boolean().default(true),
    language: language.default('en'),
  })
  .strict()

const person = z
  .object({ id: personId, name: z.string().min(1), email: emailAddress, isActive: z.boolean().default(true) })
  .strict()

const bundleSequence = z
  .object({
    id: sequenceId,
    name: z.string().min(1).optional(),
    state: z.enum(['draft', 'live', 'paused']).default('live'),
    /** Acts strictly after this start runs; left out: it was always live. */
    liveSince: momentText.optional(),
    start: startRule,
    steps: z.array(step).min(1),
    stops: z.array(stopRule).default([]),
  })
  .strict()

const { name, moment, subject, sections } = letterContent.shape
const bundleLetter = z
  .object({
    id: letterId,
    name,
    moment: moment.default('any time'),
    class: letterContent.shape.class.default('service'),
    language: letterContent.shape.language.default('en'),
    letterhead: letterContent.shape.letterhead.default('none'),
    subject,
    preheader: letterContent.shape.preheader.default([]),
    sections,
    variants: letterContent.shape.variants.default([]),
    attachments: letterContent.shape.attachments,
  })
  .strict()

/** A booking that is there already: it starts nothing by itself. */
const bundleBooking = z
  .object({
    id: bookingId,
    clientId,
    serviceId,
    start: momentText,
    end: momentText,
    status: bookingStatus,
    madeAt: momentText,
    personInChargeId: personId.nullable().default(null),
    sessions: sessions.default([]),
  })
  .strict()

const bundleEnquiry = z
  .object({
    id: enquiryId,
    clientId,
    serviceId: serviceId.nullable().default(null),
    stage: z.string().min(1),
    receivedAt: momentText,
    wishedOn: isoDate.nullable().default(null),
    deadlineOn: isoDate.nullable().default(null),
    personInChargeId: personId.nullable().default(null),
  })
  .strict()

const bundleInvoice = z
  .object({
    id: invoiceId,
    clientId,
    bookingId: bookingId.nullable().default(null),
    issuedAt: momentText,
    dueOn: isoDate.nullable().default(null),
    paidAt: momentText.nullable().default(null),
    amountCents: z.number().int().min(0).default(0),
    isFee: z.boolean().default(false),
  })
  .strict()

/** A list in which nothing stands twice. */
const eachOnce = <Item extends z.ZodType<{ readonly id: string }>>(item: Item) =>
  z.array(item).superRefine((all, context) => {
    const known = new Set<string>()
    all.forEach(({ id }, index) => {
      if (known.has(id)) {
        context.addIssue({
          code: 'custom',
          path: [index, 'id'],
          message: `There is another ${id} in this list.`,
        })
      }
      known.add(id)
    })
  })

/** Everything a plan is made of: who, what, the rules, what happened, and the present moment. */
export const bundle = z
  .object({
    format: z.literal('vorfreude-bundle-1'),
    now: momentText,
    business: bundleBusiness,
    services: eachOnce(bundleService),
    people: eachOnce(person).default([]),
    clients: eachOnce(bundleClient).min(1),
    /** Facts that are there already when the first event happens: they start nothing by themselves. */
    bookings: eachOnce(bundleBooking).default([]),
    enquiries: eachOnce(bundleEnquiry).default([]),
    invoices: eachOnce(bundleInvoice).default([]),
    /** Letters whose fields count; a letter that is only named in a step needs nothing. */
    letters: eachOnce(bundleLetter).default([]),
    /** What differs in single steps for services and clients. */
    variations: z.array(bundleVariation).default([]),
    sequences: eachOnce(bundleSequence),
    /** What happened, in any order; acts after `now` have not happened yet. */
    events: z.array(act),
  })
  .strict()
export type Bundle = z.infer<typeof bundle>

/** A bundle with a script of what happens after its present moment, and until when to play it. */
export const rehearsalBundle = bundle.extend({ script: z.array(act), until: momentText }).strict()
export type RehearsalBundle = z.infer<typeof rehearsalBundle>
