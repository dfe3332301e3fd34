import { useState } from 'react'

/** Some of a list: those that are open, or those something is to be done with. */
export interface Chosen {
  readonly ids: ReadonlySet<string>
  readonly has: (id: string) => boolean
  readonly toggle: (id: string) => void
  /** Takes several in, or out. */
  readonly put: (ids: readonly string[], isIn: boolean) => void
  readonly clear: () => void
}

/** `first`: those that are chosen to begin with. */
export function useChosen(first: readonly string[] = []): Chosen {
  const [ids, setIds] = useState<ReadonlySet<string>>(() => new Set(first))
  const put = (some: readonly string[], isIn: boolean) =>
    setIds((before) => {
      const after = new Set(before)
      some.forEach((id) => (isIn ? after.add(id) : after.delete(id)))
      return after
    })
  return {
    ids,
    has: (id) => ids.has(id),
    toggle: (id) => put([id], !ids.has(id)),
    put,
    clear: () => setIds(new Set()),
  }
}
