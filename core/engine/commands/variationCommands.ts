import { done, refused, type Result } from '../../model/problem.ts'
import type { PlainStep } from '../../model/step.ts'
import type { Variation } from '../../model/variation.ts'
import { versionOf, type Settings, type Slice } from '../../planning/slice.ts'
import { unrealRecipient } from '../../sequences/recipients.ts'
import { timingProblem } from '../../sequences/span.ts'
import { findStep } from '../../sequences/steps.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { replan } from '../following/replan.ts'

function stepOf({ sequenceId, stepId }: Variation, settings: Settings): PlainStep | undefined {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  return sequence && findStep(versionOf(settings, sequenceId, sequence.currentVersion), stepId)
}

/** A variation as it is to be stored: its timing counts from now where that is new. Refused where it fits no step. */
export function setVariation(
  variation: Variation,
  settings: Settings,
  before: Variation | undefined,
  context: EngineContext,
): Result<Effect> {
  const step = stepOf(variation, settings)
  if (!step) return refused('not found', 'There is no such step in this sequence.', 'stepId')
  if (variation.letterId !== null && step.kind !== 'mail') {
    return refused('invalid', 'Only a step that sends a letter can have another letter.', 'letterId')
  }
  const fault = variation.timing && timingProblem(variation.timing)
  if (fault) return refused('invalid', fault, 'timing')
  const unreal = variation.recipients && unrealRecipient(variation.recipients, settings)
  if (unreal) return refused('invalid', unreal, 'recipients')
  const isSame = JSON.stringify(before?.timing ?? null) === JSON.stringify(variation.timing)
  const timingSetAt = isSame ? (before?.timingSetAt ?? context.now) : context.now
  return done({ kind: 'put variation', variation: { ...variation, timingSetAt } })
}

/** What differs for one client from now on, at work on its running runs at once. */
export function varyForClient(
  slice: Slice,
  variation: Variation,
  context: EngineContext,
): Result<readonly Effect[]> {
  const before = slice.facts.variations.find(({ id }) => id === variation.id)
  const put = setVariation(variation, slice.settings, before, context)
  if (!put.ok) return put
  const facts = withEffects(slice.facts, [put.value])
  return done([put.value, ...replan({ ...slice, facts }, context)])
}

/** A client's difference taken away again. */
export function removedVariation(slice: Slice, id: string, context: EngineContext): readonly Effect[] {
  const effect: Effect = { kind: 'remove variation', id }
  return [effect, ...replan({ ...slice, facts: withEffects(slice.facts, [effect]) }, context)]
}
