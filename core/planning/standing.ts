import { evaluate, testWords } from '../conditions/evaluate.ts'
import { heldSince } from '../conditions/heldSince.ts'
import type { Send } from '../model/send.ts'
import { voidableStates } from '../model/sendState.ts'
import type { Condition } from '../model/condition.ts'
import type { SubjectKind } from '../model/subject.ts'
import { isBefore } from '../model/timing.ts'
import { epochDayOf, hourMs } from '../time/calendar.ts'
import { answerOf, isOpen, isVoidUndone } from './answers.ts'
import { endOfDay } from './bounds.ts'
import { firstMomentUpTo } from './lateness.ts'
import { droppedBy, planKey, type PlannedSend } from './planStep.ts'
import { waitsFor, whyLeftOut, whyThen } from './reasons.ts'
import { conditionFacts, inWords, type StepFacts } from './runFacts.ts'
import { versionOf } from './slice.ts'

/*
 * How a planned send stands before what is stored and what is known by now: answered by what went, void because the
 * event is over, past without ever having been there, waiting for a fact.
 */

/** When what a run leads up to is over; null: there is no such thing. */
const eventEnd: Readonly<Record<SubjectKind, (facts: StepFacts) => number | null>> = {
  booking: ({ booking }) => booking?.endAt ?? null,
  enquiry: ({ enquiry, zone }) =>
    enquiry?.wishedOn == null ? null : endOfDay(zone, epochDayOf(enquiry.wishedOn)) + 1,
  invoice: () => null,
  client: () => null,
}

/** When the event of a run was over; null: it is not, or there is none. */
function overAt(facts: StepFacts, now: number): number | null {
  const at = eventEnd[facts.run.subject.kind](facts)
  return at !== null && at <= now ? at : null
}

/** The event is over: where a sequence says so, what was to come before it and has not gone is void. */
function voidedByEvent(planned: PlannedSend, facts: StepFacts, now: number): PlannedSend {
  const { run, settings, step } = facts
  if (!isBefore(step.timing)) return planned
  const { stops } = versionOf(settings, run.sequenceId, run.version)
  const at = stops.some(({ on }) => on === 'event over') ? overAt(facts, now) : null
  if (at === null || planned.dropped) return planned
  return { ...planned, dueAt: null, voided: { ...whyLeftOut.eventOver, at } }
}

/**
 * What has never stood for anything and whose moment is past is not taken up: only planning that gives it a moment
 * still ahead does that.
 */
function withoutPast(planned: PlannedSend, { booking }: StepFacts, now: number): PlannedSend {
  if (planned.dueAt === null || planned.dueAt >= now) return planned
  // While its booking settles it waits for the end of that.
  if (booking?.settling && planned.dueAt >= booking.settling.since) return planned
  return droppedBy(planned, 'past', whyLeftOut.pastBefore)
}

/** Whether a condition will hold once a booking that is still ahead has taken place. */
function isStillToCome(condition: Condition, facts: StepFacts, now: number): boolean {
  const { booking, settings } = facts
  if (booking?.status !== 'confirmed') return false
  if (now > booking.endAt + settings.business.completesAfterHours * hourMs) return false
  const { history } = booking
  const completed = {
    ...booking,
    status: 'completed' as const,
    history: { ...history, reached: [...history.reached, 'completed' as const] },
  }
  return evaluate(condition, { ...conditionFacts(facts, now), booking: completed }).holds
}

/** What its condition makes of a planned send: it goes, it waits for a fact, or it is left out when its moment has come. */
function byCondition(planned: PlannedSend, hasStood: boolean, facts: StepFacts, now: number): PlannedSend {
  const { onlyIf } = facts.step
  if (onlyIf === null || planned.dueAt === null) return planned
  const { dueAt } = planned
  const answer = evaluate(onlyIf, conditionFacts(facts, Math.max(dueAt, now)))
  if (answer.holds) return dueAt < now ? fromWhenItHeld(planned, onlyIf, facts, now) : planned
  const out = whyLeftOut.condition(answer.because ? testWords(answer.because, answer.fact) : null)
  const isAwaited = dueAt > now || isStillToCome(onlyIf, facts, now)
  if (!isAwaited && dueAt < now && !hasStood) return planned
  const reason = isAwaited ? waitsFor.condition(out.sentence) : out
  const line = { rule: 'condition', before: dueAt, after: null, ...reason }
  const trace = [...planned.trace, line]
  return isAwaited
    ? { ...planned, dueAt: null, estimateAt: dueAt, awaits: reason, trace }
    : // What was held back beyond its moment is left out only now.
      { ...planned, dueAt: null, estimateAt: dueAt, skipped: { ...reason, at: Math.max(dueAt, now) }, trace }
}

/** A time that lies before its condition came to hold is late, not lost. */
function fromWhenItHeld(planned: PlannedSend, onlyIf: Condition, facts: StepFacts, now: number): PlannedSend {
  const since = heldSince(onlyIf, conditionFacts(facts, now))
  if (since === null || planned.dueAt === null || since <= planned.dueAt) return planned
  const open = firstMomentUpTo(facts.openTimes, since, planned.notAfter)
  if (open === null) {
    return droppedBy(planned, 'condition', whyLeftOut.heldTooLate(inWords(facts, since)))
  }
  const why = whyThen.heldSince(inWords(facts, since), inWords(facts, open))
  const line = { rule: 'condition', before: planned.dueAt, after: open, ...why }
  return { ...planned, dueAt: open, trace: [...planned.trace, line] }
}

/** What planned sends of one step and recipient stand before. Data, no function made for each: planning is quicker so. */
export interface Stored {
  /** The stored ones of the step and recipient in the run. */
  readonly rows: readonly Send[]
  /** Why the rules among several sends dropped one on the pass before, by its key. */
  readonly lost: ReadonlyMap<string, NonNullable<PlannedSend['dropped']>>
  readonly now: number
}

/** A planned send as it stands. */
export function asItStands(planned: PlannedSend, facts: StepFacts, { rows, lost, now }: Stored): PlannedSend {
  const lostTo = lost.size === 0 ? null : (lost.get(planKey(planned)) ?? null)
  const own = rows.filter(({ occurrence }) => occurrence === planned.occurrence)
  const answer = answerOf(planned, own, facts.booking) ?? null
  const inTime =
    answer === null || voidableStates.includes(answer.state) ? voidedByEvent(planned, facts, now) : planned
  if (answer !== null && inTime === planned) return { ...planned, answer }
  const standingOnes = own.filter((send) => isOpen(send) || isVoidUndone(send, facts.booking))
  const hasStood = standingOnes.length > 0
  const asked = byCondition(inTime, hasStood, facts, now)
  const present = hasStood ? asked : withoutPast(asked, facts, now)
  const row = standingOnes.find((send) => send.anchorValue === planned.anchorValue) ?? null
  return lostTo === null && row === null ? present : { ...present, lostTo, row }
}
