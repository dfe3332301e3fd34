import type { Send } from '../model/send.ts'
import type { Timing } from '../model/timing.ts'
import { hourMs } from '../time/calendar.ts'
import { latenessRule } from './lateness.ts'
import type { PlannedSend } from './planStep.ts'
import { ownRow, perhapsToldStates } from './stored.ts'

/*
 * Rules that look at several planned sends of one client at once: none may fire a burst, and two reminders of one
 * booking do not come on each other's heels.
 */

const hasGone = (planned: PlannedSend, sends: readonly Send[]) => {
  const stored = ownRow(planned, sends)
  return stored !== undefined && perhapsToldStates.includes(stored.state)
}

/** A planned send dropped by one of these rules, with a line of trace. */
function without(planned: PlannedSend, rule: string, code: string, sentence: string): PlannedSend {
  const line = { rule, before: planned.dueAt, after: null, code, sentence }
  return { ...planned, dueAt: null, dropped: { code, sentence }, trace: [...planned.trace, line] }
}

const anchorName = (timing: Timing): string =>
  'anchor' in timing ? JSON.stringify(timing.anchor) : timing.kind

const wasLate = ({ trace, dropped }: PlannedSend) =>
  !dropped && trace.some(({ rule }) => rule === latenessRule)

function grouped(
  all: readonly PlannedSend[],
  keyOf: (planned: PlannedSend) => string,
): readonly (readonly PlannedSend[])[] {
  const groups = new Map<string, PlannedSend[]>()
  for (const planned of all) {
    const key = keyOf(planned)
    const group = groups.get(key)
    if (group) group.push(planned)
    else groups.set(key, [planned])
  }
  return [...groups.values()]
}

/** All planned sends with some replaced. */
function replaced(
  all: readonly PlannedSend[],
  by: ReadonlyMap<PlannedSend, PlannedSend>,
): readonly PlannedSend[] {
  return by.size === 0 ? all : all.map((planned) => by.get(planned) ?? planned)
}

/**
 * Of the sends of one run, contact, purpose and anchor that lateness moved only the one wanted last goes, and none
 * wanted before one that has gone already.
 */
export function withoutBursts(all: readonly PlannedSend[], sends: readonly Send[]): readonly PlannedSend[] {
  if (!all.some(wasLate)) return all
  const drops = new Map<PlannedSend, PlannedSend>()
  const key = ({ run, recipient, step }: PlannedSend) =>
    [run.id, recipient.id, step.purpose, anchorName(step.timing)].join('|')
  for (const group of grouped(all, key)) {
    const late = group.filter((planned) => wasLate(planned) && !hasGone(planned, sends))
    const gone = group.filter((planned) => hasGone(planned, sends)).map(({ wantedAt }) => wantedAt ?? 0)
    const latest = Math.max(...late.map(({ wantedAt }) => wantedAt ?? 0), ...gone)
    for (const planned of late) {
      if ((planned.wantedAt ?? 0) >= latest && !gone.includes(planned.wantedAt ?? 0)) continue
      const sentence = 'Several had come late at once: only the one wanted last goes.'
      drops.set(planned, without(planned, 'burst', 'burst', sentence))
    }
  }
  return replaced(all, drops)
}

const closestMs = 4 * hourMs

const isMoved = ({ dueAt, wantedAt }: PlannedSend) => dueAt !== null && dueAt !== wantedAt
const distance = ({ dueAt, wantedAt }: PlannedSend) => Math.abs((dueAt ?? 0) - (wantedAt ?? 0))

/** Which of two reminders goes: one that has gone stays, then the one moved least, then the one wanted later. */
function loserOf(one: PlannedSend, other: PlannedSend, sends: readonly Send[]): PlannedSend | null {
  const oneGone = hasGone(one, sends)
  const otherGone = hasGone(other, sends)
  if (oneGone && otherGone) return null
  if (oneGone) return other
  if (otherGone) return one
  if (distance(one) !== distance(other)) return distance(one) > distance(other) ? one : other
  return (one.wantedAt ?? 0) < (other.wantedAt ?? 0) ? one : other
}

/** Two reminders of one booking and contact within four hours, at least one of them moved: one goes. */
export function withoutTwins(all: readonly PlannedSend[], sends: readonly Send[]): readonly PlannedSend[] {
  const drops = new Map<PlannedSend, PlannedSend>()
  const reminders = all.filter(({ step, dueAt, run }) => {
    return step.purpose === 'reminder' && dueAt !== null && run.subject.kind === 'booking'
  })
  if (reminders.length < 2) return all
  for (const group of grouped(reminders, ({ run, recipient }) => `${run.subject.id}|${recipient.id}`)) {
    const fromTheEvent = group.toSorted(
      (one, other) => (other.dueAt ?? 0) - (one.dueAt ?? 0) || byWanted(other, one),
    )
    for (let index = 0; index < fromTheEvent.length - 1;) {
      const [one, other] = [fromTheEvent[index], fromTheEvent[index + 1]]
      if (!one || !other) break
      const isClose = (one.dueAt ?? 0) - (other.dueAt ?? 0) <= closestMs && (isMoved(one) || isMoved(other))
      const loser = isClose ? loserOf(one, other, sends) : null
      if (loser === null) {
        index += 1
        continue
      }
      drops.set(
        loser,
        without(loser, 'two reminders', 'two reminders', 'Another reminder goes within four hours of it.'),
      )
      fromTheEvent.splice(fromTheEvent.indexOf(loser), 1)
      index = Math.max(0, index - 1)
    }
  }
  return replaced(all, drops)
}

const byWanted = (one: PlannedSend, other: PlannedSend) => (one.wantedAt ?? 0) - (other.wantedAt ?? 0)
