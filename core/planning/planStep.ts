import type { Reason, TraceLine } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import type { Recipient } from '../sequences/recipients.ts'
import { boundsOf } from './bounds.ts'
import type { AnchorValue } from './anchors.ts'
import { applyLateness } from './lateness.ts'
import { applyLead } from './lead.ts'
import type { Moment } from './moment.ts'
import type { StepFacts } from './runFacts.ts'
import { applySendingHours } from './sendingHours.ts'

/** One message that a run wants to send, and what the rules of time make of it: when it goes, why it does not, or what it still waits for. */
export interface PlannedSend {
  readonly run: Run
  readonly step: PlainStep
  readonly recipient: Recipient
  readonly anchorValue: string
  readonly occurrence: number
  /** Null while it waits for something unknown. */
  readonly wantedAt: number | null
  readonly notBefore: number | null
  readonly notAfter: number | null
  /** Null when a rule dropped it or it still waits. */
  readonly dueAt: number | null
  readonly dropped: Reason | null
  /** Why it is left out for good, such as the other arm of a branch; null: it is not. */
  readonly skipped: Reason | null
  /** What it waits for; null: nothing. */
  readonly awaits: Reason | null
  /** For showing only: about when it will be, while it waits. */
  readonly estimateAt: number | null
  readonly trace: readonly TraceLine[]
}

/** What a step counts from and where it may lie, beside its own facts. */
export interface StepStart {
  readonly value: AnchorValue | null
  readonly anchorValue: string
  readonly occurrence: number
  /** A moment it cannot be before: the previous step done, the last occurrence done. */
  readonly since: number
  /** The end of its repeat. */
  readonly end: { readonly at: number; readonly since: number } | null
}

/**
 * Rules 4 to 6 on a wanted time, each applied once. They depend on the facts alone: planning again from the same
 * facts gives the same plan, however much time has passed.
 */
export function planWanted(wanted: Moment, start: StepStart, facts: StepFacts): PlannedSend {
  const { anchorValue, occurrence } = start
  const bounds = boundsOf(facts, start.value, wanted.at, start)
  const open = applySendingHours(wanted, facts, occurrence > 0 && facts.step.repeat !== null)
  const led = applyLead(open, bounds, facts)
  const final = applyLateness(led, wanted.at, bounds, facts)
  return {
    run: facts.run,
    step: facts.step,
    recipient: facts.recipient,
    anchorValue,
    occurrence,
    wantedAt: wanted.at,
    notBefore: bounds.notBefore,
    notAfter: bounds.notAfter,
    dueAt: final.dropped ? null : final.at,
    dropped: final.dropped,
    skipped: null,
    awaits: null,
    estimateAt: null,
    trace: final.trace,
  }
}

/** A step whose moment is not known yet: it is expected, and says what it waits for. */
export function planAwaited(
  { run, step, recipient }: StepFacts,
  occurrence: number,
  code: string,
  sentence: string,
  estimateAt: number | null,
): PlannedSend {
  return {
    run,
    step,
    recipient,
    anchorValue: '',
    occurrence,
    wantedAt: null,
    notBefore: null,
    notAfter: null,
    dueAt: null,
    dropped: null,
    skipped: null,
    awaits: { code, sentence },
    estimateAt,
    trace: [{ rule: 'wanted', before: null, after: null, code, sentence }],
  }
}

/** A step in an arm that is not taken. */
export function planSkipped(facts: StepFacts, code: string, sentence: string): PlannedSend {
  return {
    ...planAwaited(facts, 0, code, sentence, null),
    awaits: null,
    skipped: { code, sentence },
  }
}
