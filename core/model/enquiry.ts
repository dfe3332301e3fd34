import { z } from 'zod'
import { bookingId, givenAnswer } from './booking.ts'
import { personId, serviceId } from './business.ts'
import { clientId, contactId } from './client.ts'
import { pipelineId } from './pipeline.ts'
import { idOf, instant, isoDate, oneLine, severalLines } from './values.ts'

export const enquiryId = idOf('en')

/** A line of a checklist that is done. */
export const tick = z
  .object({
    lineId: z.string().min(1),
    /** The line's sentence for the client; null: it is for the business alone. */
    sentence: z.string().nullable(),
    /** When it was ticked; null: it was unticked again. */
    at: instant.nullable(),
    /** When the client was told; null: not yet. */
    toldAt: instant.nullable(),
    /** Who ticked it, or unticked it; null: not known, or by itself. */
    personId: personId.nullable().default(null),
  })
  .strict()
export type Tick = z.infer<typeof tick>

/** Who of the client's contacts hears of it; nobody chosen: the primary one. */
export const contactIds = z.array(contactId).max(20, 'At most 20 contacts.')

/** What a client asks for, as far as it is known. */
export const wish = z
  .object({
    serviceId: serviceId.nullable(),
    /** What it is for, in a few words. */
    what: oneLine(200),
    /** The date wished for; null: none yet. */
    wishedOn: isoDate.nullable(),
    partySize: z
      .number('Give a number of people.')
      .int('A whole number of people.')
      .min(1, 'At least one person.')
      .max(500, 'At most 500 people.')
      .nullable(),
    budgetCents: z
      .number('Give an amount, such as 1200 or 99.50.')
      .int('Whole cents.')
      .min(0, 'Not below nothing.')
      .max(1_000_000_000, 'At most 10,000,000.')
      .nullable(),
    /** Where it came from, such as a fair or a friend. */
    source: oneLine(120),
    /** What was asked and answered beside that. */
    answers: z.array(givenAnswer).max(40, 'At most 40 answers.'),
  })
  .strict()
export type Wish = z.infer<typeof wish>

export const enquiry = z
  .object({
    id: enquiryId,
    clientId,
    pipelineId,
    ...wish.shape,
    stage: z.string().min(1),
    receivedAt: instant,
    /** When each stage was last entered. */
    stageAt: z.record(z.string(), instant),
    /** When the date wished for was last set. */
    wishedSetAt: instant.nullable(),
    deadlineOn: isoDate.nullable(),
    deadlineSetAt: instant.nullable(),
    personInChargeId: personId.nullable(),
    contactIds,
    /** Why it came to nothing; empty: it did not, or nobody said. */
    lostReason: severalLines(500),
    /** The booking that came of it; null: none. */
    bookingId: bookingId.nullable(),
    /** Whether what is ticked is told in evening letters, since when, and whether that counts for earlier ticks. */
    evening: z.object({ onAt: instant, tellsEarlier: z.boolean() }).strict().nullable(),
    /** Lines of its checklists that are ticked. */
    ticks: z.array(tick),
    /** Counts what people change of it. */
    revision: z.number().int().min(1),
  })
  .strict()
export type Enquiry = z.infer<typeof enquiry>

/** Nothing is known yet of what is wished for. */
export const nothingWished: Wish = {
  serviceId: null,
  what: '',
  wishedOn: null,
  partySize: null,
  budgetCents: null,
  source: '',
  answers: [],
}

type Asked = Pick<Enquiry, 'id' | 'clientId' | 'pipelineId' | 'stage'> &
  Partial<Wish> &
  Partial<Pick<Enquiry, 'deadlineOn' | 'personInChargeId'>>

/** An enquiry as it comes in now. */
export const newEnquiry = (asked: Asked, now: number): Enquiry => ({
  ...nothingWished,
  deadlineOn: null,
  personInChargeId: null,
  ...asked,
  receivedAt: now,
  stageAt: { [asked.stage]: now },
  wishedSetAt: now,
  deadlineSetAt: now,
  contactIds: [],
  lostReason: '',
  bookingId: null,
  evening: null,
  ticks: [],
  revision: 1,
})
