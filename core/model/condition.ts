import { z } from 'zod'

/** What a condition can ask about. Each field says which facts it needs; without them it has no value. */
export const conditionFields = [
  'booking.status',
  'booking.own status',
  'booking.status ever reached',
  'booking.service',
  'booking.party size',
  'booking.hours until start',
  'booking.hours between booking and start',
  'booking.start: weekday',
  'booking.start: hour',
  'booking.start: working day',
  'booking.made: weekday',
  'booking.made: hour',
  'booking.made: working day',
  'enquiry.stage',
  'enquiry.service',
  'invoice.paid',
  'invoice.amount',
  'invoice.asks for',
  'client.tag',
  'client.list',
  'client.language',
  'client.takes promotional mail',
  'client.has a booking ahead',
  'since the run started: answered',
  'since the run started: opened',
  'since the run started: followed a link',
  'since the run started: form received',
  'since the run started: signed',
  'since the run started: booked',
] as const
export const conditionField = z.enum(conditionFields)
export type ConditionField = z.infer<typeof conditionField>

export const comparison = z.enum(['is', 'is not', 'is one of', 'is none of', 'is at least', 'is at most'])
export type Comparison = z.infer<typeof comparison>

const operand = z.union([z.string(), z.number(), z.boolean()])
export type Operand = z.infer<typeof operand>

/** One question about one fact. */
export const test = z
  .object({ field: conditionField, comparison, value: z.union([operand, z.array(operand)]) })
  .strict()
export type Test = z.infer<typeof test>

/** Tests joined by all, any or none, nested as deep as one likes. */
export type Condition =
  | Test
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly none: readonly Condition[] }

export const condition: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    test,
    z.object({ all: z.array(condition) }).strict(),
    z.object({ any: z.array(condition) }).strict(),
    z.object({ none: z.array(condition) }).strict(),
  ]),
)
