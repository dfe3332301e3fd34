import { z } from 'zod'
import { serviceId } from './business.ts'
import { clientId } from './client.ts'
import { letterId } from './letter.ts'
import { idOf, instant, requiredLine, timeOfDay } from './values.ts'

export const sequenceId = idOf('sq')
export const runId = idOf('ru')
export const stepId = idOf('st')

export const purpose = z.enum([
  'confirmation',
  'change',
  'cancellation',
  'reminder',
  'preparation',
  'payment',
  'follow-up',
  'occasion',
  'promotional',
])
export type Purpose = z.infer<typeof purpose>

/** Units of exact elapsed time and units of the calendar; the two are never mixed. */
export const exactUnit = z.enum(['minutes', 'hours'])
export const calendarUnit = z.enum(['days', 'weeks', 'months', 'years'])
export type ExactUnit = z.infer<typeof exactUnit>
export type CalendarUnit = z.infer<typeof calendarUnit>

export const span = z.object({
  amount: z.number().int().min(0).max(10_000),
  unit: z.union([exactUnit, calendarUnit]),
})
export type Span = z.infer<typeof span>

/** What a time hangs on. */
export const anchor = z.enum(['booking start', 'booking end'])
export type Anchor = z.infer<typeof anchor>

const offsetBase = { amount: span.shape.amount, direction: z.enum(['before', 'after']), anchor }

/**
 * When a step goes: at once, some elapsed time before or after an anchor, or some days or longer counted on
 * the calendar. Only the last takes a time of day.
 */
export const timing = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('at once') }).strict(),
  z.object({ kind: z.literal('elapsed'), ...offsetBase, unit: exactUnit }).strict(),
  z
    .object({ kind: z.literal('calendar'), ...offsetBase, unit: calendarUnit, atTime: timeOfDay.nullable() })
    .strict(),
])
export type Timing = z.infer<typeof timing>

/** Whether a step hangs before its anchor. */
export function isBefore(of: Timing): of is Exclude<Timing, { kind: 'at once' }> {
  return of.kind !== 'at once' && of.direction === 'before'
}

export const sendingHoursRule = z.enum(['earlier', 'later', 'ignore'])
export type SendingHoursRule = z.infer<typeof sendingHoursRule>
export const ifLate = z.enum(['drop', 'send now'])
export type IfLate = z.infer<typeof ifLate>
export const ifMoved = z.enum(['send again', 'leave'])
export type IfMoved = z.infer<typeof ifMoved>

export const step = z
  .object({
    id: stepId,
    kind: z.literal('mail'),
    letterId,
    purpose,
    timing,
    /** How long before its anchor a before-step must have gone; null: the default of the rules. */
    lead: span.nullable(),
    /** Each null: as the purpose says. */
    sendingHours: sendingHoursRule.nullable(),
    ifLate: ifLate.nullable(),
    ifMoved: ifMoved.nullable(),
  })
  .strict()
export type Step = z.infer<typeof step>

export const sequenceState = z.enum(['draft', 'live', 'paused'])

/** What sets a run going. */
export const startRule = z
  .object({
    event: z.literal('booking confirmed'),
    /** Only for these services; empty: for all. */
    serviceIds: z.array(serviceId),
  })
  .strict()

export const stopRule = z.enum(['booking cancelled'])

/** One version of a sequence. Running runs keep the version they started with. */
export const sequenceVersion = z
  .object({
    sequenceId,
    version: z.number().int().min(1),
    start: startRule,
    steps: z.array(step).min(1),
    stops: z.array(stopRule),
  })
  .strict()
export type SequenceVersion = z.infer<typeof sequenceVersion>

export const sequence = z
  .object({
    id: sequenceId,
    name: requiredLine(120, 'A sequence needs a name.'),
    state: sequenceState,
    /** Acts strictly after this moment start runs; null while never live. */
    liveSince: instant.nullable(),
    currentVersion: z.number().int().min(1),
  })
  .strict()
export type Sequence = z.infer<typeof sequence>

export const runState = z.enum(['running', 'stopped'])

/** One sequence at work for one subject. */
export const run = z
  .object({
    id: runId,
    sequenceId,
    version: z.number().int().min(1),
    clientId,
    /** The booking it works for. */
    bookingId: idOf('bk'),
    state: runState,
    startedAt: instant,
    stoppedAt: instant.nullable(),
    stoppedReason: z.string().nullable(),
  })
  .strict()
export type Run = z.infer<typeof run>
