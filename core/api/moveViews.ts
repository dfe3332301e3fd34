import { z } from 'zod'
import { onePressMove, pressedMove } from '../model/onePressMove.ts'
import { sequenceState } from '../model/sequence.ts'
import { sequenceId } from '../model/step.ts'

/** What a sequence does that starts on something, such as a stage that is entered. */
export const startedSequence = z.object({
  id: sequenceId,
  name: z.string(),
  state: sequenceState,
  /** What its first step is called, and whether a person looks at that first; null: it has no step. */
  first: z.object({ label: z.string(), waits: z.boolean() }).nullable(),
})
export type StartedSequence = z.infer<typeof startedSequence>

/** A move that makes sense at present. */
export const offeredMove = z.object({
  ...onePressMove.pick({ id: true, name: true, of: true }).shape,
  /** What it does, in a few words each, its letters among them. */
  does: z.array(z.string()),
  /** Those of what was asked about for which it makes sense. */
  ids: z.array(z.string()),
})
export type OfferedMove = z.infer<typeof offeredMove>

/** The move that was pressed last on something. */
export const pressedView = z.object({
  ...pressedMove.pick({ id: true, name: true, at: true, said: true }).shape,
  /** Who pressed it; null: somebody who has left. */
  personName: z.string().nullable(),
  /** Why it cannot be taken back any more; null: it can. */
  whyNot: z.string().nullable(),
})
export type PressedView = z.infer<typeof pressedView>
