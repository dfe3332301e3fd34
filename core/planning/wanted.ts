import type { Reason } from '../model/send.ts'
import type { OffsetTiming, Timing } from '../model/timing.ts'
import { spanWords } from '../sequences/span.ts'
import { addCalendar, addExact, addToDay } from '../time/arithmetic.ts'
import { minuteOfDay } from '../time/calendar.ts'
import { instantAt } from '../time/zones.ts'
import { anchorWords } from '../sequences/anchorWords.ts'
import { valueWords, type AnchorValue } from './anchors.ts'
import type { Moment } from './moment.ts'
import { whyLeftOut, whyThen } from './reasons.ts'
import { inWords, type RunFacts } from './runFacts.ts'

/** Why a step's way of timing cannot be used with its anchor; thrown when a plan is made of it all the same. */
export class TimingFault extends Error {}

/** The target of an offset from an anchor's value; null where there are no office hours or working days to count. */
function offsetTarget(
  timing: OffsetTiming,
  value: AnchorValue,
  { zone, officeHours }: RunFacts,
): number | null {
  const { amount, direction } = timing
  if (timing.kind === 'elapsed') {
    if (value.kind === 'date')
      throw new TimingFault('Minutes and hours need a moment, not a date, to count from.')
    return addExact(value.at, direction === 'before' ? -amount : amount, timing.unit, officeHours)
  }
  const atMinute = timing.atTime === null ? null : minuteOfDay(timing.atTime)
  if (value.kind === 'instant') {
    return addCalendar(zone, value.at, { amount, unit: timing.unit }, direction, atMinute, officeHours)
  }
  if (atMinute === null) throw new TimingFault('A step on a date needs a time of day.')
  const day = addToDay(value.day, amount, timing.unit, direction, officeHours)
  return day === null ? null : instantAt(zone, day, atMinute)
}

/** Rules 1 to 3 for an offset: the anchor's value, the offset, the time of day. */
export function wantedByOffset(timing: OffsetTiming, value: AnchorValue, facts: RunFacts): Moment {
  const target = offsetTarget(timing, value, facts)
  const before = value.kind === 'instant' ? value.at : null
  const atTime = timing.kind === 'calendar' && timing.atTime !== null ? `, at ${timing.atTime}` : ''
  const how = `${spanWords(timing)} ${timing.direction} ${anchorWords(timing.anchor)} (${valueWords(facts, value)})${atTime}`
  if (target === null) {
    const at = before ?? 0
    const why = whyLeftOut.nothingToCount
    const line = { rule: 'wanted', before, after: null, ...why, sentence: `${how}: ${why.sentence}` }
    return { at, dropped: why, trace: [line] }
  }
  const why = whyThen.offset(how, inWords(facts, target))
  return { at: target, dropped: null, trace: [{ rule: 'wanted', before, after: target, ...why }] }
}

/** A wanted time that is what it is: at once, or a date's moment worked out elsewhere. */
export function wantedAt(at: number, why: Reason): Moment {
  return { at, dropped: null, trace: [{ rule: 'wanted', before: null, after: at, ...why }] }
}

/** Some time after a moment at which the step before was done. */
export function wantedAfter(
  timing: Extract<Timing, { kind: 'after previous' }>,
  doneAt: number,
  { zone, officeHours }: RunFacts,
): number | null {
  const { amount, unit, atTime } = timing
  if (unit === 'minutes' || unit === 'hours' || unit === 'business hours') {
    return addExact(doneAt, amount, unit, officeHours)
  }
  return addCalendar(
    zone,
    doneAt,
    { amount, unit },
    'after',
    atTime === null ? null : minuteOfDay(atTime),
    officeHours,
  )
}
