import { z } from 'zod'
import { sendDecision } from '../engine/commands/sendCommands.ts'
import { sequenceDraft } from '../engine/commands/sequenceCommands.ts'
import { bookingId } from '../model/booking.ts'
import { personId, serviceId } from '../model/business.ts'
import { clientId } from '../model/client.ts'
import { happening, invoiceId } from '../model/dealings.ts'
import { enquiryId } from '../model/enquiry.ts'
import { sequenceId, stepId } from '../model/step.ts'
import { variation } from '../model/variation.ts'
import { isoDate } from '../model/values.ts'

/** A moment: ISO 8601 with an offset, or a local reading (of the business's clock, for starts and ends the place's). */
export const momentText = z
  .string()
  .regex(
    /^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d{1,3})?)?(Z|[+-](0\d|1[0-4]):[0-5]\d)?$/,
    'A moment looks like 2026-05-14T07:40 or 2026-05-14T07:40:00+02:00, on the 24-hour clock.',
  )
  .refine((text) => isoDate.safeParse(text.slice(0, 10)).success, {
    message: 'There is no such day in the calendar.',
  })

/** What differs in one step; its id and the moment of its making are the player's. */
export const bundleVariation = variation.omit({ id: true, timingSetAt: true }).strict()

const of = { at: momentText, clientId }
export const sessions = z.array(z.object({ start: momentText, end: momentText }).strict())

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
      personInChargeId: personId.nullable().default(null),
      sessions: sessions.default([]),
    })
    .strict(),
  z.object({ act: z.literal('confirm'), ...of, bookingId }).strict(),
  /** To other times, ahead or past; sessions not given move along with the start. */
  z
    .object({
      act: z.literal('move'),
      ...of,
      bookingId,
      start: momentText,
      end: momentText,
      sessions: sessions.optional(),
    })
    .strict(),
  z.object({ act: z.literal('cancel'), ...of, bookingId }).strict(),
  z.object({ act: z.literal('miss'), ...of, bookingId }).strict(),
  /** A person says that it has taken place. */
  z.object({ act: z.literal('complete'), ...of, bookingId }).strict(),
  z.object({ act: z.literal('settle now'), ...of, bookingId }).strict(),
  z
    .object({
      act: z.literal('enquire'),
      ...of,
      id: enquiryId,
      serviceId: serviceId.nullable().default(null),
      stage: z.string().min(1),
      wishedOn: isoDate.nullable().default(null),
      deadlineOn: isoDate.nullable().default(null),
      personInChargeId: personId.nullable().default(null),
    })
    .strict(),
  z.object({ act: z.literal('enter stage'), ...of, enquiryId, stage: z.string().min(1) }).strict(),
  /** Another date wished for, or none any more. */
  z.object({ act: z.literal('wish'), ...of, enquiryId, wishedOn: isoDate.nullable() }).strict(),
  z
    .object({
      act: z.literal('issue invoice'),
      ...of,
      id: invoiceId,
      bookingId: bookingId.nullable().default(null),
      dueOn: isoDate.nullable().default(null),
      amountCents: z.number().int().min(0).default(0),
      isFee: z.boolean().default(false),
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
      decision: sendDecision,
    })
    .strict(),
  z.object({ act: z.literal('postpone'), ...of, sequenceId, stepId, to: momentText }).strict(),
  z
    .object({
      act: z.literal('tick'),
      ...of,
      enquiryId,
      lineId: z.string().min(1),
      /** What the client is told; null: the line is for the business alone. */
      sentence: z.string().nullable().default(null),
    })
    .strict(),
  z.object({ act: z.enum(['untick', 'tell again']), ...of, enquiryId, lineId: z.string().min(1) }).strict(),
  z
    .object({
      act: z.literal('evening letters'),
      ...of,
      enquiryId,
      isOn: z.boolean(),
      tellsEarlier: z.boolean().default(false),
    })
    .strict(),
  /** What differs for one client from now on. */
  z.object({ act: z.literal('vary'), ...of, ...bundleVariation.omit({ scope: true }).shape }).strict(),
  /** A person ends a client's runs of a sequence. */
  z.object({ act: z.literal('stop'), ...of, sequenceId }).strict(),
  /** All sending, or one sequence, is held back or goes on. */
  z
    .object({
      act: z.literal('switch'),
      at: momentText,
      sequenceId: sequenceId.nullable().default(null),
      isOn: z.boolean(),
    })
    .strict(),
  /** A sequence gets a new version; running runs keep theirs unless they are moved. */
  z
    .object({
      act: z.literal('change sequence'),
      at: momentText,
      sequenceId,
      ...sequenceDraft.shape,
      movesRunning: z.boolean().default(false),
    })
    .strict(),
  /** The machine is off until a moment; then it catches up. Nothing can be done meanwhile. */
  z.object({ act: z.literal('machine off'), at: momentText, until: momentText }).strict(),
  /** A sequence starts for those who were there already. */
  z.object({ act: z.literal('include'), at: momentText, sequenceId }).strict(),
])
export type Act = z.infer<typeof act>
/** An act that concerns one client; the others concern all. */
export type ActOn = Extract<Act, { clientId: string }>
