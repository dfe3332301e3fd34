import { z } from 'zod'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Sequence, SequenceVersion } from '../../model/sequence.ts'
import { requiredLine } from '../../model/values.ts'
import { versionOf, type Settings, type Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { settingsWithEffects, withEffects, type Effect } from '../effects.ts'
import { includable, include } from '../following/inclusion.ts'
import { comingMoment } from '../following/ownStatusComing.ts'
import { replan } from '../following/replan.ts'
import { changeSequence, goLive, moveRuns, sequenceDraft } from '../commands/sequenceCommands.ts'

/** A sequence as it is being designed. */
export const sequenceDesign = z
  .object({ name: requiredLine(120, 'A sequence needs a name.'), ...sequenceDraft.shape })
  .strict()
export type SequenceDesign = z.infer<typeof sequenceDesign>

/** For whom a design counts from now on, beside those it starts for later. */
export const rollout = z
  .object({
    /** Running ones change over to it. */
    movesRunning: z.boolean(),
    /** It starts for those who stand already where it would have started. */
    includesExisting: z.boolean(),
  })
  .strict()
export type Rollout = z.infer<typeof rollout>

/** What goes over clients: a design, or all running ones planned anew in their own versions. */
export const goingOver = z.union([rollout, z.object({ plansAnew: z.literal(true) }).strict()])
export type GoingOver = z.infer<typeof goingOver>

function isSameRules({ start, steps, stops }: SequenceVersion, design: SequenceDesign): boolean {
  return JSON.stringify({ start, steps, stops }) === JSON.stringify(sequenceDraft.parse(pick(design)))
}

/** Whether a design says what is in effect already. */
export function isInEffect(settings: Settings, sequence: Sequence, design: SequenceDesign): boolean {
  const version = versionOf(settings, sequence.id, sequence.currentVersion)
  return sequence.name === design.name && isSameRules(version, design)
}

const pick = ({ start, steps, stops }: SequenceDesign) => ({ start, steps, stops })

function renamed(
  settings: Settings,
  sequenceId: string,
  name: string,
  context: EngineContext,
): readonly Effect[] {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  if (!sequence || sequence.name === name) return []
  const sentence = `Sequence “${sequence.name}” is called “${name}” now.`
  return [
    { kind: 'put sequence', sequence: { ...sequence, name } },
    appendEvent(context, 'sequence changed', { name }, sentence),
  ]
}

/** A design put into effect: its version, its name, and live where it was a draft. Settings only; clients follow. */
export function putIntoEffect(
  settings: Settings,
  sequenceId: string,
  design: SequenceDesign,
  context: EngineContext,
): Result<readonly Effect[]> {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return refused('not found', 'There is no such sequence.')
  const names = renamed(settings, sequenceId, design.name, context)
  const named = settingsWithEffects(settings, names)
  const isSame = isSameRules(versionOf(settings, sequenceId, sequence.currentVersion), design)
  const changed = isSame ? done([]) : changeSequence(named, sequenceId, pick(design), context)
  if (!changed.ok) return changed
  const before = [...names, ...changed.value]
  if (sequence.state !== 'draft') return done(before)
  const live = goLive(settingsWithEffects(settings, before), sequenceId, context)
  return live.ok ? done([...before, ...live.value]) : live
}

/** What goes over clients, for one of them. `after` are the settings with it. */
export function rolledOut(
  slice: Slice,
  after: Settings,
  sequenceId: string | null,
  going: GoingOver,
  context: EngineContext,
): readonly Effect[] {
  const present: Slice = { settings: after, facts: slice.facts }
  if ('plansAnew' in going) {
    const comings = slice.facts.bookings.flatMap((booking) => comingMoment(after, booking))
    return [...comings, ...replan(present, context)]
  }
  const sequence = after.sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return []
  const { movesRunning, includesExisting } = going
  const moved = movesRunning ? moveRuns(present, sequence.id, context) : []
  if (!includesExisting) return moved
  const next: Slice = { settings: after, facts: withEffects(slice.facts, moved) }
  return [...moved, ...include(sequence, includable(sequence, next, context.now), next, context)]
}
