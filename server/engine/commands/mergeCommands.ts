import { takeMergeBack } from '#core/engine/commands/mergeBackCommands.ts'
import { mergeClients } from '#core/engine/commands/mergeCommands.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import { readTasks } from '../../db/clientStore.ts'
import { readClientMerge } from '../../db/clientMerges.ts'
import type { Application, CommandCall } from '../application.ts'
import type { Changed } from './onClient.ts'

const noSuch = 'There is no such client.'

/** Two clients made one, and taken apart again. */
export function createMergeCommands(application: Application) {
  const { statements } = application.store
  const taskIdsOf = (clientId: string) => readTasks(statements, clientId).map(({ id }) => id)
  return {
    /** Everything of the other goes over to the one who stays. */
    mergeClients: (call: CommandCall, stays: Changed, other: Changed): Result<Changed> =>
      application.command(call, (context) => {
        const slice = application.sliceOf(stays.id, 'everything')
        const gone = application.sliceOf(other.id, 'everything')
        if (!slice || !gone) return refused('not found', noSuch)
        const asked = {
          keptRevision: stays.revision,
          goneRevision: other.revision,
          taskIds: taskIdsOf(other.id),
        }
        const merged = mergeClients(slice, gone.facts, asked, context)
        if (!merged.ok) return merged
        return done({ ...merged.value, answer: { id: stays.id, revision: slice.facts.client.revision + 1 } })
      }),
    takeMergeBack: (call: CommandCall, id: string): Result<{ id: string }> =>
      application.command(call, (context) => {
        const merge = readClientMerge(statements, id)
        if (!merge) return refused('not allowed now', 'These two were taken apart already.')
        const slice = application.sliceOf(merge.keptId, 'everything')
        if (!slice) {
          const sentence = 'The client was merged with a third one since. Take those two apart first.'
          return refused('not allowed now', sentence)
        }
        const apart = takeMergeBack(slice, merge, taskIdsOf(merge.keptId), context)
        return apart.ok ? done({ ...apart.value, answer: { id: merge.gone.id } }) : apart
      }),
  }
}
