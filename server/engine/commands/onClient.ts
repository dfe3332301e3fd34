import type { Effect } from '#core/engine/effects.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import type { Reading } from '../../db/livingStore.ts'
import type { Decision, Application } from '../application.ts'

/** A thing in one of its revisions: what an act was decided on, or what it was changed to. */
export interface Changed {
  readonly id: string
  readonly revision: number
}

/**
 * A command about one client: its facts read as far as it acts on them, the engine asked, the answer made of what it
 * wants done.
 */
export function onClient<Answer>(
  application: Application,
  clientId: string | undefined,
  reading: Reading,
  missing: string,
  decide: (slice: Slice) => Result<readonly Effect[]>,
  answer: (effects: readonly Effect[]) => Answer,
): Result<Decision<Answer>> {
  const slice = clientId === undefined ? null : application.sliceOf(clientId, reading)
  if (!slice) return refused('not found', missing)
  const decided = decide(slice)
  return decided.ok ? done({ effects: decided.value, answer: answer(decided.value) }) : decided
}
