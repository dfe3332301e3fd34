import type { Reason, Send } from '../model/send.ts'
import { perhapsToldStates } from '../model/sendState.ts'
import type { ChangeKind } from './changeKind.ts'
import { isOpen } from './answers.ts'
import { heldBackBy, heldCodes } from './held.ts'
import type { Slice } from './slice.ts'
import { groupedBy } from './groupedBy.ts'

/** How a planned message goes: by itself, when a person has approved it, or not at all as things stand. */
export type Going = 'by itself' | 'after approval' | 'not'

/** A planned message, how it goes, and if it does not, why. */
export interface Standing {
  readonly send: Send
  readonly going: Going
  readonly why: Reason | null
}

/** How one message differs between two plans. */
export interface Change {
  readonly kind: ChangeKind
  readonly before: Send | null
  readonly after: Send | null
  readonly was: Standing | null
  readonly will: Standing | null
}

/** What names a message in a difference, the same whether its run is there or only considered. */
export function messageName({ sequenceId, subject, stepId, occurrence, recipientId }: Send): string {
  return [sequenceId, subject.id, stepId, occurrence, recipientId].join('|')
}

/** The message a change is about. */
export function changedSend({ before, after }: Change): Send {
  const send = after ?? before
  if (!send) throw new Error('A change is about a message')
  return send
}

function standingOf(send: Send, slice: Slice): Standing | null {
  if (!isOpen(send)) return null
  const isAwaitingFact = send.state === 'expected' && send.reason?.code === 'awaits condition'
  const why = send.state === 'blocked' || isAwaitingFact ? send.reason : heldBackBy(send.sequenceId, slice)
  if (why) return { send, going: 'not', why }
  const going = send.state === 'waiting' ? 'after approval' : 'by itself'
  return { send, going, why: null }
}

/** The same message whatever the value of its anchor: run, step, occurrence and contact. */
const familyOf = ({ runId, stepId, occurrence, recipientId }: Send) =>
  [runId, stepId, occurrence, recipientId].join('|')

/** The words a message goes with, as far as they are its own. */
const wordsOf = ({ letterId, decision }: Send) =>
  JSON.stringify([letterId, decision.personalLine, decision.ownWords])

function kindsBetween(was: Standing, will: Standing): readonly ChangeKind[] {
  const kinds: ChangeKind[] = []
  if (was.send.dueAt !== will.send.dueAt) kinds.push('moved')
  if (was.send.address !== will.send.address) kinds.push('changed recipient')
  if (wordsOf(was.send) !== wordsOf(will.send)) kinds.push('changed text')
  if (was.going !== will.going) kinds.push('changed approval')
  return kinds
}

function familyChanges(
  before: readonly Send[],
  after: readonly Send[],
  slices: { readonly before: Slice; readonly after: Slice },
): readonly Change[] {
  const standing = (sends: readonly Send[], slice: Slice) =>
    sends.map((send) => standingOf(send, slice)).find((one) => one !== null) ?? null
  const was = standing(before, slices.before)
  const will = standing(after, slices.after)
  const isGoing = (one: Standing | null) => one !== null && one.going !== 'not'
  const change = (kind: ChangeKind, part: Partial<Change> = {}): Change => ({
    kind,
    before: was?.send ?? null,
    after: will?.send ?? null,
    was,
    will,
    ...part,
  })
  if (was && will && isGoing(was) && isGoing(will)) return kindsBetween(was, will).map((kind) => change(kind))
  const isHeld = (one: Standing | null) => one?.why != null && heldCodes.includes(one.why.code)
  if (was && will && isGoing(was) && isHeld(will)) return [change('held back')]
  if (was && will && isHeld(was) && isGoing(will)) return [change('released')]
  if (was && isGoing(was)) {
    const ended = will?.send ?? after.find(({ id }) => id === was.send.id) ?? null
    return [change('dropped', { after: ended })]
  }
  if (isGoing(will)) {
    const gone = before.findLast(({ state }) => perhapsToldStates.includes(state))
    return [gone && !was ? change('again', { before: gone }) : change('added')]
  }
  return will && !was ? [change('not going')] : []
}

/**
 * What changes for one client between two states of facts and settings: what goes, when, to whom, with which words,
 * and whether by itself. What goes its way unchanged is not in it.
 */
export function difference(before: Slice, after: Slice): readonly Change[] {
  const old = groupedBy(before.facts.sends, familyOf)
  const present = groupedBy(after.facts.sends, familyOf)
  const keys = [...new Set([...old.keys(), ...present.keys()])]
  return keys.flatMap((key) => familyChanges(old.get(key) ?? [], present.get(key) ?? [], { before, after }))
}
