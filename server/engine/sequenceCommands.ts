import type { EngineContext } from '#core/engine/context.ts'
import { settingsWithEffects, type Effect } from '#core/engine/effects.ts'
import { includable, include } from '#core/engine/inclusion.ts'
import { replan } from '#core/engine/replan.ts'
import { missWhileHeldBack } from '#core/engine/sendCommands.ts'
import {
  changeSequence,
  goLive,
  moveRuns,
  pauseSequence,
  underSettings,
  type SequenceDraft,
} from '#core/engine/sequenceCommands.ts'
import { setVariation, varyForClient } from '#core/engine/variationCommands.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Variation } from '#core/model/variation.ts'
import { difference, type Change } from '#core/planning/difference.ts'
import { withEffects } from '#core/engine/effects.ts'
import { hypothetical } from '#core/engine/consequences.ts'
import type { Settings, Slice } from '#core/planning/slice.ts'
import { overdueSends } from './overdue.ts'
import type { CommandCall, Office } from './office.ts'

function clientIds({ store }: Office, query: string, sequenceId: string | null = null): string[] {
  return store.statements.all(query, { sequenceId }).map((row) => String(row['id']))
}

/** The slices of all clients with running runs, of one sequence or of any, under the given settings. */
function* runningSlices(office: Office, sequenceId: string | null, settings: Settings): Generator<Slice> {
  for (const id of clientIds(office, 'clientsWithRunningRuns', sequenceId)) {
    const slice = office.sliceOf(id)
    if (slice) yield { ...slice, settings }
  }
}

function* allSlices(office: Office): Generator<Slice> {
  for (const row of office.store.statements.all('allClientIds')) {
    const slice = office.sliceOf(String(row['id']))
    if (slice) yield slice
  }
}

/** Plans all future sends anew: after new data about zones, for instance. Returns how many changed. */
export function planAllAnew(office: Office): number {
  const context = office.context(null)
  let changed = 0
  for (const slice of runningSlices(office, null, office.settings.required())) {
    const effects = replan(slice, context)
    if (effects.length > 0) office.apply(effects)
    changed += effects.filter(({ kind }) => kind === 'put send').length
  }
  return changed
}

/** Whom a sequence would start for that was there already, and what each would get. */
export interface Inclusion {
  readonly clientId: string
  readonly clientName: string
  readonly changes: readonly Change[]
}

export function previewInclusion(office: Office, sequenceId: string): readonly Inclusion[] {
  const sequence = office.settings.required().sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return []
  const context = hypothetical(office.clock.now())
  const found: Inclusion[] = []
  for (const slice of allSlices(office)) {
    const triggers = includable(sequence, slice, context.now)
    if (triggers.length === 0) continue
    const after = withEffects(slice.facts, include(sequence, triggers, slice, context))
    const { id, name } = slice.facts.client
    found.push({ clientId: id, clientName: name, changes: difference(slice.facts.sends, after.sends) })
  }
  return found
}

function includeAll(office: Office, sequenceId: string, context: EngineContext): readonly Effect[] {
  const sequence = office.settings.required().sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return []
  return [...allSlices(office)].flatMap((slice) =>
    include(sequence, includable(sequence, slice, context.now), slice, context),
  )
}

function switched(
  office: Office,
  sequenceId: string,
  isOn: boolean,
  settings: Settings,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (!isOn) return pauseSequence(settings, sequenceId, context)
  const wasPaused = settings.sequences.find(({ id }) => id === sequenceId)?.state === 'paused'
  const live = goLive(settings, sequenceId, context)
  if (!live.ok || !wasPaused) return live
  return done([...live.value, ...missWhileHeldBack(overdueSends(office, context.now, sequenceId), context)])
}

export interface SequenceAnswer {
  readonly id: string
  /** How many sends changed. */
  readonly sends: number
}

const countSends = (effects: readonly Effect[]) => effects.filter(({ kind }) => kind === 'put send').length

/** What a person can do with whole sequences. Each is one transaction, over all clients it concerns. */
export function createSequenceCommands(office: Office) {
  const answered = (
    call: CommandCall,
    id: string,
    decide: (context: EngineContext, settings: Settings) => Result<readonly Effect[]>,
  ): Result<SequenceAnswer> =>
    office.command(call, (context, settings) => {
      const decided = decide(context, settings)
      if (!decided.ok) return decided
      return done({ effects: decided.value, answer: { id, sends: countSends(decided.value) } })
    })
  return {
    /** Live, or held back. What fell due meanwhile is missed and listed when it goes on. */
    switchSequence: (call: CommandCall, id: string, isOn: boolean) =>
      answered(call, id, (context, settings) => switched(office, id, isOn, settings, context)),

    /** A new version; running runs keep theirs unless they are moved along. */
    changeSequence: (call: CommandCall, id: string, draft: SequenceDraft, movesRunning: boolean) =>
      answered(call, id, (context, settings) => {
        const changed = changeSequence(settings, id, draft, context)
        if (!changed.ok || !movesRunning) return changed
        const after = settingsWithEffects(settings, changed.value)
        const moved = [...runningSlices(office, id, after)].flatMap((slice) => moveRuns(slice, id, context))
        return done([...changed.value, ...moved])
      }),

    /** Starts a live sequence for those who were there already. */
    includeExisting: (call: CommandCall, id: string) =>
      answered(call, id, (context, settings) =>
        settings.sequences.some((one) => one.id === id && one.state === 'live')
          ? done(includeAll(office, id, context))
          : refused('not allowed now', 'Only a live sequence can take in those who are there already.'),
      ),

    /** What differs in a step for a service or a client, at work on running runs at once. */
    vary: (call: CommandCall, variation: Variation) =>
      answered(call, variation.id, (context, settings) => {
        if (variation.scope.of === 'client') {
          const slice = office.sliceOf(variation.scope.clientId)
          return slice
            ? varyForClient(slice, variation, context)
            : refused('not found', 'There is no such client.')
        }
        const before = settings.variations.find(({ id }) => id === variation.id)
        const put = setVariation(variation, settings, before, context)
        if (!put.ok) return put
        const planned = [...runningSlices(office, variation.sequenceId, settings)].flatMap((slice) =>
          underSettings(slice, [put.value], context),
        )
        return done([put.value, ...planned])
      }),
  }
}
