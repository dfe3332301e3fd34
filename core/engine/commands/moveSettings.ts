import { z } from 'zod'
import { letterId } from '../../model/letter.ts'
import { movePartKinds, onePressMove, onePressMoveId, type OnePressMove } from '../../model/onePressMove.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { startRule } from '../../model/sequence.ts'
import { plainStep } from '../../model/step.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { settingsWithEffects, type Effect } from '../effects.ts'
import { pressedAct } from './movePressing.ts'
import { addSequence, goLive } from './sequenceCommands.ts'
import { elsewhere } from './settingsFault.ts'

/* The moves of one press, as they are put together, changed and let go. */

export const moveInput = onePressMove
  .omit({ id: true, revision: true })
  .superRefine(({ of, parts }, context) => {
    parts.forEach(({ kind }, index) => {
      if (!movePartKinds[of].includes(kind)) {
        const message = of === 'booking' ? 'A booking has no stage.' : 'An enquiry has no status.'
        context.addIssue({ code: 'custom', path: ['parts', index], message })
      }
    })
    const ways = parts.filter(({ kind }) => kind === 'stage' || kind === 'status')
    if (ways.length > 1) {
      context.addIssue({ code: 'custom', path: ['parts'], message: 'One stage or status is enough.' })
    }
  })
export type MoveInput = z.infer<typeof moveInput>

/** A letter a move sends, by a sequence of its own that starts on it; `waits`: a person looks at it first. */
export const moveLetter = z.object({ letterId, waits: z.boolean() }).strict()
export type MoveLetter = z.infer<typeof moveLetter>

/** A move is added or changed, on the revision that was decided on. */
export const moveChange = z
  .object({
    /** Null: a new one. */
    id: onePressMoveId.nullable(),
    revision: z.number().int(),
    move: moveInput,
    /** A letter it sends beside what starts on it already; null: none. */
    letter: moveLetter.nullable(),
  })
  .strict()
export type MoveChange = z.infer<typeof moveChange>

type Decided = Result<readonly Effect[]>

/** A sequence of one letter that starts on a move and is live at once. */
function sequenceOf(
  { name, of }: OnePressMove,
  { letterId: sends, waits }: MoveLetter,
  settings: Settings,
  context: EngineContext,
): Decided {
  const step = plainStep.parse({
    kind: 'mail',
    id: context.newId('st'),
    letterId: sends,
    purpose: 'follow-up',
    timing: { kind: 'at once' },
    needsApproval: waits,
    // Somebody has pressed: it is meant to go.
    sendingHours: 'ignore',
    sender: 'person in charge',
  })
  const start = startRule.parse({ on: pressedAct[of], name, again: { kind: 'every time', gap: null } })
  const isTaken = (called: string) => settings.sequences.some((one) => one.name === called)
  const called = isTaken(name) ? `${name}: a letter` : name
  const added = addSequence(called, { start, steps: [step], stops: [] }, context)
  const put = added.find((effect) => effect.kind === 'put sequence')
  const live = goLive(settingsWithEffects(settings, added), put?.sequence.id ?? '', context)
  return live.ok ? done([...added, ...live.value]) : live
}

/** Why a move cannot be so; null: it can. `namedBy`: what goes by the name it has so far. */
function putFault(
  { sequences, sequenceVersions, letters, onePressMoves }: Settings,
  present: OnePressMove | undefined,
  { id, move, letter }: MoveChange,
  namedBy: readonly string[],
): Result<never> | null {
  const isTaken = onePressMoves.some(
    (one) => one.id !== id && one.name.toLowerCase() === move.name.toLowerCase(),
  )
  if (isTaken) return refused('invalid', `There is a move “${move.name}” already.`, 'name')
  const isOther = present && (present.name !== move.name || present.of !== move.of)
  if (isOther && namedBy.length > 0) {
    return refused(
      'not allowed now',
      `“${present.name}” is what starts ${namedBy.join(', ')}. Let that start on something else first.`,
      'name',
    )
  }
  if (letter && !letters.some((one) => one.id === letter.letterId && !one.isArchived)) {
    return refused('not found', 'There is no such letter any more.', 'letter')
  }
  const isStarting = sequences.some(({ id: sequenceId, currentVersion }) =>
    sequenceVersions.some(
      ({ sequenceId: of, version, start }) =>
        of === sequenceId && version === currentVersion && start.name === move.name,
    ),
  )
  return move.parts.length === 0 && letter === null && !isStarting
    ? refused('invalid', 'A move needs something to do, or a letter.', 'parts')
    : null
}

/** A move as it is put, with the sequence of the letter it sends. */
export function putMove(
  settings: Settings,
  change: MoveChange,
  namedBy: readonly string[],
  context: EngineContext,
): Decided {
  const { id, revision, move: input, letter } = change
  const present = settings.onePressMoves.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such move any more.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = putFault(settings, present, change, namedBy)
  if (fault) return fault
  const move: OnePressMove = {
    ...input,
    id: id ?? context.newId('mv'),
    revision: (present?.revision ?? 0) + 1,
  }
  const sends = letter === null ? done([]) : sequenceOf(move, letter, settings, context)
  if (!sends.ok) return sends
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put one-press move', move },
    ...sends.value,
    appendEvent(context, 'settings changed', { name: move.name }, `One-press move ${deed}: ${move.name}.`),
  ])
}

/** A move that no sequence starts on is deleted; what was pressed of it stays in the history. */
export function removeMove(
  settings: Settings,
  id: string,
  namedBy: readonly string[],
  context: EngineContext,
): Decided {
  const present = settings.onePressMoves.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such move any more.')
  if (namedBy.length > 0) {
    return refused('not allowed now', `It starts ${namedBy.join(', ')}. Archive it instead.`)
  }
  return done([
    { kind: 'remove one-press move', id },
    appendEvent(
      context,
      'settings changed',
      { name: present.name },
      `One-press move deleted: ${present.name}.`,
    ),
  ])
}
