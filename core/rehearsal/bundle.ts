import { z } from 'zod'
import { bookingId } from '../model/booking.ts'
import { interval, serviceId } from '../model/business.ts'
import { clientId, contactId, namedDate } from '../model/client.ts'
import { happening } from '../model/dealings.ts'
import { sequenceId, startRule, step, stepId, stopRule } from '../model/sequence.ts'
import { emailAddress, idOf, isoDate } from '../model/values.ts'

/** A moment: ISO 8601 with an offset, or a local reading (of the business's clock, for starts and ends the place's). */
export const momentText = z
  .string()
  .regex(
    /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,3})?)?(Z|[+-]\d{2}:\d{2})?$/,
    'A moment looks like 2026-05-14T07:40 or 2026-05-14T07:40:00+02:00.',
  )

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
  })
  .strict()

const bundleService = z.object({ id: serviceId, placeZone: z.string().nullable().default(null) }).strict()

const bundleContact = z
  .object({
    id: contactId,
    firstName: z.string().default(''),
    lastName: z.string().default(''),
    email: emailAddress.nullable(),
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
  })
  .strict()

const bundleSequence = z
  .object({
    id: sequenceId,
    name: z.string().min(1).optional(),
    /** Acts strictly after this start runs; left out: it was always live. */
    liveSince: momentText.optional(),
    start: startRule,
    steps: z.array(step).min(1),
    stops: z.array(stopRule).default([]),
  })
  .strict()

const enquiryId = idOf('en')
const invoiceId = idOf('in')
const of = { at: momentText, clientId }

/** Something that happens at a given time. */
export const act = z.discriminatedUnion('act', [
  z
    .object({
      act: z.literal('book'),
      ...of,
      id: bookingId,
      serviceId,
      start: momentText,
      end: momentText,
      status: z.enum(['requested', 'confirmed']),
      sessions: z.array(z.object({ start: momentText, end: momentText }).strict()).default([]),
    })
    .strict(),
  z.object({ act: z.literal('confirm'), ...of, bookingId }).strict(),
  z.object({ act: z.literal('move'), ...of, bookingId, start: momentText, end: momentText }).strict(),
  z.object({ act: z.literal('cancel'), ...of, bookingId }).strict(),
  z.object({ act: z.literal('miss'), ...of, bookingId }).strict(),
  z
    .object({
      act: z.literal('enquire'),
      ...of,
      id: enquiryId,
      serviceId: serviceId.nullable().default(null),
      stage: z.string().min(1),
      wishedOn: isoDate.nullable().default(null),
      deadlineOn: isoDate.nullable().default(null),
    })
    .strict(),
  z.object({ act: z.literal('enter stage'), ...of, enquiryId, stage: z.string().min(1) }).strict(),
  z
    .object({
      act: z.literal('issue invoice'),
      ...of,
      id: invoiceId,
      bookingId: bookingId.nullable().default(null),
      dueOn: isoDate.nullable().default(null),
      amountCents: z.number().int().min(0).default(0),
    })
    .strict(),
  z.object({ act: z.literal('set due date'), ...of, invoiceId, dueOn: isoDate.nullable() }).strict(),
  z.object({ act: z.literal('pay'), ...of, invoiceId }).strict(),
  z
    .object({ act: z.literal('client'), ...of, did: happening.shape.kind, name: z.string().default('') })
    .strict(),
  /** A person decides about the open message of a step. */
  z
    .object({
      act: z.literal('decide'),
      ...of,
      sequenceId,
      stepId,
      decision: z.enum(['approve', 'send now', 'skip', 'it went']),
    })
    .strict(),
])
export type Act = z.infer<typeof act>

/** Everything a plan is made of: who, what, the rules, what happened, and the present moment. */
export const bundle = z
  .object({
    format: z.literal('vorfreude-bundle-1'),
    now: momentText,
    business: bundleBusiness,
    services: z.array(bundleService),
    clients: z.array(bundleClient).min(1),
    sequences: z.array(bundleSequence),
    /** What happened, in any order; acts after `now` have not happened yet. */
    events: z.array(act),
  })
  .strict()
export type Bundle = z.infer<typeof bundle>

/** A bundle with a script of what happens after its present moment, and until when to play it. */
export const rehearsalBundle = bundle.extend({ script: z.array(act), until: momentText }).strict()
export type RehearsalBundle = z.infer<typeof rehearsalBundle>
