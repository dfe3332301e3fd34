import type { Send } from '#core/model/send.ts'
import type { Slice } from '#core/planning/slice.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import { readSend } from '../../db/sendStore.ts'
import type { Application } from '../application.ts'
import { focusOnSends } from '../../db/livingStore.ts'

/** The claimable sends that were due up to a moment, of one sequence or of all. */
export function overdueSends(
  { store }: Application,
  until: number,
  sequenceId: string | null = null,
): Send[] {
  return store.statements
    .all('overdueSends', { until, sequenceId })
    .map((row) => readSend(store.statements, String(row['id'])))
    .filter((send) => send !== null)
}

/** What is made of the overdue sends of each client, one client after the other. */
export function forOverdue<Made>(
  application: Application,
  overdue: readonly Send[],
  make: (own: readonly Send[], slice: Slice) => readonly Made[],
): readonly Made[] {
  const byClient = groupedBy(overdue, ({ clientId }) => clientId)
  return [...byClient].flatMap(([clientId, own]) => {
    const slice = application.readableSliceOf(clientId, focusOnSends(own))
    return slice ? make(own, slice) : []
  })
}
