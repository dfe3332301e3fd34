import type { Send, SendState } from '../model/send.ts'
import { perhapsToldStates } from './answers.ts'

/** How one message differs between two plans. */
export type Change =
  /** It was not planned before, or not to go. */
  | { readonly kind: 'added'; readonly after: Send }
  /** It was to go and will not. */
  | { readonly kind: 'dropped'; readonly before: Send; readonly after: Send | null }
  /** It goes at another time. */
  | { readonly kind: 'moved'; readonly before: Send; readonly after: Send }
  /** It went already and is due once more. */
  | { readonly kind: 'again'; readonly before: Send; readonly after: Send }
  /** It goes to another address. */
  | { readonly kind: 'changed recipient'; readonly before: Send; readonly after: Send }
  /** It has another letter. */
  | { readonly kind: 'changed text'; readonly before: Send; readonly after: Send }

/** What names a message in a difference, the same whether its run is there or only considered. */
export function messageName({ sequenceId, subject, stepId, occurrence, recipientId }: Send): string {
  return [sequenceId, subject.id, stepId, occurrence, recipientId].join('|')
}

/** The message a change is about. */
export function changedSend(change: Change): Send {
  return change.kind === 'dropped' ? change.before : change.after
}

const goingStates: readonly SendState[] = ['expected', 'waiting', 'approved', 'ready', 'blocked']

const isGoing = ({ state }: Send) => goingStates.includes(state)

/** The same message whatever the value of its anchor: run, step, occurrence and contact. */
const familyOf = ({ runId, stepId, occurrence, recipientId }: Send) =>
  [runId, stepId, occurrence, recipientId].join('|')

function families(sends: readonly Send[]): ReadonlyMap<string, readonly Send[]> {
  const groups = new Map<string, Send[]>()
  for (const send of sends) {
    const key = familyOf(send)
    const group = groups.get(key)
    if (group) group.push(send)
    else groups.set(key, [send])
  }
  return groups
}

function changesOf(before: Send, after: Send): readonly Change[] {
  const changes: Change[] = []
  if (before.dueAt !== after.dueAt) changes.push({ kind: 'moved', before, after })
  if (before.address !== after.address) changes.push({ kind: 'changed recipient', before, after })
  if (before.letterId !== after.letterId) changes.push({ kind: 'changed text', before, after })
  return changes
}

function familyChanges(before: readonly Send[], after: readonly Send[]): readonly Change[] {
  const was = before.find(isGoing)
  const will = after.find(isGoing)
  if (was && will) return changesOf(was, will)
  if (was) return [{ kind: 'dropped', before: was, after: after.find(({ id }) => id === was.id) ?? null }]
  if (!will) return []
  const gone = before.findLast(({ state }) => perhapsToldStates.includes(state))
  return [gone ? { kind: 'again', before: gone, after: will } : { kind: 'added', after: will }]
}

/**
 * What changes between the sends of one client before and after something: what is added, dropped, moved, due again,
 * goes to another address or with another letter. What goes its way unchanged is not in it.
 */
export function difference(before: readonly Send[], after: readonly Send[]): readonly Change[] {
  const old = families(before)
  const present = families(after)
  const keys = [...new Set([...old.keys(), ...present.keys()])]
  return keys.flatMap((key) => familyChanges(old.get(key) ?? [], present.get(key) ?? []))
}
