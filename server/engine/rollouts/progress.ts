import type { RolloutProgress } from '#core/api/sequenceEndpoints.ts'
import { isSet } from '../../db/columns.ts'
import type { Application } from '../application.ts'

/** What went into effect last client by client; `sequenceId` null: of settings. Null: nothing, or it is all done. */
export function rolloutOf(
  { store: { statements } }: Application,
  sequenceId: string | null,
): RolloutProgress | null {
  const row = statements.one('latestRollout', { sequenceId })
  if (!row) return null
  const others = statements
    .all('othersOfRollout', { id: String(row['id']) })
    .map(({ id, name }) => ({ id: String(id), name: String(name) }))
  const isUnderWay = row['endedAt'] === null
  const isStopped = isSet(row['isStopped'])
  if (!isUnderWay && !isStopped && others.length === 0) return null
  return { total: Number(row['total']), ahead: Number(row['ahead']), isUnderWay, isStopped, others }
}
