import type { StepTrust } from '#core/api/sequenceEndpoints.ts'
import { earnedTrust, keptTrust, sameSinceVersion, type Judgement } from '#core/insight/trust.ts'
import type { Sequence } from '#core/model/sequence.ts'
import { isMessage, type MessageStep } from '#core/model/step.ts'
import { versionOf, type Settings } from '#core/planning/slice.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import { plainSteps } from '#core/sequences/steps.ts'
import type { Application } from '../engine/application.ts'

interface Decided {
  readonly kind: string
  readonly name: string
}

function judgementOf({ kind, name }: Decided): Judgement[] {
  // Without a word it was no message that waited.
  if (name !== 'as it was' && name !== 'edited') return []
  return [kind === 'message skipped' ? 'skipped' : name]
}

/** A message that would have gone by itself, held back or left out by a person. */
const isStop = ({ kind, name }: Decided) =>
  kind === 'message held back' || (kind === 'message skipped' && name === '')

/** What was decided about one step since it and its letter are what they are. */
function trustOf(
  application: Application,
  settings: Settings,
  sequence: Sequence,
  step: MessageStep,
): StepTrust {
  const letterId = step.kind === 'mail' ? step.letterId : null
  const { statements } = application.store
  const since = {
    sequenceId: sequence.id,
    stepId: step.id,
    version: sameSinceVersion(sequence, settings.sequenceVersions, step.id),
    at: settings.letters.find(({ id }) => id === letterId)?.changedAt ?? 0,
  }
  const decided = statements
    .all('decisionsOfStep', since)
    .map((row): Decided => ({ kind: String(row['kind']), name: String(row['name']) }))
  return {
    sequenceId: sequence.id,
    stepId: step.id,
    action: stepLabel(step, letterId, settings),
    needsApproval: step.needsApproval,
    trust: step.needsApproval
      ? earnedTrust(decided.flatMap(judgementOf))
      : keptTrust(Number(statements.one('goneOfStep', since)?.['count'] ?? 0), decided.filter(isStop).length),
  }
}

/** How far each message of live sequences has earned to go by itself. */
export function trustOfSteps(application: Application): StepTrust[] {
  const settings = application.settings.required()
  return settings.sequences
    .filter(({ state }) => state !== 'draft')
    .flatMap((sequence) =>
      plainSteps(versionOf(settings, sequence.id, sequence.currentVersion).steps)
        .filter(isMessage)
        .map((step) => trustOf(application, settings, sequence, step)),
    )
}
