import { z } from 'zod'
import type { Announced } from '#core/engine/consequences/announced.ts'
import type { BegunRollout } from '#core/engine/effects.ts'
import { goingOver, type GoingOver } from '#core/engine/consequences/rollout.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'

/** A rollout that is still going over its clients. */
export interface RolloutUnderWay {
  readonly id: string
  /** Null: changed settings. */
  readonly sequenceId: string | null
  readonly rollout: GoingOver
  readonly personId: string | null
  /** When what was announced was worked out, in business time; null: nothing was asked about. */
  readonly announcedAt: number | null
}

export interface RolloutClient {
  readonly clientId: string
  /** Null: nothing was asked about. */
  readonly announced: readonly Announced[] | null
}

const announcedRows = z.array(
  z.object({
    clientId: z.string(),
    name: z.string(),
    kind: z.string(),
    at: z.number().nullable(),
    manner: z.string(),
  }),
) as unknown as z.ZodType<readonly Announced[]>

export function putRollout(statements: Statements, begun: BegunRollout) {
  const { id, sequenceId, personId, startedAt, announced, clientIds } = begun
  const rolloutJson = asJson(kept(goingOver, begun.rollout))
  const announcedAt = announced?.at ?? null
  statements.run('beginRollout', { id, sequenceId, rolloutJson, personId, announcedAt, startedAt })
  const ofClient = announced && groupedBy(announced.all, ({ clientId }) => clientId)
  for (const clientId of clientIds) {
    const announcedJson = ofClient ? asJson(ofClient.get(clientId) ?? []) : null
    statements.run('addRolloutClient', { rolloutId: id, clientId, announcedJson })
  }
}

/** The rollout that is at work, the earliest first; null: none is. */
export function rolloutUnderWay(statements: Statements): RolloutUnderWay | null {
  const row = statements.one('rolloutUnderWay')
  if (!row) return null
  return {
    id: String(row['id']),
    sequenceId: typeof row['sequenceId'] === 'string' ? row['sequenceId'] : null,
    rollout: goingOver.parse(fromJson(row['rolloutJson'])),
    personId: typeof row['personId'] === 'string' ? row['personId'] : null,
    announcedAt: row['announcedAt'] === null ? null : Number(row['announcedAt']),
  }
}

/** How many clients of a rollout are still ahead. */
export function aheadOf(statements: Statements, id: string): number {
  return Number(statements.one('aheadOfRollout', { id })?.['count'] ?? 0)
}

export function nextOfRollout(statements: Statements, id: string, limit: number): readonly RolloutClient[] {
  return statements.all('nextOfRollout', { id, limit }).map(({ clientId, announcedJson }) => ({
    clientId: String(clientId),
    announced: announcedJson === null ? null : announcedRows.parse(fromJson(announcedJson)),
  }))
}
