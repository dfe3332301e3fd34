import type { EngineContext } from '#core/engine/context.ts'
import { writeOwnWords, writePersonalLine } from '#core/engine/commands/copyCommands.ts'
import type { Effect } from '#core/engine/effects.ts'
import { decideMany, type ManyAct } from '#core/engine/commands/manySends.ts'
import { decideSend, putOffSend, type SendDecision } from '#core/engine/commands/sendCommands.ts'
import { mendAddress, sendByLetter } from '#core/engine/commands/troubleCommands.ts'
import type { OwnWords } from '#core/model/letter.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import { readSend } from '../../db/sendStore.ts'
import type { Statements } from '../../db/statements.ts'
import { decideTogether, manyDecided, type ManyAnswer } from './together.ts'
import type { CommandCall, Application } from '../application.ts'
import { onClient, type Changed } from './onClient.ts'
import { focusOnSend, focusOnSends, onlyLiving } from '../../db/livingStore.ts'

const changedMeanwhile = 'This message has changed meanwhile. Look at it once more, then decide.'

function revisionOf(statements: Statements, id: string): number | null {
  const row = statements.one('sendRevision', { id })
  return row ? Number(row['revision']) : null
}

/** What a person can do about single messages, and about many at once. */
export function createMessageCommands(application: Application) {
  const { statements } = application.store
  const onMessage = (
    call: CommandCall,
    { id, revision }: Changed,
    decide: (slice: Slice, context: EngineContext) => Result<readonly Effect[]>,
  ): Result<Changed> => {
    const acted = application.command(call, (context) => {
      const send = readSend(statements, id)
      const decided = onClient(
        application,
        send?.clientId,
        send ? focusOnSend(send) : onlyLiving,
        'There is no such message.',
        (slice) => decide(slice, context),
        () => ({ id }),
      )
      // What cannot be done any more says why; what could still be done waits for another look.
      const isOther = decided.ok && revisionOf(statements, id) !== revision
      return isOther ? refused<never>('changed meanwhile', changedMeanwhile) : decided
    })
    return acted.ok ? done({ id, revision: revisionOf(statements, id) ?? revision }) : acted
  }
  return {
    decideSend: (call: CommandCall, on: Changed, decision: SendDecision) =>
      onMessage(call, on, (slice, context) => decideSend(slice, on.id, decision, context)),
    postponeSend: (call: CommandCall, on: Changed, to: number) =>
      onMessage(call, on, (slice, context) => putOffSend(slice, on.id, to, context)),
    writePersonalLine: (call: CommandCall, on: Changed, line: string) =>
      onMessage(call, on, (slice) => writePersonalLine(slice, on.id, line)),
    writeOwnWords: (call: CommandCall, on: Changed, own: OwnWords | null) =>
      onMessage(call, on, (slice) => writeOwnWords(slice, on.id, own)),
    mendAddress: (call: CommandCall, on: Changed, address: string) =>
      onMessage(call, on, (slice, context) => mendAddress(slice, on.id, address, context)),
    sendByLetter: (call: CommandCall, on: Changed, letterId: string) =>
      onMessage(call, on, (slice, context) => sendByLetter(slice, on.id, letterId, context)),

    /** One thing with many messages, as it was announced; those it cannot be done with stay as they are. */
    actOnSends: (call: CommandCall, ids: readonly string[], act: ManyAct): Result<ManyAnswer> =>
      application.command(call, (context) => {
        const asked = [...new Set(ids)].map((id) => ({ id, item: readSend(statements, id) }))
        const together = decideTogether(application, asked, {
          clientOf: ({ clientId }) => clientId,
          reading: focusOnSends,
          decide: (slice, own) =>
            decideMany(
              slice,
              own.map(({ id }) => id),
              act,
              context,
            ),
          missing: 'There is no such message.',
        })
        return done(manyDecided(asked.length, together))
      }),
  }
}
