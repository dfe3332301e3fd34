import type { Run } from '../model/sequence.ts'
import { recipientsOf } from '../sequences/recipients.ts'
import { latestOf, type Done } from './done.ts'
import type { PlannedSend } from './planStep.ts'
import { occurrences, repeatEnd } from './repeat.ts'
import { runFacts, stepFacts, type StepFacts } from './runFacts.ts'
import { versionOf, type Slice } from './slice.ts'
import { firstOccurrences } from './stepTimes.ts'

interface StepOutcome {
  readonly planned: readonly PlannedSend[]
  readonly done: Done
}

function planStepFor(facts: StepFacts, previous: Done, now: number): StepOutcome {
  const { step, run, contact } = facts
  const own = facts.facts.sends.filter(
    (send) => send.runId === run.id && send.stepId === step.id && send.contactId === contact.id,
  )
  const firsts = firstOccurrences({ facts, previous, end: repeatEnd(step.repeat, facts), own, now })
  const all = firsts.map((first) => occurrences(first, facts, own, now))
  return {
    planned: all.flatMap(({ plans }) => plans),
    done: latestOf(
      all.map(({ done }) => done),
      previous,
    ),
  }
}

/**
 * Everything a running run wants to send, step by step; a stopped one wants nothing. `now` decides only what has
 * no moment of its own yet: when something that will not go was decided.
 */
export function planRun(run: Run, slice: Slice, now: number): readonly PlannedSend[] {
  const of = runFacts(run, slice)
  if (run.state !== 'running' || !of) return []
  let previous: Done = { isDone: true, at: run.startedAt }
  return versionOf(slice.settings, run.sequenceId, run.version).steps.flatMap((step) => {
    const outcomes = recipientsOf(of.client, step.recipients).map((contact) =>
      planStepFor(stepFacts(of, step, contact), previous, now),
    )
    previous = latestOf(
      outcomes.map(({ done }) => done),
      previous,
    )
    return outcomes.flatMap(({ planned }) => planned)
  })
}
