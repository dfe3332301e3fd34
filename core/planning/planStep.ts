import type { Reason, Send, TraceLine } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import type { Recipient } from '../sequences/recipients.ts'
import type { OpenTimes } from '../time/openTimes.ts'
import { boundsOf } from './bounds.ts'
import type { AnchorValue } from './anchors.ts'
import { applyLateness } from './lateness.ts'
import { applyLead } from './lead.ts'
import type { Moment } from './moment.ts'
import { dueMeanwhile } from './pastTimes.ts'
import type { StepFacts } from './runFacts.ts'
import { applySendingHours } from './sendingHours.ts'

/** One message that a run wants to send, and what the rules of time make of it: when it goes, why it does not, or what it still waits for. */
export interface PlannedSend {
  readonly run: Run
  readonly step: PlainStep
  /** Where the step stands among those of its sequence. */
  readonly index: number
  readonly recipient: Recipient
  readonly anchorValue: string
  /** Since when what went before can be due again for this value; null: it cannot. */
  readonly againSince: number | null
  readonly occurrence: number
  /** Null while it waits for something unknown. */
  readonly wantedAt: number | null
  readonly notBefore: number | null
  readonly notAfter: number | null
  /** Where it stood before lateness was looked at; null when it was dropped before that, or waits. */
  readonly ruledAt: number | null
  /** Null when a rule dropped it or it still waits. */
  readonly dueAt: number | null
  readonly dropped: Reason | null
  /** Why it is left out for good, such as the other arm of a branch, and since when, if it had a moment; null: it is not. */
  readonly skipped: (Reason & { readonly at: number | null }) | null
  /** Why it is void, such as an event that is over, and since when; null: it is not. */
  readonly voided: (Reason & { readonly at: number }) | null
  /** What it waits for; null: nothing. */
  readonly awaits: Reason | null
  /** For showing only: about when it will be, while it waits. */
  readonly estimateAt: number | null
  readonly trace: readonly TraceLine[]
  /** When its step may go at all. */
  readonly openTimes: OpenTimes
  /** The stored send that answers for it: it has gone, or has ended. Null: none does. */
  readonly answer: Send | null
  /** The stored send that stands for it, or stands again; null: none does. */
  readonly row: Send | null
  /** What the rules among several sends made of it when they were last asked: steps chained to it count on that. */
  readonly lostTo: Reason | null
}

/** What names a planned send within its client's plan. */
export const planKey = ({ run, step, occurrence, anchorValue, recipient }: PlannedSend): string =>
  [run.id, step.id, occurrence, anchorValue, recipient.id].join('|')

/** What a step counts from and where it may lie, beside its own facts. */
export interface StepStart {
  readonly value: AnchorValue | null
  readonly anchorValue: string
  readonly againSince: number | null
  readonly occurrence: number
  /** It comes again after another one. */
  readonly isRepeated: boolean
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
  const { anchorValue, againSince, occurrence, isRepeated } = start
  const bounds = boundsOf(facts, start.value, wanted.at, start)
  const open = applySendingHours(wanted, facts, isRepeated)
  const led = applyLead(open, bounds, facts, isRepeated)
  const final = applyLateness(led, wanted.at, bounds, facts)
  const planned = {
    run: facts.run,
    step: facts.step,
    index: facts.index,
    recipient: facts.recipient,
    anchorValue,
    againSince,
    occurrence,
    wantedAt: wanted.at,
    notBefore: bounds.notBefore,
    notAfter: bounds.notAfter,
    ruledAt: led.dropped ? null : led.at,
    dueAt: final.dropped ? null : final.at,
    dropped: final.dropped,
    skipped: null,
    voided: null,
    awaits: null,
    estimateAt: null,
    trace: final.trace,
    openTimes: facts.openTimes,
    answer: null,
    row: null,
    lostTo: null,
  }
  return facts.booking === null ? planned : dueMeanwhile(planned, facts)
}

/** A step whose moment is not known yet: it is expected, and says what it waits for. */
export function planAwaited(
  { run, step, index, recipient, openTimes }: StepFacts,
  occurrence: number,
  awaits: Reason,
  estimateAt: number | null,
): PlannedSend {
  return {
    run,
    step,
    index,
    recipient,
    anchorValue: '',
    againSince: null,
    occurrence,
    wantedAt: null,
    notBefore: null,
    notAfter: null,
    ruledAt: null,
    dueAt: null,
    dropped: null,
    skipped: null,
    voided: null,
    awaits,
    estimateAt,
    trace: [{ rule: 'wanted', before: null, after: null, ...awaits }],
    openTimes,
    answer: null,
    row: null,
    lostTo: null,
  }
}

/** A step in an arm that is not taken. */
export function planSkipped(facts: StepFacts, why: Reason): PlannedSend {
  return {
    ...planAwaited(facts, 0, why, null),
    awaits: null,
    skipped: { ...why, at: null },
  }
}

/** A planned send that a rule dropped after all, with a line of trace. */
export function droppedBy(planned: PlannedSend, rule: string, why: Reason): PlannedSend {
  const line = { rule, before: planned.dueAt, after: null, ...why }
  return { ...planned, dueAt: null, dropped: why, trace: [...planned.trace, line] }
}
