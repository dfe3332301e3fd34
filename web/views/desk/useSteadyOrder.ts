import { useState } from 'react'

interface Steady<Item> {
  readonly items: readonly Item[]
  /** How many came after the list was first seen; they stand at its end. */
  readonly newcomers: number
  /** Puts everything where it belongs. */
  readonly orderAnew: () => void
}

/**
 * A list that does not jump under the hand: what was there keeps its order, what comes between stands at the end until
 * somebody asks for the right order again. `scope` names the list; another one begins anew.
 */
export function useSteadyOrder<Item extends { readonly id: string }>(
  present: readonly Item[],
  scope: string,
): Steady<Item> {
  const [seen, setSeen] = useState<{ scope: string; ids: readonly string[] }>({ scope: '', ids: [] })
  const ids = present.map(({ id }) => id)
  const isOther = seen.scope !== scope || !seen.ids.some((id) => ids.includes(id))
  const known = isOther ? ids : seen.ids
  if (isOther && (seen.scope !== scope || seen.ids.join() !== ids.join())) setSeen({ scope, ids })
  const byId = new Map(present.map((item) => [item.id, item]))
  const kept = known.flatMap((id) => byId.get(id) ?? [])
  const isKnown = new Set(known)
  // What follows all that was known has been fetched on, or belongs there anyway.
  const lastKnown = present.findLastIndex(({ id }) => isKnown.has(id))
  const following = present.slice(lastKnown + 1)
  const newcomers = present.slice(0, lastKnown + 1).filter(({ id }) => !isKnown.has(id))
  if (!isOther && following.length > 0) setSeen({ scope, ids: [...known, ...following.map(({ id }) => id)] })
  return {
    items: [...kept, ...following, ...newcomers],
    newcomers: newcomers.length,
    orderAnew: () => setSeen({ scope, ids }),
  }
}
