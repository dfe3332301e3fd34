import type { PlainStep } from '../model/step.ts'
import { isBefore, type Purpose } from '../model/timing.ts'
import { rulesOf } from '../sequences/purposes.ts'
import { writtenLengthMs } from '../sequences/span.ts'
import { addCalendar, addExact } from '../time/arithmetic.ts'
import { epochDayOf, hourMs, type EpochDay } from '../time/calendar.ts'
import { dayAt, instantAt, type Zone } from '../time/zones.ts'
import type { AnchorValue } from './anchors.ts'
import type { StepFacts } from './runFacts.ts'

/** The two bounds that stand from the start, in epoch milliseconds. */
export interface Bounds {
  readonly notBefore: number
  /** Null: no bound. Equal is allowed. */
  readonly notAfter: number | null
}

/** How long before its anchor a before-step must have gone. */
export function leadMs(step: PlainStep): number {
  if (step.lead !== null) return writtenLengthMs(step.lead)
  return isBefore(step.timing) ? Math.min(hourMs, writtenLengthMs(step.timing) / 2) : hourMs
}

/** The last millisecond of a local date. */
export const endOfDay = (zone: Zone, day: EpochDay): number => instantAt(zone, day + 1, 0) - 1

interface Bound {
  readonly at: number
  /** When the fact it comes from got its present value. */
  readonly since: number
}

const dayCounts: readonly string[] = ['invoice due', 'enquiry deadline']

function beforeStepBound({ step, zone }: StepFacts, value: AnchorValue): Bound | null {
  const { timing } = step
  if (!isBefore(timing)) return null
  if (value.kind === 'instant') return { at: value.at - leadMs(step), since: value.since }
  const isOwnDay = step.purpose === 'payment' || dayCounts.includes(timing.anchor.of) || timing.amount === 0
  const end = endOfDay(zone, isOwnDay ? value.day : value.day - 1)
  return { at: end - (step.lead === null ? 0 : writtenLengthMs(step.lead)), since: value.since }
}

const endsBeforeTheStart: readonly Purpose[] = ['reminder', 'preparation']
const endsWithTheBooking: readonly Purpose[] = ['confirmation', 'change']

function isBeforeStepOnBooking({ timing }: PlainStep): boolean {
  return isBefore(timing) && (timing.anchor.of === 'booking start' || timing.anchor.of === 'booking end')
}

function subjectBound({ step, booking, enquiry, zone, run }: StepFacts): Bound | null {
  if (booking && run.subject.kind === 'booking') {
    if (endsBeforeTheStart.includes(step.purpose) && !isBeforeStepOnBooking(step)) {
      return { at: booking.startAt - hourMs, since: booking.timesSetAt }
    }
    if (endsWithTheBooking.includes(step.purpose)) return { at: booking.endAt, since: booking.timesSetAt }
  }
  if (enquiry?.wishedOn != null && !isBefore(step.timing)) {
    return { at: endOfDay(zone, epochDayOf(enquiry.wishedOn)), since: enquiry.wishedSetAt ?? 0 }
  }
  return null
}

/** The end of a step's usefulness after its wanted time; null: none of its own. */
export function usefulUntil(facts: StepFacts, wantedAt: number): number | null {
  const { step, zone, clientZone, officeHours } = facts
  const { usefulFor } = rulesOf(step)
  if (usefulFor === null || isBefore(step.timing)) return null
  if (usefulFor === 'that day') return endOfDay(clientZone, dayAt(clientZone, wantedAt))
  const { amount, unit } = usefulFor
  return unit === 'minutes' || unit === 'hours' || unit === 'business hours'
    ? addExact(wantedAt, amount, unit, officeHours)
    : addCalendar(zone, wantedAt, { amount, unit }, 'after', null, officeHours)
}

/**
 * Where a step may lie. `since` and `end` come from a repeat or a chain: a moment it cannot be earlier than, and the
 * end of the repeat.
 */
export function boundsOf(
  facts: StepFacts,
  value: AnchorValue | null,
  wantedAt: number,
  own: { readonly since: number; readonly end: Bound | null },
): Bounds {
  const bounds = [value === null ? null : beforeStepBound(facts, value), subjectBound(facts), own.end].filter(
    (bound) => bound !== null,
  )
  const limits = [...bounds.map(({ at }) => at), usefulUntil(facts, wantedAt)].filter((at) => at !== null)
  const sinces = [
    facts.run.startedAt,
    facts.stepSince,
    own.since,
    value?.since ?? 0,
    ...bounds.map(({ since }) => since),
  ]
  return { notBefore: Math.max(...sinces), notAfter: limits.length === 0 ? null : Math.min(...limits) }
}
