import { isBefore, type Span, type Step } from '../model/sequence.ts'
import { dayMs, hourMs, minuteMs } from '../time/calendar.ts'

const writtenUnitMs: Readonly<Record<Span['unit'], number>> = {
  minutes: minuteMs,
  hours: hourMs,
  days: dayMs,
  weeks: 7 * dayMs,
  months: 28 * dayMs,
  years: 12 * 28 * dayMs,
}

/** A span's length for comparing what is written: a day counts 24 hours, a month 28 days. */
export function writtenLengthMs(of: Span): number {
  return of.amount * writtenUnitMs[of.unit]
}

/** Why a step cannot be used, as a sentence for the person who wrote it; null when it can. */
export function stepFault(step: Step): string | null {
  if (step.lead === null) return null
  if (!isBefore(step.timing)) {
    return 'Only a step before its anchor can have a lead.'
  }
  if (writtenLengthMs(step.lead) > writtenLengthMs(step.timing)) {
    return `The lead of ${step.lead.amount} ${step.lead.unit} is longer than the step's own offset of ${step.timing.amount} ${step.timing.unit}.`
  }
  return null
}

const singular = (unit: Span['unit']) => unit.slice(0, -1)

/** `1 day`, `3 hours` */
export function spanWords({ amount, unit }: Span): string {
  return `${amount} ${amount === 1 ? singular(unit) : unit}`
}
