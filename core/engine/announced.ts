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

const keyOf = ({ name, kind }: Announced) => `${kind}|${name}`

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
  const known = new Map(announced.map((one) => [keyOf(one), one]))
  return present.every((one) => {
    const before = known.get(keyOf(one))
    return before !== undefined && isSameMoment(before.at, one.at, driftMs)
  })
}
