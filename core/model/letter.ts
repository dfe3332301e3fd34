import { z } from 'zod'
import { idOf, requiredLine } from './values.ts'

export const letterId = idOf('lt')

/** The merge fields a letter can carry. */
export const fieldNames = [
  'contact.firstName',
  'contact.fullName',
  'client.name',
  'booking.service',
  'booking.place',
  'booking.date',
  'booking.time',
  'booking.endTime',
  'booking.partySize',
  'booking.dayFromSending',
  'person.name',
  'business.name',
  'business.phone',
  'business.postalAddress',
] as const
export const fieldName = z.enum(fieldNames)
export type FieldName = z.infer<typeof fieldName>

/** What happens when a field has no value: another word stands in, or the message is held for a person. */
export const missingRule = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('substitute'), text: z.string().min(1).max(200) }).strict(),
  z.object({ kind: z.literal('hold') }).strict(),
])

export const inline = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text'), text: z.string(), strong: z.boolean().optional() }).strict(),
  z.object({ kind: z.literal('field'), field: fieldName, ifMissing: missingRule }).strict(),
])
export type Inline = z.infer<typeof inline>

export const section = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('heading'), content: z.array(inline) }).strict(),
  z.object({ kind: z.literal('text'), paragraphs: z.array(z.array(inline)) }).strict(),
  z.object({ kind: z.literal('facts') }).strict(),
  z.object({ kind: z.literal('divider') }).strict(),
  z.object({ kind: z.literal('signature') }).strict(),
])
export type Section = z.infer<typeof section>

export const letter = z
  .object({
    id: letterId,
    name: requiredLine(120, 'A letter needs a name.'),
    moment: z.enum(['asked', 'booked', 'before', 'the day', 'after', 'later', 'any time']),
    subject: z.array(inline).min(1),
    sections: z.array(section).min(1),
    version: z.number().int().min(1),
  })
  .strict()
export type Letter = z.infer<typeof letter>
