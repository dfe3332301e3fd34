import type { Letter } from '../../model/letter.ts'
import { isOff } from '../../planning/changeKind.ts'
import { changedSend, messageName, type Change, type Standing } from '../../planning/difference.ts'

/** One change as it was announced before an act: all that a person cares about, so that the act can be held to it. */
export interface Announced {
  readonly clientId: string
  readonly name: string
  readonly kind: Change['kind']
  /** When the message goes then; null: it does not. */
  readonly at: number | null
  /** How it stood and will stand: whether it goes and why not, to which address, with which words of which version. */
  readonly manner: string
}

function mannerOf(standing: Standing | null, letters: readonly Letter[]) {
  if (!standing) return null
  const { send, going, why } = standing
  const { letterId, address, decision } = send
  const version = letters.find(({ id }) => id === letterId)?.version ?? 0
  return [going, why?.code, address, letterId, version, decision.personalLine, decision.ownWords]
}

/** `letters` are those of the settings the change was worked out under. */
export function announcedOf(change: Change, letters: readonly Letter[]): Announced {
  const { kind, was, will, after } = change
  const at = isOff(kind) ? null : (after?.dueAt ?? after?.wantedAt ?? null)
  // Where it stood is stored and does not drift with the time that passes.
  const manner = JSON.stringify([was?.send.dueAt, mannerOf(was, letters), mannerOf(will, letters)])
  const send = changedSend(change)
  return { clientId: send.clientId, name: messageName(send), kind, at, manner }
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
  return inOrder(present).every(({ name, kind, at, manner }, index) => {
    const one = before[index]
    return (
      one?.name === name && one.kind === kind && one.manner === manner && isSameMoment(one.at, at, driftMs)
    )
  })
}
