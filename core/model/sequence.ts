import { z } from 'zod'
import { bookingStatus } from './booking.ts'
import { serviceId } from './business.ts'
import { clientId } from './client.ts'
import { condition } from './condition.ts'
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

/** Units of exact elapsed time, of elapsed time within office hours, and of the calendar; never mixed. */
export const exactUnit = z.enum(['minutes', 'hours', 'business hours'])
export const calendarUnit = z.enum(['days', 'working days', 'weeks', 'months', 'years'])
export type ExactUnit = z.infer<typeof exactUnit>
export type CalendarUnit = z.infer<typeof calendarUnit>

export const amount = z.number().int().min(0).max(10_000)
export const span = z.object({ amount, unit: z.union([exactUnit, calendarUnit]) }).strict()
export type Span = z.infer<typeof span>

/** What a time hangs on. */
export const anchor = z.discriminatedUnion('of', [
  z.object({ of: z.literal('booking made') }).strict(),
  /** Of several sessions each, the first or the last. */
  z
    .object({ of: z.literal('booking start'), session: z.enum(['each', 'first', 'last']).optional() })
    .strict(),
  z.object({ of: z.literal('booking end'), session: z.enum(['each', 'first', 'last']).optional() }).strict(),
  /** The last change to that status. */
  z.object({ of: z.literal('booking status'), status: bookingStatus }).strict(),
  z.object({ of: z.literal('enquiry received') }).strict(),
  z.object({ of: z.literal('enquiry stage'), stage: z.string().min(1) }).strict(),
  z.object({ of: z.literal('enquiry wished date') }).strict(),
  z.object({ of: z.literal('enquiry deadline') }).strict(),
  z.object({ of: z.literal('invoice issued') }).strict(),
  z.object({ of: z.literal('invoice due') }).strict(),
  z.object({ of: z.literal('invoice paid') }).strict(),
  z.object({ of: z.literal('list joined'), list: z.string().min(1) }).strict(),
  z.object({ of: z.literal('tag added'), tag: z.string().min(1) }).strict(),
  z.object({ of: z.literal('run started') }).strict(),
])
export type Anchor = z.infer<typeof anchor>

const direction = z.enum(['before', 'after'])

/**
 * When a step goes: at once; some elapsed time before or after an anchor; some days or longer counted on the
 * calendar; some time after the previous step is done; or every year on a named date of the client. Only calendar
 * counting takes a time of day.
 */
export const timing = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('at once') }).strict(),
  z.object({ kind: z.literal('elapsed'), amount, unit: exactUnit, direction, anchor }).strict(),
  z
    .object({
      kind: z.literal('calendar'),
      amount,
      unit: calendarUnit,
      direction,
      anchor,
      atTime: timeOfDay.nullable(),
    })
    .strict(),
  z.object({ kind: z.literal('after previous'), ...span.shape, atTime: timeOfDay.nullable() }).strict(),
  z
    .object({ kind: z.literal('yearly'), label: z.string().min(1), daysBefore: amount, atTime: timeOfDay })
    .strict(),
])
export type Timing = z.infer<typeof timing>
export type OffsetTiming = Extract<Timing, { anchor: Anchor }>

/** Whether a step hangs before its anchor. */
export function isBefore(of: Timing): of is OffsetTiming {
  return (of.kind === 'elapsed' || of.kind === 'calendar') && of.direction === 'before'
}

/** The time of day a step sets, or null. */
export function setTimeOfDay(of: Timing): string | null {
  return 'atTime' in of ? of.atTime : null
}

/** A step that comes again until a condition holds, an anchor passes or a maximum is reached: one of them at least. */
export const repeat = z
  .object({
    every: span,
    untilCondition: condition.nullable(),
    untilAnchor: anchor.nullable(),
    atMost: z.number().int().min(1).max(1000).nullable(),
  })
  .strict()
  .refine(
    ({ untilCondition, untilAnchor, atMost }) =>
      untilCondition !== null || untilAnchor !== null || atMost !== null,
    'A repeat needs an end: a condition, an anchor or a maximum.',
  )
export type Repeat = z.infer<typeof repeat>

export const sendingHoursRule = z.enum(['earlier', 'later', 'ignore'])
export type SendingHoursRule = z.infer<typeof sendingHoursRule>
export const ifLate = z.enum(['drop', 'send now'])
export type IfLate = z.infer<typeof ifLate>
export const ifMoved = z.enum(['send again', 'leave'])
export type IfMoved = z.infer<typeof ifMoved>

/** Who gets a step's message. */
export const recipients = z.enum(['primary contact', 'all contacts'])
export type Recipients = z.infer<typeof recipients>

export const step = z
  .object({
    id: stepId,
    kind: z.literal('mail'),
    letterId,
    purpose,
    timing,
    repeat: repeat.nullable().default(null),
    recipients: recipients.default('primary contact'),
    /** Tested at each sending; where it does not hold the message is skipped. */
    onlyIf: condition.nullable().default(null),
    /** Waits for a person's approval. */
    needsApproval: z.boolean().default(false),
    /** How long before its anchor a before-step must have gone; null: the default of the rules. */
    lead: span.nullable().default(null),
    /** How long after its wanted time it is still of use; null: as the purpose says. */
    usefulFor: span.nullable().default(null),
    /** Each null: as the purpose says. */
    sendingHours: sendingHoursRule.nullable().default(null),
    ifLate: ifLate.nullable().default(null),
    ifMoved: ifMoved.nullable().default(null),
    /** Among promotional messages of one client: 1 is planned first. */
    priority: z.number().int().min(1).max(9).default(5),
  })
  .strict()
export type Step = z.infer<typeof step>

export const sequenceState = z.enum(['draft', 'live', 'paused'])

/** What can set a run going. The act starts it; being so already does nothing. */
export const startEvent = z.enum([
  'booking requested',
  'booking confirmed',
  'booking moved',
  'booking cancelled',
  'booking completed',
  'booking missed',
  'enquiry received',
  'enquiry stage entered',
  'invoice issued',
  'invoice paid',
  'tag added',
  'list joined',
  'form received',
  'signed',
])
export type StartEvent = z.infer<typeof startEvent>

/** Whether a sequence can start again for somebody it has run for. */
export const startAgain = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('once per client') }).strict(),
  z.object({ kind: z.literal('once per subject') }).strict(),
  /** Every time, with at least so long between two starts. */
  z.object({ kind: z.literal('every time'), gap: span.nullable() }).strict(),
])

/** What sets a run going, under which conditions, and whether again. */
export const startRule = z
  .object({
    on: startEvent,
    /** Which stage, tag, list or form; null: any. */
    name: z.string().min(1).nullable().default(null),
    /** Only for these services; empty: for all. */
    serviceIds: z.array(serviceId).default([]),
    onlyIf: condition.nullable().default(null),
    again: startAgain.default({ kind: 'once per subject' }),
  })
  .strict()
export type StartRule = z.infer<typeof startRule>

/** What ends a run: something that happens to its subject, or something the client does. */
export const stopRule = z
  .object({
    on: z.enum([...startEvent.options, 'answered', 'booked']),
    name: z.string().min(1).nullable().default(null),
  })
  .strict()
export type StopRule = z.infer<typeof stopRule>

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

/** What a run works for. */
export const subject = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('booking'), id: idOf('bk') }).strict(),
  z.object({ kind: z.literal('enquiry'), id: idOf('en') }).strict(),
  z.object({ kind: z.literal('invoice'), id: idOf('in') }).strict(),
  z.object({ kind: z.literal('client'), id: clientId }).strict(),
])
export type Subject = z.infer<typeof subject>

/** One sequence at work for one subject. */
export const run = z
  .object({
    id: runId,
    sequenceId,
    version: z.number().int().min(1),
    clientId,
    subject,
    state: runState,
    startedAt: instant,
    stoppedAt: instant.nullable(),
    stoppedReason: z.string().nullable(),
  })
  .strict()
export type Run = z.infer<typeof run>
