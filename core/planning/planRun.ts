import { waitsFor, whyLeftOut } from './reasons.ts'
import { evaluate } from '../conditions/evaluate.ts'
import type { Run } from '../model/sequence.ts'
import { isBranch, type BranchStep, type PlainStep, type Step } from '../model/step.ts'
import { recipientsOfStep } from '../sequences/recipients.ts'
import { stepIndex } from '../sequences/steps.ts'
import { variedStep } from '../sequences/variations.ts'
import { anchorValues } from './anchors.ts'
import { doneAt, endOf, latestOf, type Done } from './done.ts'
import { planAwaited, planSkipped, type PlannedSend } from './planStep.ts'
import { occurrences, repeatEnd, type RepeatFor } from './repeat.ts'
import {
  conditionFacts,
  runFacts,
  stepFacts,
  type RunFacts,
  type StepFacts,
  recipientFacts,
} from './runFacts.ts'
import { versionOf, type Slice } from './slice.ts'
import { asItStands } from './standing.ts'
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

/** What is the same for a whole pass over one client: the present moment, and what several sends made of each other. */
export interface Pass {
  readonly now: number
  /** Why the rules among several sends dropped one on the pass before, by its key. */
  readonly lost: ReadonlyMap<string, NonNullable<PlannedSend['dropped']>>
}

/** A step that waits for a branch, or stands in the arm not taken. */
function planAside(facts: StepFacts, previous: Done, way: Exclude<Way, { kind: 'open' }>): PlannedSend {
  if (way.kind === 'untaken') {
    return planSkipped(facts, whyLeftOut.otherArm)
  }
  const estimate = previous.isDone ? null : previous.estimateAt
  return planAwaited(facts, 0, waitsFor.branch, estimate)
}

/** The first occurrences of a step for one recipient, and how what is planned for it stands. */
function firstsFor(facts: StepFacts, previous: Done, since: number, pass: Pass): readonly RepeatFor[] {
  const { step, run, recipient } = facts
  const rows = facts.facts.sends.filter(
    (send) => send.runId === run.id && send.stepId === step.id && send.recipientId === recipient.id,
  )
  const end = repeatEnd(step.repeat, facts)
  const stored = { rows, lost: pass.lost, now: pass.now }
  return firstOccurrences({ facts, previous, end, stored, since }).map((first) => ({ facts, first, stored }))
}

function planOpen(
  all: readonly StepFacts[],
  previous: Done,
  since: number,
  pass: Pass,
): { readonly plans: readonly PlannedSend[]; readonly done: Done } {
  const firsts = all.map((facts) => firstsFor(facts, previous, since, pass))
  const [one] = all
  const repeat = one?.step.repeat ?? null
  if (!one || repeat === null) {
    const plans: PlannedSend[] = []
    for (const own of firsts)
      for (const { first, facts, stored } of own) plans.push(asItStands(first, facts, stored))
    return { plans, done: latestOf(plans.map(endOf), previous) }
  }
  const from =
    one.step.timing.kind === 'after previous' ? previous : doneAt(Math.max(one.run.startedAt, since))
  // Sessions of a booking repeat each by itself; the copies of one occurrence go together.
  const series = (firsts[0] ?? []).map((_, index) =>
    occurrences(
      firsts.map((own) => own[index]).filter((part) => part !== undefined),
      repeat,
      from,
      pass.now,
    ),
  )
  return {
    plans: series.flatMap(({ plans }) => plans),
    done: latestOf(
      series.map(({ done }) => done),
      previous,
    ),
  }
}

/** A plain step for all its recipients, as it counts for this service and client. */
function planPlain(general: PlainStep, of: RunFacts, previous: Done, way: Way, pass: Pass): Stretch {
  const { run, settings, facts } = of
  if (run.passedOver.includes(general.id)) return { planned: [], branches: [], done: previous }
  const varied = variedStep(general, run.sequenceId, of.serviceId, {
    ofServices: settings.variations,
    ofClient: facts.variations,
  })
  const { step, trace } = varied
  if (step.isOff) return { planned: [], branches: [], done: previous }
  const armSince = way.kind === 'open' ? way.since : 0
  const since = Math.max(varied.timingSince, run.timingSetAt[step.id] ?? 0, armSince)
  const index = stepIndex(versionOf(settings, run.sequenceId, run.version), step.id)
  const all = recipientsOfStep(step, recipientFacts(of)).map((recipient) =>
    stepFacts(of, step, recipient, since, index),
  )
  const { plans, done } =
    way.kind === 'open'
      ? planOpen(all, previous, way.since, pass)
      : { plans: all.map((facts) => planAside(facts, previous, way)), done: asideDone(previous, way) }
  return {
    planned: trace.length === 0 ? plans : plans.map((one) => ({ ...one, trace: [...trace, ...one.trace] })),
    branches: [],
    done,
  }
}

/** An arm nobody has chosen yet is not done; the arm not taken holds nothing up. */
function asideDone(previous: Done, way: Exclude<Way, { kind: 'open' }>): Done {
  if (way.kind === 'untaken') return previous
  return { isDone: false, estimateAt: previous.isDone ? null : previous.estimateAt }
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

function planBranch(step: BranchStep, of: RunFacts, previous: Done, way: Way, pass: Pass): Stretch {
  const decision = of.run.branches.find(({ stepId }) => stepId === step.id)
  if (decision && way.kind === 'open') {
    const isYes = decision.arm === 'yes'
    const reached = doneAt(decision.at)
    const open: Way = { kind: 'open', since: Math.max(way.since, decision.at) }
    const taken = planSteps(isYes ? step.yes : step.no, of, reached, open, pass)
    const other = planSteps(isYes ? step.no : step.yes, of, reached, { kind: 'untaken' }, pass)
    const arms = isYes ? [taken, other] : [other, taken]
    return {
      planned: arms.flatMap(({ planned }) => planned),
      branches: taken.branches,
      done: taken.done,
    }
  }
  if (way.kind === 'untaken') {
    const arms = [step.yes, step.no].map((steps) => planSteps(steps, of, previous, way, pass))
    return { planned: arms.flatMap(({ planned }) => planned), branches: [], done: previous }
  }
  const latestAt = way.kind === 'open' ? latestMoment(step, of, previous) : null
  const waiting: Done = { isDone: false, estimateAt: latestAt }
  const arms = [step.yes, step.no].map((steps) => planSteps(steps, of, waiting, { kind: 'undecided' }, pass))
  const isReached = way.kind === 'open' && (step.timing.kind !== 'after previous' || previous.isDone)
  const holds = isReached && evaluate(step.condition, conditionFacts(of, pass.now)).holds
  return {
    planned: arms.flatMap(({ planned }) => planned),
    branches: isReached ? [{ run: of.run, step, latestAt, holds }] : [],
    done: waiting,
  }
}

function planSteps(steps: readonly Step[], of: RunFacts, from: Done, way: Way, pass: Pass): Stretch {
  let done = from
  const planned: PlannedSend[] = []
  const branches: OpenBranch[] = []
  for (const step of steps) {
    const stretch = isBranch(step)
      ? planBranch(step, of, done, way, pass)
      : planPlain(step, of, done, way, pass)
    for (const one of stretch.planned) planned.push(one)
    branches.push(...stretch.branches)
    done = stretch.done
  }
  return { planned, branches, done }
}

const nothing: RunPlan = { planned: [], branches: [] }

/** Nothing lost yet: how a client is planned for the first time. */
export const firstPass = (now: number): Pass => ({ now, lost: new Map() })

/**
 * Everything a running run wants to send, step by step, and the branches it stands at; a stopped one wants nothing.
 * The present moment decides only what is past and has never been there, and what an event that is over made void.
 */
export function planRun(run: Run, slice: Slice, pass: Pass): RunPlan {
  const of = runFacts(run, slice)
  if (run.state !== 'running' || !of) return nothing
  const { steps } = versionOf(slice.settings, run.sequenceId, run.version)
  return planSteps(steps, of, doneAt(run.startedAt), { kind: 'open', since: 0 }, pass)
}
