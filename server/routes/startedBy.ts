import type { StartedSequence } from '#core/api/moveViews.ts'
import type { StartEvent } from '#core/model/startEvent.ts'
import { versionOf, type Settings } from '#core/planning/slice.ts'
import { isNamed } from '#core/sequences/startRules.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import { plainSteps } from '#core/sequences/steps.ts'

/** The sequences that start on something by its name, and what each does first. */
export const sequencesStartingOn = (
  settings: Settings,
  event: StartEvent,
  called: string,
): StartedSequence[] =>
  settings.sequences.flatMap(({ id, name, state, currentVersion }) => {
    const { start, steps } = versionOf(settings, id, currentVersion)
    if (start.on !== event || !isNamed(event, start.name, called)) return []
    const [first] = plainSteps(steps)
    const letterId = first?.kind === 'mail' ? first.letterId : null
    const does = first && { label: stepLabel(first, letterId, settings), waits: first.needsApproval }
    return [{ id, name, state, first: does ?? null }]
  })
