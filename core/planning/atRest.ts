import { testsOf } from '../conditions/testsOf.ts'
import type { ConditionField } from '../model/condition.ts'
import type { Send } from '../model/send.ts'
import type { Run, SequenceVersion } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import { subjectTraits } from '../model/subject.ts'
import { anchorTraits, type Anchor } from '../model/timing.ts'
import { branchesOf, plainSteps } from '../sequences/steps.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { aboutOf } from './about.ts'
import { isOpen } from './answers.ts'
import type { PlannedSend } from './planStep.ts'
import { versionOf, type Settings, type Slice } from './slice.ts'

/*
 * Runs come to rest: everything of them has gone or can never go, until an act on what they work for, or on their
 * sequence, says otherwise. What is planned for a client is then planned without them, however many there have been.
 */

/** How long after its last moment a run comes to rest: undoing a change and settling are over by then. */
export const restsAfterMs = 7 * dayMs

/** Whether the client's further life can bring a step up once more. */
function comesAgain({ timing, repeat }: PlainStep): boolean {
  if (repeat !== null && (repeat.untilCondition !== null || !isFixed(repeat.untilAnchor))) return true
  if (timing.kind === 'yearly' || timing.kind === 'evening') return true
  return 'anchor' in timing && !isFixed(timing.anchor)
}

/** Whether a version brings messages at any time though none is planned: an evening letter waits for what is ticked. */
export const isStanding = ({ steps }: SequenceVersion): boolean =>
  plainSteps(steps).some(({ timing }) => timing.kind === 'evening')

/** Whether a run still has something to do; `rows` are its stored sends. */
export function hasSomethingToDo(run: Run, rows: readonly Send[], settings: Settings): boolean {
  if (run.state !== 'running') return false
  return rows.some(isOpen) || isStanding(versionOf(settings, run.sequenceId, run.version))
}

const isFixed = (anchor: Anchor | null) => anchor === null || anchorTraits[anchor.of].about !== 'client'

/** Whether a planned send has gone, or can never go: no condition, and no later moment, brings it back. */
function isOver({ answer, awaits, dueAt, notAfter, step, ...planned }: PlannedSend, now: number): boolean {
  const { dropped, skipped, voided } = planned
  if (answer !== null || voided !== null || skipped?.code === 'branch') return true
  if (awaits !== null || dueAt !== null) return false
  return (notAfter !== null && notAfter < now) || (dropped?.code === 'past' && step.onlyIf === null)
}

const momentsOf = ({ wantedAt, notAfter, answer }: PlannedSend) => [
  wantedAt ?? 0,
  notAfter ?? 0,
  answer?.stateSince ?? 0,
]

/** Whether what a run works for lies long enough behind, as far as it has a time at all. */
function isLongOver(run: Run, slice: Slice, before: number): boolean {
  const { booking } = aboutOf(run.subject, slice.facts)
  if (booking !== null)
    return booking.settling === null && Math.max(booking.endAt, booking.timesSetAt) < before
  // Of one that is gone nobody knows whether it is over.
  return !subjectTraits[run.subject.kind].tellsTimes
}

/** What there is of a run: all that is planned for it, all that is stored, whether it stands at an undecided branch. */
interface OfRun {
  readonly planned: readonly PlannedSend[]
  readonly rows: readonly Send[]
  readonly isAtBranch: boolean
}

/** Whether a run is at rest. */
export function isAtRest(run: Run, { planned, rows, isAtBranch }: OfRun, slice: Slice, now: number): boolean {
  const before = now - restsAfterMs
  if (isAtBranch || rows.some((send) => isOpen(send) || send.state === 'sending')) return false
  if (run.state === 'stopped') return (run.stoppedAt ?? 0) < before
  const { steps } = versionOf(slice.settings, run.sequenceId, run.version)
  return (
    run.startedAt < before &&
    isLongOver(run, slice, before) &&
    !plainSteps(steps).some(comesAgain) &&
    planned.every((one) => isOver(one, now) && !comesAgain(one.step) && Math.max(...momentsOf(one)) < before)
  )
}

const aboutBookings: readonly ConditionField[] = [
  'client.has a booking ahead',
  'since the run started: booked',
]

const asking = new WeakMap<SequenceVersion, boolean>()

/** Whether a version asks about other bookings of the client than its own. */
export function asksAboutBookings(version: SequenceVersion): boolean {
  const known = asking.get(version)
  if (known !== undefined) return known
  const conditions = [
    ...plainSteps(version.steps).flatMap(({ onlyIf, repeat }) => [onlyIf, repeat?.untilCondition ?? null]),
    ...branchesOf(version.steps).map(({ condition }) => condition),
  ]
  const asks = conditions.some(
    (one) => one !== null && testsOf(one).some(({ field }) => aboutBookings.includes(field)),
  )
  asking.set(version, asks)
  return asks
}

/** Since when bookings count for some runs that are not at rest, beside those still to come: null: none do. */
export function bookingsCountSince(runs: readonly Run[], settings: Settings): number | null {
  const starts = runs
    .filter(
      (run) => run.state === 'running' && asksAboutBookings(versionOf(settings, run.sequenceId, run.version)),
    )
    .map(({ startedAt }) => startedAt)
  return starts.length === 0 ? null : Math.min(...starts)
}

/** Since when what has gone counts for what is open: promotional messages keep their distance from it, and their day. */
export function goneCountsSince(open: readonly Send[], { business }: Settings, now: number): number {
  const earliest = Math.min(now, ...open.filter(isOpen).map(({ dueAt }) => dueAt ?? now))
  return earliest - Math.max(2 * dayMs, business.promotionalGapHours * hourMs)
}
