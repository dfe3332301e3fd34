import type { Send } from '../model/send.ts'
import { findStep } from '../sequences/steps.ts'
import { isOpen } from './answers.ts'
import { planClient } from './planClient.ts'
import { versionOf, type Slice } from './slice.ts'

/** So many are looked ahead at most; a repeat without a maximum ends by its condition or its anchor. */
const mostLookedAt = 60

const went = (send: Send, at: number): Send => ({
  ...send,
  state: 'sent',
  dueAt: at,
  sentAt: at,
  stateSince: at,
  reason: null,
})

/**
 * When the occurrences of a repeat come that follow an open one, if each goes at its time and nothing ends it before: what
 * the client does not do cannot be known. Empty for a step that does not repeat.
 */
export function furtherOccurrences(send: Send, { settings, facts }: Slice, now: number): readonly number[] {
  const step = findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
  const run = facts.runs.find(({ id }) => id === send.runId)
  if (!step?.repeat || !run || !isOpen(send) || send.dueAt === null) return []
  const moments: number[] = []
  const others = facts.sends.filter((one) => one.runId === run.id && one.id !== send.id)
  let sends: readonly Send[] = [...others, went(send, send.dueAt)]
  for (let occurrence = send.occurrence + 1; moments.length < mostLookedAt; occurrence += 1) {
    const planned = planClient({ settings, facts: { ...facts, runs: [run], sends } }, now)
    const next = planned.find(
      (one) =>
        one.step.id === send.stepId &&
        one.occurrence === occurrence &&
        one.recipient.id === send.recipientId &&
        one.answer === null,
    )
    if (!next || next.dueAt === null || next.voided !== null || next.skipped !== null) break
    moments.push(next.dueAt)
    const { anchorValue, dueAt, wantedAt } = next
    sends = [
      ...sends,
      went({ ...send, id: `${send.id}+${occurrence}`, occurrence, anchorValue, wantedAt }, dueAt),
    ]
  }
  return moments
}
