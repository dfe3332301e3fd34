import { moveInput, type MoveInput, type MoveLetter } from '#core/engine/commands/moveSettings.ts'
import {
  movePartKinds,
  type MovePart,
  type MovePartKind,
  type MoveSubject,
  type OnePressMove,
} from '#core/model/onePressMove.ts'
import { sayFault } from './typed.ts'

/** A part while its numbers are typed. */
export type Typed<Part> = Part extends { dueInDays: number }
  ? Omit<Part, 'dueInDays'> & { readonly dueInDays: number | string }
  : Part

/** A part of a move as its form holds it. */
export interface PartDraft {
  /** Tells it from the others while it is being written. */
  readonly key: string
  readonly part: Typed<MovePart>
}

/** A move as its form holds it. */
export interface MoveDraft {
  readonly name: string
  readonly of: MoveSubject
  readonly onlyIf: MoveInput['onlyIf']
  readonly parts: readonly PartDraft[]
  /** A letter it sends beside what starts on it already. */
  readonly letterId: string | null
  readonly waits: boolean
}

const newKey = () => crypto.randomUUID()

const newParts: Readonly<Record<MovePartKind, Typed<MovePart>>> = {
  stage: { kind: 'stage', stage: '', reason: '' },
  status: { kind: 'status', status: 'confirmed' },
  'date stamp': { kind: 'date stamp', label: '' },
  tag: { kind: 'tag', tag: '', adds: true },
  task: { kind: 'task', title: '', dueInDays: 0 },
  field: { kind: 'field', field: '', value: '' },
}

export const newPart = (kind: MovePartKind): PartDraft => ({ key: newKey(), part: newParts[kind] })

export const draftOfMove = (move: OnePressMove | null): MoveDraft => ({
  name: move?.name ?? '',
  of: move?.of ?? 'enquiry',
  onlyIf: move?.onlyIf ?? null,
  parts: (move?.parts ?? []).map((part) => ({ key: newKey(), part })),
  letterId: null,
  waits: true,
})

/** The parts that can still be added: one way at most, of a stage or a status. */
export const partsToAdd = ({ of, parts }: MoveDraft): readonly MovePartKind[] =>
  movePartKinds[of].filter(
    (kind) => (kind !== 'stage' && kind !== 'status') || parts.every(({ part }) => part.kind !== kind),
  )

/** The same draft for something else: what cannot be pressed on that goes. */
export const madeFor = (draft: MoveDraft, of: MoveSubject): MoveDraft => ({
  ...draft,
  of,
  parts: draft.parts.filter(({ part }) => movePartKinds[of].includes(part.kind)),
})

/** What a draft means, or what is wrong with it, by field. */
export function readMove(
  { letterId, waits, ...draft }: MoveDraft,
  isActive: boolean,
):
  | { readonly meant: { readonly move: MoveInput; readonly letter: MoveLetter | null } }
  | { readonly faults: Readonly<Record<string, string>> } {
  const parts = draft.parts.map(({ part }) =>
    part.kind === 'task'
      ? { ...part, dueInDays: part.dueInDays === '' ? null : Number(part.dueInDays) }
      : part,
  )
  const parsed = moveInput.safeParse({ ...draft, parts, isActive })
  if (!parsed.success) {
    const faults: Record<string, string> = {}
    for (const { path, message } of parsed.error.issues) faults[path.join('.')] ??= sayFault(message)
    return { faults }
  }
  return { meant: { move: parsed.data, letter: letterId === null ? null : { letterId, waits } } }
}
