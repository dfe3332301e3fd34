import { changedSend, messageName, type Change } from '../planning/difference.ts'

/** One change as it was announced before an act. */
export interface Announced {
  readonly name: string
  readonly kind: Change['kind']
  /** When the message goes then; null: it does not. */
  readonly at: number | null
}

export function announcedOf(change: Change): Announced {
  const at = change.kind === 'dropped' ? null : (change.after.dueAt ?? change.after.wantedAt)
  return { name: messageName(changedSend(change)), kind: change.kind, at }
}

/** Two runs of one sequence can have messages of one name: those are told apart by their moments. */
function inOrder(all: readonly Announced[]): readonly Announced[] {
  const keyOf = ({ name, kind }: Announced) => `${kind}|${name}`
  return all.toSorted(
    (one, other) => keyOf(one).localeCompare(keyOf(other)) || (one.at ?? 0) - (other.at ?? 0),
  )
}

function isSameMoment(one: number | null, other: number | null, driftMs: number): boolean {
  if (one === null || other === null) return one === other
  return Math.abs(one - other) <= driftMs
}

/**
 * Whether an act would still do what was announced some time ago. What counts from the moment of the act has drifted by
 * that time, which is no other difference.
 */
export function isStillSo(
  announced: readonly Announced[],
  present: readonly Announced[],
  driftMs: number,
): boolean {
  if (announced.length !== present.length) return false
  const before = inOrder(announced)
  return inOrder(present).every(({ name, kind, at }, index) => {
    const one = before[index]
    return one?.name === name && one.kind === kind && isSameMoment(one.at, at, driftMs)
  })
}
