import { isBefore, type Anchor, type Span, type Step, type Timing } from '../model/sequence.ts'
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

const dateAnchors: readonly Anchor['of'][] = ['enquiry wished date', 'enquiry deadline', 'invoice due']

/** Whether an anchor is a calendar date without a time of day. */
export function isDateAnchor({ of }: Anchor): boolean {
  return dateAnchors.includes(of)
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

function leadFault({ lead, timing }: Step): string | null {
  if (lead === null) return null
  if (!isBefore(timing)) return 'Only a step before its anchor can have a lead.'
  if (writtenLengthMs(lead) <= writtenLengthMs(timing)) return null
  return `The lead of ${spanWords(lead)} is longer than the step's own offset of ${spanWords(timing)}.`
}

/** Why a step cannot be used, as a sentence for the person who wrote it; null when it can. */
export function stepFault(step: Step): string | null {
  return timingFault(step.timing) ?? leadFault(step)
}

const singular = (unit: Span['unit']) => unit.slice(0, -1)

/** `1 day`, `3 hours` */
export function spanWords({ amount, unit }: Span): string {
  return `${amount} ${amount === 1 ? singular(unit) : unit}`
}
