import type { Send, SendState } from '../model/send.ts'
import type { PlannedSend } from './planStep.ts'

/** When a step is done: at a moment, or not yet, with an estimate for showing. */
export type Done =
  | { readonly isDone: true; readonly at: number }
  | { readonly isDone: false; readonly estimateAt: number | null }

const wentStates: readonly SendState[] = ['sent', 'bounced']
const endedStates: readonly SendState[] = ['skipped', 'dropped', 'cancelled', 'stale', 'missed']

/** Whether a stored send has left the house. */
export const hasGone = (send: Send | undefined): boolean =>
  send !== undefined && wentStates.includes(send.state)

/**
 * When one planned send has ended: the moment it went, or if it will not go the later of that decision and its
 * wanted time. What failed, is blocked or in doubt has not ended until a person says so.
 */
export function endOf(send: Send | undefined, plan: PlannedSend, now: number): Done {
  if (send && hasGone(send)) return { isDone: true, at: send.sentAt ?? send.stateSince }
  const wantedAt = plan.wantedAt ?? send?.wantedAt ?? null
  if (send && endedStates.includes(send.state)) {
    return { isDone: true, at: Math.max(send.stateSince, wantedAt ?? send.stateSince) }
  }
  if (plan.dropped) return { isDone: true, at: Math.max(now, wantedAt ?? now) }
  return { isDone: false, estimateAt: plan.dueAt ?? plan.estimateAt }
}

/** When all of several have ended: the latest of their moments. Nothing to wait for is done at once. */
export function latestOf(ends: readonly Done[], otherwise: Done): Done {
  if (ends.length === 0) return otherwise
  const open = ends.find((end) => !end.isDone)
  if (open) {
    const estimates = ends.map((end) => (end.isDone ? end.at : end.estimateAt)).filter((at) => at !== null)
    return { isDone: false, estimateAt: estimates.length === 0 ? null : Math.max(...estimates) }
  }
  return { isDone: true, at: Math.max(...ends.map((end) => (end.isDone ? end.at : 0))) }
}
