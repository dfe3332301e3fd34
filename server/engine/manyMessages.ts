import { announcedOf } from '#core/engine/announced.ts'
import { hypothetical } from '#core/engine/consequences.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { withEffects, type Effect } from '#core/engine/effects.ts'
import { decideMany, type ManyAct } from '#core/engine/manySends.ts'
import { difference, type Change } from '#core/planning/difference.ts'
import { readSend } from '../db/sendStore.ts'
import { consequenceLine } from './consequences.ts'
import type { Office } from './office.ts'

export interface RefusedLine {
  readonly id: string
  readonly clientName: string
  readonly sentence: string
}

interface ClientChange {
  readonly clientName: string
  readonly change: Change
}

interface Together {
  readonly effects: readonly Effect[]
  readonly changes: readonly ClientChange[]
  readonly refused: readonly RefusedLine[]
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
      const gone = { clientName: 'nobody', sentence: 'There is no such message.' }
      return { effects: [], changes: [], refused: own.map((id) => ({ id, ...gone })) }
    }
    const { effects, refusals } = decideMany(slice, own, act, context)
    const clientName = slice.facts.client.name
    const changes = difference(slice.facts.sends, withEffects(slice.facts, effects).sends)
    return {
      effects,
      changes: changes.map((change) => ({ clientName, change })),
      refused: refusals.map(({ id, problem }) => ({ id, clientName, sentence: problem.sentence })),
    }
  })
  return {
    effects: parts.flatMap(({ effects }) => effects),
    changes: parts.flatMap(({ changes }) => changes),
    refused: parts.flatMap(({ refused }) => refused),
  }
}

/** What one thing with many messages would do; nothing is done. */
export function askAboutSends(office: Office, ids: readonly string[], act: ManyAct) {
  const settings = office.settings.required()
  const now = office.clock.now()
  const { changes, refused } = decideTogether(office, ids, act, hypothetical(now))
  const announced = changes.map(({ change }) => announcedOf(change))
  return {
    announcementId: office.announcements.keep(announced, now),
    done: ids.length - refused.length,
    refused: [...refused],
    consequences: changes.map(({ clientName, change }) => ({
      ...consequenceLine(change, settings),
      clientName,
    })),
  }
}
