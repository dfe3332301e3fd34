import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { decideMany, type ManyAct } from '#core/engine/commands/manySends.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import type { Send } from '#core/model/send.ts'
import { readSend } from '../../db/sendStore.ts'
import type { Application } from '../application.ts'
import { focusOnSends } from '../../db/livingStore.ts'

export interface RefusedLine {
  readonly id: string
  readonly clientName: string
  readonly sentence: string
}

interface Together {
  readonly effects: readonly Effect[]
  readonly refused: readonly RefusedLine[]
}

interface Asked {
  readonly id: string
  /** Null: it is gone. */
  readonly send: Send | null
}

function byClient(application: Application, ids: readonly string[]): ReadonlyMap<string, readonly Asked[]> {
  const asked = [...new Set(ids)].map((id) => ({ id, send: readSend(application.store.statements, id) }))
  return groupedBy(asked, ({ send }) => send?.clientId ?? '')
}

/** One thing with many messages, client by client. Nothing is written. */
export function decideTogether(
  application: Application,
  ids: readonly string[],
  act: ManyAct,
  context: EngineContext,
): Together {
  const parts = [...byClient(application, ids)].map(([clientId, asked]): Together => {
    const own = asked.map(({ id }) => id)
    const slice = application.readableSliceOf(clientId, focusOnSends(asked.flatMap(({ send }) => send ?? [])))
    if (!slice) {
      const gone = { clientName: 'nobody', sentence: 'There is no such message.' }
      return { effects: [], refused: own.map((id) => ({ id, ...gone })) }
    }
    const { effects, refusals } = decideMany(slice, own, act, context)
    const clientName = slice.facts.client.name
    return {
      effects,
      refused: refusals.map(({ id, problem }) => ({ id, clientName, sentence: problem.sentence })),
    }
  })
  return {
    effects: parts.flatMap(({ effects }) => effects),
    refused: parts.flatMap(({ refused }) => refused),
  }
}
