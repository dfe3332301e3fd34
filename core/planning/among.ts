import type { Booking } from '../model/booking.ts'
import { subjectTraits } from '../model/subject.ts'
import type { Timing } from '../model/timing.ts'
import { hourMs } from '../time/calendar.ts'
import { hasGone, isForPresent } from './answers.ts'
import { groupedBy } from './groupedBy.ts'
import { latenessRule } from './lateness.ts'
import { droppedBy, type PlannedSend } from './planStep.ts'
import { whyLeftOut } from './reasons.ts'

/*
 * Rules that look at several planned sends of one client at once: none may fire a burst, and two reminders of one
 * booking do not come on each other's heels.
 */

const anchorName = (timing: Timing): string =>
  'anchor' in timing ? JSON.stringify(timing.anchor) : timing.kind

const isGone = ({ answer }: PlannedSend) => answer !== null && hasGone(answer)

const wasLate = ({ trace, dueAt, answer }: PlannedSend) =>
  answer === null && dueAt !== null && trace.some(({ rule }) => rule === latenessRule)

/** All planned sends with some replaced. */
function replaced(
  all: readonly PlannedSend[],
  by: ReadonlyMap<PlannedSend, PlannedSend>,
): readonly PlannedSend[] {
  return by.size === 0 ? all : all.map((planned) => by.get(planned) ?? planned)
}

/** In the order in which they are wanted; at one moment the earlier step comes first. */
const byWanted = (one: PlannedSend, other: PlannedSend) =>
  (one.wantedAt ?? 0) - (other.wantedAt ?? 0) || one.index - other.index || one.occurrence - other.occurrence

/**
 * Of the sends of one run, contact, purpose and anchor that lateness moved only the one wanted last goes, and none
 * wanted before one that has gone already; wanted at one moment, the later step goes.
 */
export function withoutBursts(all: readonly PlannedSend[]): readonly PlannedSend[] {
  if (!all.some(wasLate)) return all
  const drops = new Map<PlannedSend, PlannedSend>()
  const key = ({ run, recipient, step }: PlannedSend) =>
    [run.id, recipient.id, step.purpose, anchorName(step.timing)].join('|')
  for (const group of groupedBy(all, key).values()) {
    const last = group
      .filter((planned) => wasLate(planned) || isGone(planned))
      .sort(byWanted)
      .at(-1)
    for (const planned of group) {
      if (planned === last || !wasLate(planned)) continue
      drops.set(planned, droppedBy(planned, 'burst', whyLeftOut.burst))
    }
  }
  return replaced(all, drops)
}

const closestMs = 4 * hourMs

const isMoved = ({ dueAt, wantedAt }: PlannedSend) => dueAt !== null && dueAt !== wantedAt
const distance = ({ dueAt, wantedAt }: PlannedSend) => Math.abs((dueAt ?? 0) - (wantedAt ?? 0))

/** Which of two reminders goes: one that has gone stays, then the one moved least, then the one wanted later. */
function loserOf(one: PlannedSend, other: PlannedSend): PlannedSend | null {
  if (isGone(one)) return isGone(other) ? null : other
  if (isGone(other)) return one
  if (distance(one) !== distance(other)) return distance(one) > distance(other) ? one : other
  if (one.wantedAt !== other.wantedAt) return (one.wantedAt ?? 0) < (other.wantedAt ?? 0) ? one : other
  return byWanted(one, other) > 0 ? one : other
}

/** A reminder of a booking that goes, or went for the time it has now; one that will never go stands in nobody's way. */
function countsAsReminder(planned: PlannedSend, bookings: readonly Booking[]): boolean {
  const { step, dueAt, run, answer } = planned
  if (step.purpose !== 'reminder' || dueAt === null || !subjectTraits[run.subject.kind].tellsTimes)
    return false
  if (answer === null) return true
  const booking = bookings.find(({ id }) => id === run.subject.id) ?? null
  return hasGone(answer) && isForPresent(answer, planned, booking)
}

/** Two reminders of one booking and contact within four hours, at least one of them moved: one goes. */
export function withoutTwins(
  all: readonly PlannedSend[],
  bookings: readonly Booking[],
): readonly PlannedSend[] {
  const drops = new Map<PlannedSend, PlannedSend>()
  const reminders = all.filter((planned) => countsAsReminder(planned, bookings))
  if (reminders.length < 2) return all
  for (const group of groupedBy(
    reminders,
    ({ run, recipient }) => `${run.subject.id}|${recipient.id}`,
  ).values()) {
    const fromTheEvent = group.toSorted(
      (one, other) => (other.dueAt ?? 0) - (one.dueAt ?? 0) || byWanted(other, one),
    )
    for (let index = 0; index < fromTheEvent.length - 1;) {
      const [one, other] = [fromTheEvent[index], fromTheEvent[index + 1]]
      if (!one || !other) break
      const isClose = (one.dueAt ?? 0) - (other.dueAt ?? 0) <= closestMs && (isMoved(one) || isMoved(other))
      const loser = isClose ? loserOf(one, other) : null
      if (loser === null) {
        index += 1
        continue
      }
      drops.set(loser, droppedBy(loser, 'two reminders', whyLeftOut.twoReminders))
      fromTheEvent.splice(fromTheEvent.indexOf(loser), 1)
      index = Math.max(0, index - 1)
    }
  }
  return replaced(all, drops)
}
