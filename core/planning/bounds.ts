import type { PlainStep } from '../model/step.ts'
import { subjectTraits } from '../model/subject.ts'
import {
  anchorTraits,
  isBefore,
  yearlyOffset,
  type OffsetTiming,
  type Purpose,
  type YearlyTiming,
} from '../model/timing.ts'
import { leadMs } from '../sequences/lead.ts'
import { writtenLengthMs } from '../sequences/span.ts'
import { addCalendar, addExact } from '../time/arithmetic.ts'
import { epochDayOf, hourMs, type EpochDay } from '../time/calendar.ts'
import { dayAt, instantAt, type Zone } from '../time/zones.ts'
import type { AnchorValue } from './anchors.ts'
import { standsSince } from './pastTimes.ts'
import type { StepFacts } from './runFacts.ts'

/** The two bounds that stand from the start, in epoch milliseconds. */
export interface Bounds {
  readonly notBefore: number
  /** Null: no bound. Equal is allowed. */
  readonly notAfter: number | null
}

const offsetOf = (timing: OffsetTiming | YearlyTiming) =>
  timing.kind === 'yearly' ? yearlyOffset(timing) : timing

/** The last millisecond of a local date. */
export const endOfDay = (zone: Zone, day: EpochDay): number => instantAt(zone, day + 1, 0) - 1

interface Bound {
  readonly at: number
  /** When the fact it comes from got its present value. */
  readonly since: number
}

function beforeStepBound({ step, stepZone }: StepFacts, value: AnchorValue): Bound | null {
  const { timing } = step
  if (!isBefore(timing)) return null
  if (value.kind === 'instant') return { at: value.at - leadMs(step), since: value.since }
  const isDue = 'anchor' in timing && anchorTraits[timing.anchor.of].isDeadline
  const isOwnDay = step.purpose === 'payment' || isDue || offsetOf(timing).amount === 0
  const end = endOfDay(stepZone, isOwnDay ? value.day : value.day - 1)
  return { at: end - (step.lead === null ? 0 : writtenLengthMs(step.lead)), since: value.since }
}

const endsBeforeTheStart: readonly Purpose[] = ['reminder', 'preparation']
const endsWithTheBooking: readonly Purpose[] = ['confirmation', 'change']

function isBeforeStepOnBooking({ timing }: PlainStep): boolean {
  return isBefore(timing) && 'anchor' in timing && ['booking start', 'booking end'].includes(timing.anchor.of)
}

function subjectBound({ step, booking, enquiry, zone, run }: StepFacts): Bound | null {
  if (booking && subjectTraits[run.subject.kind].tellsTimes) {
    if (endsBeforeTheStart.includes(step.purpose) && !isBeforeStepOnBooking(step)) {
      return { at: booking.startAt - hourMs, since: standsSince(booking) }
    }
    if (endsWithTheBooking.includes(step.purpose)) return { at: booking.endAt, since: standsSince(booking) }
  }
  if (enquiry?.wishedOn != null && !isBefore(step.timing)) {
    return { at: endOfDay(zone, epochDayOf(enquiry.wishedOn)), since: enquiry.wishedSetAt ?? 0 }
  }
  return null
}

/** The end of a step's usefulness after its wanted time; null: none of its own. */
export function usefulUntil(facts: StepFacts, wantedAt: number): number | null {
  const { step, zone, clientZone, officeHours } = facts
  const { usefulFor } = facts.rules
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
  own: { readonly since: number; readonly end: Bound | null; readonly isRepeated: boolean },
): Bounds {
  // One that comes again hangs on the one before it, and only the repeat's own end bounds it.
  const before = value === null || own.isRepeated ? null : beforeStepBound(facts, value)
  const subject = subjectBound(facts)
  const { end } = own
  const notBefore = Math.max(
    facts.run.startedAt,
    facts.stepSince,
    own.since,
    value?.since ?? 0,
    before?.since ?? 0,
    subject?.since ?? 0,
    end?.since ?? 0,
  )
  const notAfter = Math.min(
    before?.at ?? Infinity,
    subject?.at ?? Infinity,
    end?.at ?? Infinity,
    usefulUntil(facts, wantedAt) ?? Infinity,
  )
  return { notBefore, notAfter: notAfter === Infinity ? null : notAfter }
}
