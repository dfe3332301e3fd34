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
import { settingsChanged, type SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Change } from '#core/planning/difference.ts'
import { hourMs } from '#core/time/calendar.ts'
import { asksAboutBookings } from '#core/planning/atRest.ts'
import { versionOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { onlyLiving, readableClientFacts, type Reading } from '../../db/livingStore.ts'
import type { Statements } from '../../db/statements.ts'
import { holidaysOf } from '../holidays.ts'

/** A design and for whom it is to count. */
export interface DesignAsk {
  readonly sequenceId: string
  readonly design: SequenceDesign
  readonly rollout: Rollout
}

/** What is to go into effect for everybody it concerns: a design, or changed settings. */
export type RolloutAsk = DesignAsk | { readonly sequenceId: null; readonly change: SettingsChange }

/** What goes over the clients for it. */
export const goingOf = (ask: RolloutAsk): GoingOver =>
  ask.sequenceId === null ? { plansAnew: true } : ask.rollout

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

function concerned(statements: Statements, ask: RolloutAsk, now: number): readonly string[] {
  const idsOf = (rows: readonly Record<string, unknown>[]) => rows.map((row) => String(row['id']))
  if (ask.sequenceId === null && ask.change.of === 'own status') {
    // Nothing is planned by it; but bookings whose date is still to pass may get it then.
    const { comes } = ask.change.ownStatus
    const hoursAfter = comes?.side === 'after' ? comes.hours : 0
    return comes === null
      ? []
      : idsOf(statements.all('clientsWithBookingsEndingAfter', { endAfter: now - hoursAfter * hourMs }))
  }
  if (ask.sequenceId === null) return idsOf(statements.all('clientsWithRunningRuns', { sequenceId: null }))
  const { sequenceId, rollout } = ask
  if (rollout.includesExisting) return idsOf(statements.all('allClientIds'))
  return rollout.movesRunning ? idsOf(statements.all('clientsWithRunningRuns', { sequenceId })) : []
}

/** Other settings with the holidays of their own region. */
function withHolidays(before: Settings, after: Settings): Settings {
  const { holidayRegion } = after.business
  if (JSON.stringify(holidayRegion) === JSON.stringify(before.business.holidayRegion)) return after
  const holidays = holidaysOf(holidayRegion)
  return { ...after, isHoliday: (day) => holidays(day) !== null }
}

/** The settings with what is to go into effect, and whom it may concern. */
export function rolloutPlan(
  statements: Statements,
  settings: Settings,
  ask: RolloutAsk,
  context: EngineContext,
): Result<RolloutPlan> {
  const before =
    ask.sequenceId === null
      ? settingsChanged(settings, ask.change, context)
      : putIntoEffect(settings, ask.sequenceId, ask.design, context)
  if (!before.ok) return before
  const after = withHolidays(settings, settingsWithEffects(settings, before.value))
  return done({ before: before.value, after, clientIds: concerned(statements, ask, context.now) })
}

/**
 * What of a client is read for it: all that may be included or is asked about, else the running ones of the sequence.
 * `after` are the settings with it.
 */
export function readingFor(
  statements: Statements,
  clientId: string,
  { sequenceId, rollout }: { readonly sequenceId: string | null; readonly rollout: GoingOver },
  after: Settings,
): Reading {
  if (sequenceId === null) return onlyLiving
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
  const { sequenceId } = ask
  const rollout = goingOf(ask)
  for (const id of clientIds) {
    const facts = readableClientFacts(
      statements,
      id,
      readingFor(statements, id, { sequenceId, rollout }, after),
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
