import { evaluate } from '../conditions/evaluate.ts'
import type { Run } from '../model/sequence.ts'
import { isBranch, type BranchStep, type PlainStep, type Step } from '../model/step.ts'
import { recipientsOfStep } from '../sequences/recipients.ts'
import { variedStep } from '../sequences/variations.ts'
import { anchorValues } from './anchors.ts'
import { latestOf, type Done } from './done.ts'
import { planAwaited, planSkipped, type PlannedSend } from './planStep.ts'
import { conditionFacts, occurrences, repeatEnd } from './repeat.ts'
import { runFacts, stepFacts, type RunFacts, type StepFacts } from './runFacts.ts'
import { versionOf, type Slice } from './slice.ts'
import { firstOccurrences } from './stepTimes.ts'
import { wantedAfter, wantedByOffset } from './wanted.ts'

/** A branch that has been reached and not been decided. */
export interface OpenBranch {
  readonly run: Run
  readonly step: BranchStep
  /** The latest moment of its decision; null: not known yet. */
  readonly latestAt: number | null
  /** Whether its condition holds at present. */
  readonly holds: boolean
}

/** What a run wants to send, and the branches it stands at. */
export interface RunPlan {
  readonly planned: readonly PlannedSend[]
  readonly branches: readonly OpenBranch[]
}

interface Stretch extends RunPlan {
  readonly done: Done
}

/** Where steps stand: on the way, in an arm nobody has chosen yet, or in the arm not taken. */
type Way =
  | { readonly kind: 'open'; readonly since: number }
  | { readonly kind: 'undecided' }
  | { readonly kind: 'untaken' }

function planFor(facts: StepFacts, previous: Done, way: Way, now: number) {
  const { step, run, recipient } = facts
  if (way.kind === 'untaken') {
    const skipped = planSkipped(facts, 'branch', 'The other arm of the branch was taken.')
    return { plans: [skipped], done: previous }
  }
  if (way.kind === 'undecided') {
    const estimate = previous.isDone ? null : previous.estimateAt
    const awaited = planAwaited(facts, 0, 'branch', 'Waits until the branch before it is decided.', estimate)
    return { plans: [awaited], done: { isDone: false, estimateAt: estimate } as const }
  }
  const own = facts.facts.sends.filter(
    (send) => send.runId === run.id && send.stepId === step.id && send.recipientId === recipient.id,
  )
  const context = { facts, previous, end: repeatEnd(step.repeat, facts), own, now, since: way.since }
  const all = firstOccurrences(context).map((first) => occurrences(first, facts, own, now))
  return {
    plans: all.flatMap(({ plans }) => plans),
    done: latestOf(
      all.map(({ done }) => done),
      previous,
    ),
  }
}

/** A plain step for all its recipients, as it counts for this service and client. */
function planPlain(general: PlainStep, of: RunFacts, previous: Done, way: Way, now: number): Stretch {
  const { run, settings, facts, client, personInCharge } = of
  if (run.passedOver.includes(general.id)) return { planned: [], branches: [], done: previous }
  const varied = variedStep(general, run.sequenceId, of.serviceId, {
    ofServices: settings.variations,
    ofClient: facts.variations,
  })
  const { step, trace } = varied
  if (step.isOff) return { planned: [], branches: [], done: previous }
  const armSince = way.kind === 'open' ? way.since : 0
  const since = Math.max(varied.timingSince, run.timingSetAt[step.id] ?? 0, armSince)
  const { business, people } = settings
  const outcomes = recipientsOfStep(step, { client, business, people, personInCharge }).map((recipient) =>
    planFor(stepFacts(of, step, recipient, since), previous, way, now),
  )
  const planned = outcomes.flatMap(({ plans }) => plans)
  return {
    planned:
      trace.length === 0 ? planned : planned.map((one) => ({ ...one, trace: [...trace, ...one.trace] })),
    branches: [],
    done: latestOf(
      outcomes.map(({ done }) => done),
      previous,
    ),
  }
}

/** The latest moment of a branch's decision; null: not known yet. */
function latestMoment({ timing }: BranchStep, of: RunFacts, previous: Done): number | null {
  if (timing.kind === 'after previous') {
    return previous.isDone ? wantedAfter(timing, Math.max(previous.at, of.run.startedAt), of) : null
  }
  if (timing.kind !== 'elapsed' && timing.kind !== 'calendar') return null
  const value = anchorValues(timing.anchor, of).at(0)
  const wanted = value && wantedByOffset(timing, value, of)
  return wanted && !wanted.dropped ? wanted.at : null
}

function planBranch(step: BranchStep, of: RunFacts, previous: Done, way: Way, now: number): Stretch {
  const decision = of.run.branches.find(({ stepId }) => stepId === step.id)
  if (decision && way.kind === 'open') {
    const isYes = decision.arm === 'yes'
    const reached: Done = { isDone: true, at: decision.at }
    const open: Way = { kind: 'open', since: Math.max(way.since, decision.at) }
    const taken = planSteps(isYes ? step.yes : step.no, of, reached, open, now)
    const other = planSteps(isYes ? step.no : step.yes, of, reached, { kind: 'untaken' }, now)
    const arms = isYes ? [taken, other] : [other, taken]
    return {
      planned: arms.flatMap(({ planned }) => planned),
      branches: taken.branches,
      done: taken.done,
    }
  }
  if (way.kind === 'untaken') {
    const arms = [step.yes, step.no].map((steps) => planSteps(steps, of, previous, way, now))
    return { planned: arms.flatMap(({ planned }) => planned), branches: [], done: previous }
  }
  const latestAt = way.kind === 'open' ? latestMoment(step, of, previous) : null
  const waiting: Done = { isDone: false, estimateAt: latestAt }
  const arms = [step.yes, step.no].map((steps) => planSteps(steps, of, waiting, { kind: 'undecided' }, now))
  const isReached = way.kind === 'open' && (step.timing.kind !== 'after previous' || previous.isDone)
  const holds = isReached && evaluate(step.condition, conditionFacts(of, now)).holds
  return {
    planned: arms.flatMap(({ planned }) => planned),
    branches: isReached ? [{ run: of.run, step, latestAt, holds }] : [],
    done: waiting,
  }
}

function planSteps(steps: readonly Step[], of: RunFacts, from: Done, way: Way, now: number): Stretch {
  let done = from
  const planned: PlannedSend[] = []
  const branches: OpenBranch[] = []
  for (const step of steps) {
    const stretch = isBranch(step)
      ? planBranch(step, of, done, way, now)
      : planPlain(step, of, done, way, now)
    for (const one of stretch.planned) planned.push(one)
    branches.push(...stretch.branches)
    done = stretch.done
  }
  return { planned, branches, done }
}

const nothing: RunPlan = { planned: [], branches: [] }

/**
 * Everything a running run wants to send, step by step, and the branches it stands at; a stopped one wants nothing.
 * `now` decides only what has no moment of its own yet: when something that will not go was decided.
 */
export function planRun(run: Run, slice: Slice, now: number): RunPlan {
  const of = runFacts(run, slice)
  if (run.state !== 'running' || !of) return nothing
  const { steps } = versionOf(slice.settings, run.sequenceId, run.version)
  return planSteps(steps, of, { isDone: true, at: run.startedAt }, { kind: 'open', since: 0 }, now)
}
