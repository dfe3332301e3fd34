import type { EngineContext } from '#core/engine/context.ts'
import { settledDifference } from '#core/engine/consequences/consequences.ts'
import { settingsWithEffects, withEffects, type Effect } from '#core/engine/effects.ts'
import {
  putIntoEffect,
  rolledOut,
  type GoingOver,
  type Rollout,
  type SequenceDesign,
} from '#core/engine/consequences/rollout.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Change } from '#core/planning/difference.ts'
import { asksAboutBookings } from '#core/planning/atRest.ts'
import { versionOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { readableClientFacts, type Reading } from '../../db/livingStore.ts'
import type { Statements } from '../../db/statements.ts'

/** A design and for whom it is to count. */
export interface RolloutAsk {
  readonly sequenceId: string
  readonly design: SequenceDesign
  readonly rollout: Rollout
}

/** What it does for one client. */
export interface ClientRollout {
  readonly clientId: string
  readonly clientName: string
  readonly effects: readonly Effect[]
  readonly changes: readonly Change[]
  /** The client's facts and the settings with it. */
  readonly changed: Slice
}

export interface RolloutPlan {
  readonly before: readonly Effect[]
  readonly after: Settings
  /** Clients that may be concerned. */
  readonly clientIds: readonly string[]
}

function concerned(statements: Statements, { sequenceId, rollout }: RolloutAsk): readonly string[] {
  const idsOf = (rows: readonly Record<string, unknown>[]) => rows.map((row) => String(row['id']))
  if (rollout.includesExisting) return idsOf(statements.all('allClientIds'))
  return rollout.movesRunning ? idsOf(statements.all('clientsWithRunningRuns', { sequenceId })) : []
}

/** The settings with a design in effect, and whom it may concern. */
export function rolloutPlan(
  statements: Statements,
  settings: Settings,
  ask: RolloutAsk,
  context: EngineContext,
): Result<RolloutPlan> {
  const before = putIntoEffect(settings, ask.sequenceId, ask.design, context)
  if (!before.ok) return before
  const after = settingsWithEffects(settings, before.value)
  return done({ before: before.value, after, clientIds: concerned(statements, ask) })
}

/**
 * What of a client is read for it: all that may be included or is asked about, else the running ones of the sequence.
 * `after` are the settings with it.
 */
export function readingFor(
  statements: Statements,
  clientId: string,
  { sequenceId, rollout }: { readonly sequenceId: string; readonly rollout: GoingOver },
  after: Settings,
): Reading {
  const sequence = after.sequences.find(({ id }) => id === sequenceId)
  const asks = sequence && asksAboutBookings(versionOf(after, sequenceId, sequence.currentVersion))
  if (asks || ('includesExisting' in rollout && rollout.includesExisting)) return 'everything'
  const runs = statements.all('runsOfClientInSequence', { clientId, sequenceId })
  return { subjectIds: [], runIds: runs.map(({ id }) => String(id)) }
}

/** What a design does client by client; nothing for those it does not concern. */
export function* clientRollouts(
  statements: Statements,
  settings: Settings,
  { after, clientIds }: RolloutPlan,
  ask: RolloutAsk,
  context: EngineContext,
): Generator<ClientRollout | null> {
  const { sequenceId, rollout } = ask
  for (const id of clientIds) {
    const facts = readableClientFacts(
      statements,
      id,
      readingFor(statements, id, ask, after),
      settings,
      context.now,
    )
    if (!facts) continue
    const slice: Slice = { settings, facts }
    const effects = rolledOut(slice, after, sequenceId, rollout, context)
    if (effects.length === 0) {
      yield null
      continue
    }
    const changed = { settings: after, facts: withEffects(facts, effects) }
    const changes = settledDifference(slice, changed, context.now)
    yield { clientId: id, clientName: facts.client.name, effects, changes, changed }
  }
}
