import { isBranch, type PlainStep, type Step } from '../model/step.ts'
import { anchorTraits, isBefore, yearlyOffset, type Anchor, type Span, type Timing } from '../model/timing.ts'
import { repeatedIds } from './steps.ts'
import { dayMs, hourMs, minuteMs } from '../time/calendar.ts'

const writtenUnitMs: Readonly<Record<Span['unit'], number>> = {
  minutes: minuteMs,
  hours: hourMs,
  'business hours': hourMs,
  days: dayMs,
  'working days': dayMs,
  weeks: 7 * dayMs,
  months: 28 * dayMs,
  years: 12 * 28 * dayMs,
}

/** A span's length for comparing what is written: a day counts 24 hours, a month 28 days. */
export function writtenLengthMs(of: Span): number {
  return of.amount * writtenUnitMs[of.unit]
}

/** Whether an anchor is a calendar date without a time of day. */
export function isDateAnchor({ of }: Anchor): boolean {
  return anchorTraits[of].isDate
}

function timingFault(timing: Timing): string | null {
  if (timing.kind === 'elapsed' && isDateAnchor(timing.anchor)) {
    return 'Minutes, hours and business hours need a moment to count from; this anchor is a date.'
  }
  if (timing.kind === 'calendar' && isDateAnchor(timing.anchor) && timing.atTime === null) {
    return 'A step on a date needs a time of day.'
  }
  const isExact =
    timing.kind === 'after previous' && ['minutes', 'hours', 'business hours'].includes(timing.unit)
  return isExact && timing.atTime !== null ? 'A time of day goes only with days or longer.' : null
}

function leadFault({ lead, timing }: Pick<PlainStep, 'lead' | 'timing'>): string | null {
  if (lead === null) return null
  if (!isBefore(timing)) return 'Only a step before its anchor can have a lead.'
  const offset = timing.kind === 'yearly' ? yearlyOffset(timing) : timing
  if (writtenLengthMs(lead) <= writtenLengthMs(offset)) return null
  return `The lead of ${spanWords(lead)} is longer than the step's own offset of ${spanWords(offset)}.`
}

/** Why a timing with its lead cannot be used, as a sentence for the person who wrote it; null when it can. */
export function timingProblem(of: Pick<PlainStep, 'lead' | 'timing'>): string | null {
  return timingFault(of.timing) ?? leadFault(of)
}

/** Why a step, or one within its arms, cannot be used; null when it can. */
export function stepFault(step: Step): string | null {
  if (!isBranch(step)) return timingProblem(step)
  const within = [...step.yes, ...step.no].map(stepFault).find((fault) => fault !== null)
  return timingFault(step.timing) ?? within ?? null
}

/** Why the steps of a sequence cannot be used together; null when they can. */
export function stepsFault(steps: readonly Step[]): string | null {
  const [twice] = repeatedIds(steps)
  if (twice !== undefined) return `Two steps have the same id: ${twice}.`
  return steps.map(stepFault).find((fault) => fault !== null) ?? null
}

const singular = (unit: Span['unit']) => unit.slice(0, -1)

/** `1 day`, `3 hours` */
export function spanWords({ amount, unit }: Span): string {
  return `${amount} ${amount === 1 ? singular(unit) : unit}`
}
