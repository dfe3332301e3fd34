import type { RefusedLine } from '#core/api/announcements.ts'
import type { ManyDone } from '#core/engine/commands/oneByOne.ts'
import type { Effect } from '#core/engine/effects.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import type { Slice } from '#core/planning/slice.ts'
import type { Reading } from '../../db/livingStore.ts'
import type { Application, Decision } from '../application.ts'

export interface Together {
  readonly effects: readonly Effect[]
  readonly refused: readonly RefusedLine[]
}

/** One of many things, as far as it is there. */
export interface OneOfMany<Item> {
  readonly id: string
  /** Null: it is gone. */
  readonly item: Item | null
}

/** How one client's things among many are read and decided on. */
interface Deciding<Item> {
  readonly clientOf: (item: Item) => string
  readonly reading: (items: readonly Item[]) => Reading
  readonly decide: (slice: Slice, asked: readonly OneOfMany<Item>[]) => ManyDone
  /** What is said of one that is gone. */
  readonly missing: string
}

/** One thing with many things of several clients, client by client. Nothing is written. */
export function decideTogether<Item>(
  application: Application,
  asked: readonly OneOfMany<Item>[],
  { clientOf, reading, decide, missing }: Deciding<Item>,
): Together {
  const byClient = groupedBy(asked, ({ item }) => (item === null ? '' : clientOf(item)))
  const parts = [...byClient].map(([clientId, own]): Together => {
    const slice = application.readableSliceOf(clientId, reading(own.flatMap(({ item }) => item ?? [])))
    if (!slice) {
      const gone = { clientName: 'nobody', sentence: missing }
      return { effects: [], refused: own.map(({ id }) => ({ id, ...gone })) }
    }
    const { effects, refusals } = decide(slice, own)
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

/** What became of several things one act was asked of. */
export interface ManyAnswer {
  readonly done: number
  readonly refused: RefusedLine[]
}

/** What many things together come to, for who asked. */
export const manyDecided = (count: number, { effects, refused: lines }: Together): Decision<ManyAnswer> => ({
  effects,
  answer: { done: count - lines.length, refused: [...lines] },
  refused: lines,
})
