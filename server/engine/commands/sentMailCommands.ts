import { noteFoundSent } from '#core/engine/commands/foundSent.ts'
import { done, type Result } from '#core/model/problem.ts'
import { groupedBy } from '#core/planning/groupedBy.ts'
import { focusOnSends } from '../../db/livingStore.ts'
import { readSend } from '../../db/sendStore.ts'
import type { Application, CommandCall } from '../application.ts'

/** What came of a look at an account's sent mail. */
interface SentCompared {
  /** Messages that are noted as gone now. */
  readonly noted: number
  /** Those that were so before, or were let go of. */
  readonly known: number
  readonly knownIds: readonly string[]
}

/** What an account's sent mail says of messages. */
export function createSentMailCommands(application: Application) {
  const { statements } = application.store
  return {
    /** What stands there has gone, at the moment it says; what is not known here is only told. */
    compareSent: (call: CommandCall, found: ReadonlyMap<string, number>): Result<SentCompared> =>
      application.command(call, (context) => {
        const here = [...found.keys()].flatMap((id) => readSend(statements, id) ?? [])
        const made = [...groupedBy(here, ({ clientId }) => clientId)].flatMap(([clientId, own]) => {
          const slice = application.readableSliceOf(clientId, focusOnSends(own))
          return slice ? [noteFoundSent(slice, found, context)] : []
        })
        const noted = made.reduce((sum, one) => sum + one.noted, 0)
        const answer = { noted, known: here.length - noted, knownIds: here.map(({ id }) => id) }
        return done({ effects: made.flatMap(({ effects }) => effects), answer })
      }),
  }
}
