import type { EngineContext } from '#core/engine/context.ts'
import { writeOwnWords, writePersonalLine } from '#core/engine/copyCommands.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { ManyAct } from '#core/engine/manySends.ts'
import { decideSend, postponeSend, type SendDecision } from '#core/engine/sendCommands.ts'
import { mendAddress, sendByLetter } from '#core/engine/troubleCommands.ts'
import type { OwnWords } from '#core/model/letter.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import { readSend } from '../db/sendStore.ts'
import { decideTogether, type RefusedLine } from './manyMessages.ts'
import type { CommandCall, Office } from './office.ts'
import { onClient } from './onClient.ts'

/** What became of several messages one thing was asked of. */
export interface ManyAnswer {
  readonly done: number
  readonly refused: readonly RefusedLine[]
}

/** What a person can do about single messages, and about many at once. */
export function createMessageCommands(office: Office) {
  const { statements } = office.store
  const onMessage = (
    call: CommandCall,
    id: string,
    decide: (slice: Slice, context: EngineContext) => Result<readonly Effect[]>,
  ): Result<{ id: string }> =>
    office.command(call, (context) =>
      onClient(
        office,
        readSend(statements, id)?.clientId,
        'There is no such message.',
        (slice) => decide(slice, context),
        () => ({ id }),
      ),
    )
  return {
    decideSend: (call: CommandCall, id: string, decision: SendDecision) =>
      onMessage(call, id, (slice, context) => decideSend(slice, id, decision, context)),
    postponeSend: (call: CommandCall, id: string, to: number) =>
      onMessage(call, id, (slice, context) => postponeSend(slice, id, to, context)),
    writePersonalLine: (call: CommandCall, id: string, line: string) =>
      onMessage(call, id, (slice) => writePersonalLine(slice, id, line)),
    writeOwnWords: (call: CommandCall, id: string, own: OwnWords | null) =>
      onMessage(call, id, (slice) => writeOwnWords(slice, id, own)),
    mendAddress: (call: CommandCall, id: string, address: string) =>
      onMessage(call, id, (slice, context) => mendAddress(slice, id, address, context)),
    sendByLetter: (call: CommandCall, id: string, letterId: string) =>
      onMessage(call, id, (slice, context) => sendByLetter(slice, id, letterId, context)),

    /** One thing with many messages, as it was announced; those it cannot be done with stay as they are. */
    actOnSends: (call: CommandCall, ids: readonly string[], act: ManyAct): Result<ManyAnswer> =>
      office.command(call, (context) => {
        const { effects, refused: lines } = decideTogether(office, ids, act, context)
        return done({ effects, answer: { done: ids.length - lines.length, refused: [...lines] } })
      }),
  }
}
