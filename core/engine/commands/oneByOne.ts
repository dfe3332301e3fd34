import type { Problem, Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import { withEffects, type Effect } from '../effects.ts'

/** What is done with several things, and which it cannot be done with, each with its reason. */
export interface ManyDone {
  readonly effects: readonly Effect[]
  readonly refusals: readonly { readonly id: string; readonly problem: Problem }[]
}

/** Does something with several things of one client, one after the other; the others go on where one cannot. */
export function oneByOne<Item extends { readonly id: string }>(
  slice: Slice,
  items: readonly Item[],
  decide: (present: Slice, item: Item) => Result<readonly Effect[]>,
): ManyDone {
  return items.reduce(
    ({ effects, refusals }: ManyDone, item): ManyDone => {
      const result = decide({ ...slice, facts: withEffects(slice.facts, effects) }, item)
      return result.ok
        ? { effects: [...effects, ...result.value], refusals }
        : { effects, refusals: [...refusals, { id: item.id, problem: result.problem }] }
    },
    { effects: [], refusals: [] },
  )
}
