import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import { readBooking } from '../../db/clientStore.ts'
import { focusOn, type Reading } from '../../db/livingStore.ts'
import type { Application, CommandCall, Decision } from '../application.ts'

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

/** The booking that was made or changed. */
export function bookingAnswer(effects: readonly Effect[]): Changed {
  for (const effect of effects) {
    if (effect.kind === 'put booking') return { id: effect.booking.id, revision: effect.booking.revision }
  }
  throw new Error('The command changed no booking')
}

/** One act on a booking. */
export const onBooking = (
  application: Application,
  call: CommandCall,
  id: string,
  decide: (slice: Slice, context: EngineContext) => Result<readonly Effect[]>,
): Result<Changed> =>
  application.command(call, (context) =>
    onClient(
      application,
      readBooking(application.store.statements, id)?.clientId,
      focusOn(id),
      'There is no such booking.',
      (slice) => decide(slice, context),
      bookingAnswer,
    ),
  )
