import { settlesUntil } from '../model/booking.ts'
import type { Send } from '../model/send.ts'
import { isPromotional } from '../model/step.ts'
import type { Purpose } from '../model/timing.ts'
import { isContactId } from '../sequences/recipients.ts'
import { findStep } from '../sequences/steps.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { firstOpenFrom, openSearchDays } from '../time/openTimes.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { hasGone, isOpen } from './answers.ts'
import type { PlannedSend } from './planStep.ts'
import { whyLeftOut, whyThen } from './reasons.ts'
import { inWords } from './runFacts.ts'
import { aboutOf } from './about.ts'
import { sendingTimesFor, versionOf, type Settings, type Slice } from './slice.ts'

/** A message that stands where it is: another promotional one keeps its distance from it. */
interface Standing {
  readonly at: number
  readonly isPromotional: boolean
}

const isToClient = (purpose: Purpose) => purpose !== 'internal'

/** Whether a stored send is promotional: by its purpose, or because its step's wish is an offer. */
export function isPromotionalSend(
  { purpose, sequenceId, sequenceVersion, stepId }: Send,
  settings: Settings,
): boolean {
  if (purpose !== 'occasion') return purpose === 'promotional'
  const step = findStep(versionOf(settings, sequenceId, sequenceVersion), stepId)
  return step !== undefined && isPromotional(step)
}

function goneOnes({ facts, settings }: Slice): readonly Standing[] {
  return facts.sends
    .filter((send) => hasGone(send) && isToClient(send.purpose) && isContactId(send.recipientId))
    .map((send) => ({
      at: send.sentAt ?? send.stateSince,
      isPromotional: isPromotionalSend(send, settings),
    }))
}

const naturalKey = ({ run, step, occurrence, anchorValue, recipient }: PlannedSend) =>
  [run.sequenceId, run.subject.id, step.id, occurrence, anchorValue, recipient.id].join('|')

function inOrder(one: PlannedSend, other: PlannedSend): number {
  return (
    one.step.priority - other.step.priority ||
    (one.wantedAt ?? 0) - (other.wantedAt ?? 0) ||
    (naturalKey(one) < naturalKey(other) ? -1 : 1)
  )
}

/** The first moment a step may go at that respects cap and gap; null when none is found within the search. */
function placeFor(
  { openTimes }: PlannedSend,
  from: number,
  standing: readonly Standing[],
  { settings, facts }: Slice,
): number | null {
  const { business, zones } = settings
  const zone = zones.zone(facts.client.zone ?? business.zone)
  const gapMs = business.promotionalGapHours * hourMs
  const limit = from + openSearchDays * dayMs
  let at = firstOpenFrom(openTimes, from)
  while (at !== null && at <= limit) {
    const present = at
    const day = dayAt(zone, present)
    const onDay = standing.filter((one) => one.isPromotional && dayAt(zone, one.at) === day)
    const near = standing.filter((one) => Math.abs(one.at - present) < gapMs)
    if (onDay.length >= business.promotionalPerDay) at = firstOpenFrom(openTimes, instantAt(zone, day + 1, 0))
    else if (near.length > 0) at = firstOpenFrom(openTimes, Math.max(...near.map((one) => one.at)) + gapMs)
    else return present
  }
  return null
}

function placed(planned: PlannedSend, at: number | null, slice: Slice): PlannedSend {
  if (at === planned.dueAt) return planned
  const isLost = at === null || (planned.notAfter !== null && at > planned.notAfter)
  const { settings } = slice
  const zone = settings.zones.zone(settings.business.zone)
  const words = { zone, sendingHours: sendingTimesFor(settings, settings.business.zone) }
  const why = isLost ? whyLeftOut.crowdedOut : whyThen.keptApart(inWords(words, at))
  const line = { rule: 'crowding', before: planned.dueAt, after: isLost ? null : at, ...why }
  const dropped = isLost ? why : planned.dropped
  return { ...planned, dueAt: isLost ? null : at, dropped, trace: [...planned.trace, line] }
}

/** Lines of trace that say what became of a message after it was planned. */
const afterPlanning: readonly string[] = ['person', 'settling', 'changed', 'allowance', 'downtime']

/** What is overdue, because something holds it back, stands where it was planned. */
function overdue(planned: PlannedSend, now: number): PlannedSend | null {
  const { row } = planned
  if (!row || !isOpen(row) || row.dueAt === null || row.dueAt >= now) return null
  const trace = row.trace.filter(({ rule }) => !afterPlanning.includes(rule))
  return { ...planned, dueAt: trace.at(-1)?.after ?? row.dueAt, trace }
}

/** What waits for a person, or to settle, stands at its own time; else what is past looks from now on. */
function fromOf(planned: PlannedSend, slice: Slice, now: number): number {
  const { run, step, row, dueAt } = planned
  // What waits to settle is put off to the end of that after all other rules.
  const settles = settlesUntil(aboutOf(run.subject, slice.facts).booking, dueAt) !== null
  const isHeld = run.held !== null || row?.decision.isHeldBack === true
  const isWaiting = step.needsApproval || isHeld || settles
  return isWaiting ? (dueAt ?? now) : Math.max(dueAt ?? now, now)
}

const isGoing = ({ dueAt, answer }: PlannedSend) => dueAt !== null && answer === null

/**
 * Rule 7, promotional messages only: at most so many a day and a distance to every other message of the client.
 * What has gone and service messages stay where they are.
 */
export function applyCrowding(
  all: readonly PlannedSend[],
  slice: Slice,
  now: number,
): readonly PlannedSend[] {
  const isForClient = ({ recipient, step }: PlannedSend) =>
    recipient.contact !== null && isToClient(step.purpose)
  const promotions = all
    .filter((one) => isPromotional(one.step) && isForClient(one) && isGoing(one))
    .sort(inOrder)
  if (promotions.length === 0) return all
  const standing: Standing[] = [
    ...goneOnes(slice),
    ...all
      .filter((one) => isGoing(one) && !isPromotional(one.step) && isForClient(one))
      .map(({ dueAt }) => ({ at: dueAt ?? 0, isPromotional: false })),
  ]
  const results = new Map<PlannedSend, PlannedSend>()
  for (const planned of promotions) {
    const postponedTo = planned.row?.decision.postponedTo ?? null
    const result =
      (postponedTo === null ? null : planned) ??
      overdue(planned, now) ??
      placed(planned, placeFor(planned, fromOf(planned, slice, now), standing, slice), slice)
    results.set(planned, result)
    // What a person has put off stands where it was put.
    const at = postponedTo ?? result.dueAt
    if (at !== null) standing.push({ at, isPromotional: true })
  }
  return all.map((planned) => results.get(planned) ?? planned)
}
