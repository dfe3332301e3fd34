import { announcedOf } from '#core/engine/announced.ts'
import { hypothetical } from '#core/engine/consequences.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { withEffects, type Effect } from '#core/engine/effects.ts'
import { decideMany, type ManyAct, type ManyDone } from '#core/engine/manySends.ts'
import { difference, type Change } from '#core/planning/difference.ts'
import { readSend } from '../db/sendStore.ts'
import { consequenceLine } from './consequences.ts'
import type { Office } from './office.ts'

export interface RefusedLine {
  readonly id: string
  readonly clientName: string
  readonly sentence: string
}

interface Together extends ManyDone {
  readonly effects: readonly Effect[]
  readonly changes: readonly Change[]
}

function byClient(office: Office, ids: readonly string[]): ReadonlyMap<string, readonly string[]> {
  const groups = new Map<string, string[]>()
  for (const id of new Set(ids)) {
    const clientId = readSend(office.store.statements, id)?.clientId ?? ''
    groups.set(clientId, [...(groups.get(clientId) ?? []), id])
  }
  return groups
}

/** One thing with many messages, client by client, and what that changes. Nothing is written. */
export function decideTogether(
  office: Office,
  ids: readonly string[],
  act: ManyAct,
  context: EngineContext,
): Together {
  const parts = [...byClient(office, ids)].map(([clientId, own]): Together => {
    const slice = office.sliceOf(clientId)
    if (!slice) {
      const problem = { code: 'not found', sentence: 'There is no such message.', field: null } as const
      return { effects: [], changes: [], refusals: own.map((id) => ({ id, problem })) }
    }
    const result = decideMany(slice, own, act, context)
    const after = withEffects(slice.facts, result.effects)
    return { ...result, changes: difference(slice.facts.sends, after.sends) }
  })
  return {
    effects: parts.flatMap(({ effects }) => effects),
    changes: parts.flatMap(({ changes }) => changes),
    refusals: parts.flatMap(({ refusals }) => refusals),
  }
}

export function refusedLines(office: Office, refusals: ManyDone['refusals']): readonly RefusedLine[] {
  return refusals.map(({ id, problem }) => {
    const clientId = readSend(office.store.statements, id)?.clientId
    const name = clientId === undefined ? undefined : office.sliceOf(clientId)?.facts.client.name
    return { id, clientName: name ?? 'nobody', sentence: problem.sentence }
  })
}

/** What one thing with many messages would do; nothing is done. */
export function askAboutSends(office: Office, ids: readonly string[], act: ManyAct) {
  const settings = office.settings.required()
  const found = decideTogether(office, ids, act, hypothetical(office.clock.now()))
  const names = new Map<string, string>()
  const nameOf = (clientId: string) => {
    if (!names.has(clientId)) names.set(clientId, office.sliceOf(clientId)?.facts.client.name ?? '')
    return names.get(clientId) ?? ''
  }
  return {
    announcementId: office.announcements.keep(found.changes.map(announcedOf), office.clock.now()),
    done: ids.length - found.refusals.length,
    refused: [...refusedLines(office, found.refusals)],
    consequences: found.changes.map((change) => ({
      ...consequenceLine(change, settings),
      clientName: nameOf(('before' in change ? change.before : change.after).clientId),
    })),
  }
}
