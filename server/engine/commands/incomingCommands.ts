import {
  chooseClient,
  countAsAnswer,
  finishIncoming,
  handIncomingOn,
} from '#core/engine/commands/incomingCommands.ts'
import { sendAnswerAgain, writeAnswer } from '#core/engine/commands/answerCommands.ts'
import { carryOutProposal } from '#core/engine/commands/proposals.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { addressUnblocked } from '#core/engine/following/undeliveredAddress.ts'
import type { Incoming } from '#core/model/incoming.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import { isSameAddress } from '#core/model/values.ts'
import type { Proposal } from '#core/model/proposal.ts'
import type { AnswerInput } from '#core/model/writtenAnswer.ts'
import type { Settings } from '#core/planning/slice.ts'
import { readIncoming, readWrittenAnswer } from '../../db/incomingStore.ts'
import { presentClientId } from '../../db/clientMerges.ts'
import { onlyLiving, type Reading } from '../../db/livingStore.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { forOthersAt, othersAt, readingFor } from '../incoming/takeUp.ts'
import type { Changed } from './onClient.ts'

type Decides = (incoming: Incoming, context: EngineContext, settings: Settings) => Result<readonly Effect[]>

/** What there is of the client a mail is of, or of who they were merged with since; null: nobody knows whose it is. */
function sliceFor(application: Application, { match: { clientId } }: Incoming, reading: Reading) {
  if (clientId === null) return null
  return application.sliceOf(presentClientId(application.store.statements, clientId), reading)
}

/** One act on a mail, in the revision it was decided on. */
function actingOn(application: Application) {
  const { statements } = application.store
  return (call: CommandCall, { id, revision }: Changed, decide: Decides): Result<Changed> => {
    const acted = application.command(call, (context, settings): Result<Decision<Changed>> => {
      const incoming = readIncoming(statements, id)
      if (!incoming) return refused('not found', 'There is no such mail.')
      if (incoming.revision !== revision) {
        return refused(
          'changed meanwhile',
          'Somebody has done something about this mail meanwhile. Look at it once more.',
        )
      }
      const decided = decide(incoming, context, settings)
      return decided.ok ? done({ effects: decided.value, answer: { id, revision } }) : decided
    })
    return acted.ok ? done({ id, revision: readIncoming(statements, id)?.revision ?? revision }) : acted
  }
}

/** What a person says a mail is, or does about it. */
function createReadingCommands(application: Application) {
  const onIncoming = actingOn(application)
  return {
    finishIncoming: (call: CommandCall, on: Changed, isDone: boolean) =>
      onIncoming(call, on, (incoming, context) => finishIncoming(incoming, isDone, context)),
    handIncomingOn: (call: CommandCall, on: Changed, personId: string | null) =>
      onIncoming(call, on, (incoming, _, { people }) =>
        personId === null || people.some(({ id, isActive }) => id === personId && isActive)
          ? done(handIncomingOn(incoming, personId))
          : refused('not found', 'There is no such person.', 'personId'),
      ),
    chooseIncomingClient: (call: CommandCall, on: Changed, clientId: string) =>
      onIncoming(call, on, (incoming, context) => {
        const chosen = application.sliceOf(clientId, readingFor(application, incoming))
        if (!chosen) return refused('not found', 'There is no such client.', 'clientId')
        const others = incoming.match.candidateIds.flatMap((id) =>
          id === clientId ? [] : (application.readableSliceOf(id, onlyLiving) ?? []),
        )
        const decided = chooseClient(incoming, chosen, others, context)
        if (!decided.ok) return decided
        return done([...decided.value, ...forOthersAt(application, decided.value, clientId)])
      }),
    countAsAnswer: (call: CommandCall, on: Changed) =>
      onIncoming(call, on, (incoming, context) => {
        const slice = sliceFor(application, incoming, readingFor(application, incoming))
        if (!slice) return refused('not allowed now', 'Say first whose this mail is.')
        return countAsAnswer(incoming, slice, context)
      }),
  }
}

/** What a person does about mail that came in. */
export function createIncomingCommands(application: Application) {
  const { statements } = application.store
  const onIncoming = actingOn(application)
  return {
    ...createReadingCommands(application),
    /** Does what an answer was read to ask for; with that it is done. */
    actOnIncoming: (call: CommandCall, on: Changed, proposal: Proposal) =>
      onIncoming(call, on, (incoming, context) => {
        const slice = sliceFor(application, incoming, 'everything')
        if (!slice) return refused('not allowed now', 'Say first whose this mail is.')
        const acted = carryOutProposal(slice, incoming, proposal, application.seatsTaken, context)
        if (!acted.ok) return acted
        const finished = finishIncoming(incoming, true, context)
        return finished.ok ? done([...acted.value, ...finished.value]) : acted
      }),
    writeAnswer: (call: CommandCall, on: Changed, input: AnswerInput) =>
      onIncoming(call, on, (incoming, context, settings) => writeAnswer(settings, incoming, input, context)),
    sendAnswerAgain: (call: CommandCall, id: string) =>
      application.command(call, (): Result<Decision<{ id: string }>> => {
        const answer = readWrittenAnswer(statements, id)
        if (!answer) return refused('not found', 'There is no such answer.')
        const decided = sendAnswerAgain(answer)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
    unblockAddress: (call: CommandCall, clientId: string, address: string) =>
      application.command(call, (context): Result<Decision<{ id: string }>> => {
        const slice = application.sliceOf(clientId, onlyLiving)
        if (!slice) return refused('not found', 'There is no such client.')
        if (!slice.facts.undelivered.some((one) => isSameAddress(one.address, address))) {
          return refused('not allowed now', 'Messages go to this address.')
        }
        const effects = [slice, ...othersAt(application, address, clientId)].flatMap((one) =>
          addressUnblocked(one, address, context),
        )
        return done({ effects, answer: { id: clientId } })
      }),
  }
}
