import type { Send } from '#core/model/send.ts'
import { readSend } from '../db/sendStore.ts'
import type { Office } from './office.ts'

/** The claimable sends that were due up to a moment, of one sequence or of all. */
export function overdueSends({ store }: Office, until: number, sequenceId: string | null = null): Send[] {
  return store.statements
    .all('overdueSends', { until, sequenceId })
    .map((row) => readSend(store.statements, String(row['id'])))
    .filter((send) => send !== null)
}
