import { spanWords } from '../sequences/span.ts'
import { addCalendar, addExact } from '../time/arithmetic.ts'
import { minuteOfDay } from '../time/calendar.ts'
import type { Moment } from './moment.ts'
import { anchorInstant, anchorWords, inWords, type StepFacts } from './stepFacts.ts'

export interface Wanted {
  readonly moment: Moment
  /** Value of the anchor, part of the send's key; empty for "at once". */
  readonly anchorValue: string
}

function offsetTarget({ step: { timing }, run, booking, zone }: StepFacts): number {
  if (timing.kind === 'at once') return run.startedAt
  const anchorAt = anchorInstant(timing.anchor, booking)
  const signed = timing.direction === 'before' ? -timing.amount : timing.amount
  if (timing.kind === 'elapsed') return addExact(anchorAt, signed, timing.unit)
  const atMinute = timing.atTime === null ? null : minuteOfDay(timing.atTime)
  const target = addCalendar(zone, anchorAt, signed, timing.unit, atMinute)
  const isTooEarly = timing.direction === 'after' && target < anchorAt
  return isTooEarly ? addCalendar(zone, target, 1, 'days', atMinute) : target
}

/**
 * Rules 1 to 3: the anchor's value, the offset, the time of day. An after-step whose time of day falls
 * before its anchor takes the next day.
 */
export function wantedTime(facts: StepFacts): Wanted {
  const { step, run, booking } = facts
  const { timing } = step
  if (timing.kind === 'at once') {
    const sentence = `At once: the sequence started ${inWords(facts, run.startedAt)}.`
    const line = { rule: 'wanted', before: null, after: run.startedAt, code: 'at once', sentence }
    return { moment: { at: run.startedAt, dropped: null, trace: [line] }, anchorValue: '' }
  }
  const anchorAt = anchorInstant(timing.anchor, booking)
  const at = offsetTarget(facts)
  const timeWords = timing.kind === 'calendar' && timing.atTime !== null ? `, at ${timing.atTime}` : ''
  const sentence =
    `${spanWords(timing)} ${timing.direction} ${anchorWords[timing.anchor]} ` +
    `(${inWords(facts, anchorAt)})${timeWords}: ${inWords(facts, at)}.`
  const line = { rule: 'wanted', before: anchorAt, after: at, code: 'offset', sentence }
  return { moment: { at, dropped: null, trace: [line] }, anchorValue: String(anchorAt) }
}
