import type { Contact } from '../model/client.ts'
import type { Reason, TraceLine } from '../model/send.ts'
import type { Run, Step } from '../model/sequence.ts'
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
  readonly step: Step
  readonly contact: Contact
  readonly anchorValue: string
  readonly occurrence: number
  /** Null while it waits for something unknown. */
  readonly wantedAt: number | null
  readonly notBefore: number | null
  readonly notAfter: number | null
  /** Null when a rule dropped it or it still waits. */
  readonly dueAt: number | null
  readonly dropped: Reason | null
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
    contact: facts.contact,
    anchorValue,
    occurrence,
    wantedAt: wanted.at,
    notBefore: bounds.notBefore,
    notAfter: bounds.notAfter,
    dueAt: final.dropped ? null : final.at,
    dropped: final.dropped,
    awaits: null,
    estimateAt: null,
    trace: final.trace,
  }
}

/** A step whose moment is not known yet: it is expected, and says what it waits for. */
export function planAwaited(
  { run, step, contact }: StepFacts,
  occurrence: number,
  code: string,
  sentence: string,
  estimateAt: number | null,
): PlannedSend {
  return {
    run,
    step,
    contact,
    anchorValue: '',
    occurrence,
    wantedAt: null,
    notBefore: null,
    notAfter: null,
    dueAt: null,
    dropped: null,
    awaits: { code, sentence },
    estimateAt,
    trace: [{ rule: 'wanted', before: null, after: null, code, sentence }],
  }
}
