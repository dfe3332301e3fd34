import { z } from 'zod'
import { bookingStatus } from './booking.ts'
import { condition } from './condition.ts'
import type { SubjectKind } from './subject.ts'
import { timeOfDay } from './values.ts'

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
  /** For the business alone: tasks, tags, calls. No client hears of it. */
  'internal',
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
  /** The last change to that status of the business's own. */
  z.object({ of: z.literal('booking own status'), status: z.string().min(1) }).strict(),
  /** The end of the settle time of its last move. */
  z.object({ of: z.literal('booking moved') }).strict(),
  z.object({ of: z.literal('enquiry received') }).strict(),
  z.object({ of: z.literal('enquiry stage'), stage: z.string().min(1) }).strict(),
  z.object({ of: z.literal('enquiry wished date') }).strict(),
  z.object({ of: z.literal('enquiry deadline') }).strict(),
  z.object({ of: z.literal('invoice issued') }).strict(),
  z.object({ of: z.literal('invoice due') }).strict(),
  z.object({ of: z.literal('invoice paid') }).strict(),
  z.object({ of: z.literal('list joined'), list: z.string().min(1) }).strict(),
  z.object({ of: z.literal('tag added'), tag: z.string().min(1) }).strict(),
  /** The last time a step or a person stamped a date under this label. */
  z.object({ of: z.literal('date stamped'), label: z.string().min(1) }).strict(),
  z.object({ of: z.literal('run started') }).strict(),
])
export type Anchor = z.infer<typeof anchor>

interface AnchorTraits {
  /** Whose fact it is: only what happens to that can change it. */
  readonly about: SubjectKind | 'run'
  /** A calendar date without a time of day. */
  readonly isDate: boolean
  /** A date on which something is still in time: what comes before it may come on the day itself. */
  readonly isDeadline: boolean
}

const momentOf = (about: AnchorTraits['about']): AnchorTraits => ({ about, isDate: false, isDeadline: false })
const dateOf = (about: AnchorTraits['about'], isDeadline: boolean): AnchorTraits => ({
  about,
  isDate: true,
  isDeadline,
})

export const anchorTraits: Readonly<Record<Anchor['of'], AnchorTraits>> = {
  'booking made': momentOf('booking'),
  'booking start': momentOf('booking'),
  'booking end': momentOf('booking'),
  'booking status': momentOf('booking'),
  'booking own status': momentOf('booking'),
  'booking moved': momentOf('booking'),
  'enquiry received': momentOf('enquiry'),
  'enquiry stage': momentOf('enquiry'),
  'enquiry wished date': dateOf('enquiry', false),
  'enquiry deadline': dateOf('enquiry', true),
  'invoice issued': momentOf('invoice'),
  'invoice due': dateOf('invoice', true),
  'invoice paid': momentOf('invoice'),
  'list joined': momentOf('client'),
  'tag added': momentOf('client'),
  'date stamped': momentOf('client'),
  'run started': momentOf('run'),
}

const direction = z.enum(['before', 'after'])

/**
 * When a step goes: at once; some elapsed time before or after an anchor; some days or longer counted on the
 * calendar; some time after the previous step is done; every year on a named date of the client; or in the evening,
 * with what was ticked. Only calendar counting takes a time of day.
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
    .object({
      kind: z.literal('yearly'),
      label: z.string().min(1),
      daysBefore: amount.default(0),
      /** Some other time before or after the date, in the place of `daysBefore`; null: none. */
      offset: z.object({ amount, unit: calendarUnit, direction }).strict().nullable().default(null),
      atTime: timeOfDay,
    })
    .strict(),
  /** Of an enquiry: each day at this time, what was ticked for the client since the last such letter. */
  z.object({ kind: z.literal('evening'), atTime: timeOfDay }).strict(),
])
export type Timing = z.infer<typeof timing>
export type OffsetTiming = Extract<Timing, { anchor: Anchor }>

export type YearlyTiming = Extract<Timing, { kind: 'yearly' }>

/** How far a yearly step lies from its date. */
export function yearlyOffset({ daysBefore, offset }: YearlyTiming) {
  return offset ?? { amount: daysBefore, unit: 'days' as const, direction: 'before' as const }
}

/** Whether a step hangs before its anchor. On a yearly date itself it does not: only some time before. */
export function isBefore(of: Timing): of is OffsetTiming | YearlyTiming {
  if (of.kind === 'yearly') {
    const { amount: distance, direction: side } = yearlyOffset(of)
    return side === 'before' && distance > 0
  }
  return (of.kind === 'elapsed' || of.kind === 'calendar') && of.direction === 'before'
}

/** The time of day a step sets, or null. */
export function setTimeOfDay(of: Timing): string | null {
  return 'atTime' in of ? of.atTime : null
}

/** A step that comes again until a condition holds, an anchor passes or a maximum is reached: one of them at least. */
export const repeat = z
  .object({
    every: span.extend({ amount: amount.min(1, 'It comes again after some time, not at once.') }),
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
