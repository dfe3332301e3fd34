import type { Reason, TraceLine } from '../model/send.ts'
import { boundsOf } from './bounds.ts'
import { applyLateness } from './lateness.ts'
import { applyLead } from './lead.ts'
import { applySendingHours } from './sendingHours.ts'
import type { StepFacts } from './stepFacts.ts'
import { wantedTime } from './wanted.ts'

/** What the rules of time make of one step: when it goes, or why it does not, and how that came about. */
export interface StepPlan {
  readonly anchorValue: string
  readonly wantedAt: number
  readonly notBefore: number
  readonly notAfter: number | null
  /** Null when a rule dropped it. */
  readonly dueAt: number | null
  readonly dropped: Reason | null
  readonly trace: readonly TraceLine[]
}

/**
 * The rules in their order, each applied once. It depends on the facts alone: planning again from the
 * same facts gives the same plan, however much time has passed.
 */
export function planStep(facts: StepFacts): StepPlan {
  const bounds = boundsOf(facts)
  const wanted = wantedTime(facts)
  const wantedAt = wanted.moment.at
  const open = applySendingHours(wanted.moment, facts)
  const led = applyLead(open, bounds, facts)
  const final = applyLateness(led, wantedAt, bounds, facts)
  return {
    anchorValue: wanted.anchorValue,
    wantedAt,
    ...bounds,
    dueAt: final.dropped ? null : final.at,
    dropped: final.dropped,
    trace: final.trace,
  }
}
