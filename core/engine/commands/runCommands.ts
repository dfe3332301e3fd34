import { done, refused, type Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { nameOfRun, stoppedRun } from '../following/stopRuns.ts'

/** A person lets a client's runs of a sequence go on that were held. */
export function resumeRuns(
  slice: Slice,
  sequenceId: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const held = slice.facts.runs.filter(
    (run) => run.sequenceId === sequenceId && run.state === 'running' && run.held !== null,
  )
  if (held.length === 0)
    return refused('not found', 'No run of this sequence waits for a person for this client.')
  const effects = held.flatMap((run): readonly Effect[] => [
    { kind: 'put run', run: { ...run, held: null } },
    appendEvent(
      context,
      'run resumed',
      { clientId: run.clientId, subject: run.subject },
      `Sequence “${nameOfRun(slice, run)}” goes on: a person said so.`,
    ),
  ])
  return done(conclude(slice, effects, context))
}

/** A person ends a client's runs of a sequence. */
export function stopRuns(
  slice: Slice,
  sequenceId: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { settings, facts } = slice
  const name = settings.sequences.find(({ id }) => id === sequenceId)?.name ?? sequenceId
  const running = facts.runs.filter((run) => run.sequenceId === sequenceId && run.state === 'running')
  if (running.length === 0)
    return refused('not found', 'No run of this sequence is going on for this client.')
  const why = 'A person stopped it.'
  return done(
    conclude(
      slice,
      running.flatMap((run) => stoppedRun(run, name, 'person', why, context)),
      context,
    ),
  )
}
