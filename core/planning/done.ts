import type { Send } from '../model/send.ts'
import { leftStates, stepDoneStates } from '../model/sendState.ts'
import type { PlannedSend } from './planStep.ts'

/** When a step is done: at a moment, known since another, or not yet, with an estimate for showing. */
export type Done =
  | { readonly isDone: true; readonly at: number; readonly knownAt: number }
  | { readonly isDone: false; readonly estimateAt: number | null }

export const doneAt = (at: number, knownAt = at): Done => ({ isDone: true, at, knownAt })

function endOfAnswer(send: Send, wantedAt: number | null): Done | null {
  const { state, stateSince, sentAt } = send
  if (leftStates.includes(state)) return doneAt(sentAt ?? stateSince, stateSince)
  // What failed or is in doubt has not ended until a person says so.
  if (state === 'cancelled' || stepDoneStates.includes(state)) {
    return doneAt(Math.max(stateSince, wantedAt ?? send.wantedAt ?? stateSince))
  }
  return { isDone: false, estimateAt: null }
}

/**
 * When one planned send has ended: the moment it went, or if it will not go the later of that decision and its
 * wanted time. A rule's decision falls when the facts do that it is made from.
 */
export function endOf(planned: PlannedSend): Done {
  const { answer, wantedAt, notBefore, run } = planned
  const answered = answer && endOfAnswer(answer, wantedAt)
  if (answered) return answered
  const since = notBefore ?? run.startedAt
  if (planned.voided) return doneAt(Math.max(planned.voided.at, wantedAt ?? planned.voided.at))
  if (planned.dropped || planned.lostTo) return doneAt(Math.max(since, wantedAt ?? since))
  if (planned.skipped && planned.skipped.at !== null) {
    return doneAt(Math.max(planned.skipped.at, wantedAt ?? planned.skipped.at))
  }
  return { isDone: false, estimateAt: planned.dueAt ?? planned.estimateAt }
}

/** When all of several have ended: the latest of their moments. Nothing to wait for is done at once. */
export function latestOf(ends: readonly Done[], otherwise: Done): Done {
  if (ends.length === 0) return otherwise
  const moments: number[] = []
  const known: number[] = []
  for (const end of ends) {
    if (!end.isDone) return { isDone: false, estimateAt: latestEstimate(ends) }
    moments.push(end.at)
    known.push(end.knownAt)
  }
  return doneAt(Math.max(...moments), Math.max(...known))
}

function latestEstimate(ends: readonly Done[]): number | null {
  const estimates = ends.map((end) => (end.isDone ? end.at : end.estimateAt)).filter((at) => at !== null)
  return estimates.length === 0 ? null : Math.max(...estimates)
}
