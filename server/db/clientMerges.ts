import type { Effect } from '#core/engine/effects.ts'
import type { Client } from '#core/model/client.ts'
import { clientMerge, type ClientMerge } from '#core/model/clientMerge.ts'
import { asJson, flag, fromJson, kept } from './columns.ts'
import { readClient } from './clientStore.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

export function putClientMerge(statements: Statements, put: ClientMerge) {
  const { id, at, keptId, gone } = put
  const mergeJson = asJson(kept(clientMerge, put))
  statements.run('putClientMerge', { id, at, keptId, goneId: gone.id, mergeJson })
}

const asMerge = (row: Readonly<Record<string, unknown>>): ClientMerge =>
  clientMerge.parse(fromJson(row['mergeJson']))

/** A merge that stands; null: there is none, or it was taken back. */
export function readClientMerge(statements: Statements, id: string): ClientMerge | null {
  const row = statements.one('readClientMerge', { id })
  return row ? asMerge(row) : null
}

/** Who was merged into a client, the latest first. */
export const mergesOfClient = (statements: Statements, keptId: string): readonly ClientMerge[] =>
  readRows(statements, 'merge of clients', statements.all('mergesOfClient', { keptId }), asMerge)

/** The client somebody is by now: who they were merged with, or they themselves. */
export function presentClientId(statements: Statements, id: string): string {
  const present = statements.one('presentClient', { id })?.['id']
  return typeof present === 'string' ? present : id
}

/** The client a link of old was made for, or who they were merged with since; null: there is none. */
export const readPresentClient = (statements: Statements, id: string): Client | null =>
  readClient(statements, presentClientId(statements, id))

/** Gives some of what is one client's to another. Both have to be there. */
export function moveToClient(
  statements: Statements,
  { fromId, toId, moved, isWhole }: Extract<Effect, { kind: 'move to client' }>,
) {
  const runIdsJson = asJson(moved.runIds)
  statements.run('moveBookings', { toId, idsJson: asJson(moved.bookingIds) })
  statements.run('moveEnquiries', { toId, idsJson: asJson(moved.enquiryIds) })
  statements.run('moveInvoices', { toId, idsJson: asJson(moved.invoiceIds) })
  statements.run('moveRuns', { toId, idsJson: runIdsJson })
  statements.run('moveSends', { toId, runIdsJson })
  statements.run('moveRecipients', { recipientsJson: asJson(moved.recipients), runIdsJson })
  statements.run('moveTasks', { toId, idsJson: asJson(moved.taskIds) })
  statements.run('moveHappenings', { fromId, toId, happeningsJson: asJson(moved.happenings) })
  const ids = [...moved.bookingIds, ...moved.enquiryIds, ...moved.invoiceIds, ...moved.runIds]
  const idsJson = asJson(ids)
  statements.run('moveSignings', { fromId, toId, isWhole: flag(isWhole), idsJson })
  statements.run('moveDueMoments', { fromId, toId, isWhole: flag(isWhole), idsJson, runIdsJson })
  // What is going into effect for the one concerns the other, too.
  statements.run('shareRolloutsAhead', { fromId, toId })
  if (isWhole) statements.run('forgetRolloutsOf', { fromId })
}
