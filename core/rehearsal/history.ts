import { hypothetical } from '../engine/consequences/consequences.ts'
import { withEffects } from '../engine/effects.ts'
import { replan } from '../engine/following/replan.ts'
import { undecided, type Send } from '../model/send.ts'
import { hasEnded, hasGone, isOpen } from '../planning/answers.ts'
import type { Slice } from '../planning/slice.ts'

/*
 * The plan is a function of the history: what of the stored sends is history, what planning once from it gives, and
 * what planning again would change. Tests of both shells hold every life to that.
 */

/** What of a stored send planning anew would change. */
function changedParts(before: Send | undefined, after: Send) {
  const parts = Object.keys(after) as (keyof Send)[]
  const isOther = (part: keyof Send) => JSON.stringify(before?.[part]) !== JSON.stringify(after[part])
  return parts.filter(isOther).map((part) => [after.stepId, part, before?.[part], after[part]])
}

/** What planning anew would change now; nothing has happened in between. */
export function unrest(slice: Slice, now: number) {
  return replan(slice, hypothetical(now)).flatMap((effect) => {
    if (effect.kind === 'put run') return [[effect.run.id]]
    if (effect.kind !== 'put send') return []
    return changedParts(
      slice.facts.sends.find(({ id }) => id === effect.send.id),
      effect.send,
    )
  })
}

/** What a rule of the queue or a change without a moment of its own has put off stands where it was put. */
const putOffBy = ['crowding', 'changed']

/**
 * What of the stored sends is history: what went, what ended, what was put before a person or decided by one, what is
 * overdue because something holds it back, and what was put off. The rest follows from the facts.
 */
function isHistory(send: Send, now: number): boolean {
  const { decision } = send
  if (isOpen(send) && send.trace.some(({ rule }) => putOffBy.includes(rule))) return true
  const isDecided = JSON.stringify(decision) !== JSON.stringify(undecided)
  const isOverdue = isOpen(send) && send.dueAt !== null && send.dueAt <= now
  if (hasGone(send) || hasEnded(send)) return true
  if (send.state === 'cancelled') return decision.isEndedAtSending
  return (isOpen(send) && isDecided) || send.state === 'waiting' || send.state === 'approved' || isOverdue
}

const told = ({ runId, stepId, occurrence, recipientId, anchorValue, ...send }: Send) => ({
  message: [runId, stepId, occurrence, recipientId, anchorValue].join(' '),
  state: send.state,
  dueAt: send.dueAt,
  wantedAt: send.wantedAt,
  reason: send.reason?.code ?? null,
})

const byMessage = (one: { message: string }, other: { message: string }) =>
  one.message < other.message ? -1 : 1

/** What is still to come, as it is stored. */
export function stillToCome(sends: readonly Send[]) {
  return sends.filter(isOpen).map(told).sort(byMessage)
}

/** What is still to come, planned once from the history and the present moment. */
export function plannedFromHistory({ settings, facts }: Slice, now: number) {
  const history = { ...facts, sends: facts.sends.filter((send) => isHistory(send, now)) }
  const effects = replan({ settings, facts: history }, hypothetical(now))
  return stillToCome(withEffects(history, effects).sends)
}
