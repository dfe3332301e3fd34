import {
  addClient,
  changeClient,
  setClientHeldBack,
  setClientNoticed,
  type ClientInput,
} from '#core/engine/commands/clientCommands.ts'
import { appendEvent, type EngineContext } from '#core/engine/context.ts'
import { recordHappening } from '#core/engine/commands/dealingCommands.ts'
import type { Effect } from '#core/engine/effects.ts'
import { resumeRuns, stopRuns } from '#core/engine/commands/runCommands.ts'
import { missWhileHeldBack } from '#core/engine/commands/sendCommands.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Slice } from '#core/planning/slice.ts'
import type { CommandCall, Decision, Application } from '../application.ts'
import { createBookingCommands } from './bookingCommands.ts'
import { createMessageCommands } from './messageCommands.ts'
import { onClient, type Changed } from './onClient.ts'
import { forOverdue, overdueSends } from '../sending/overdue.ts'
import { createEnquiryCommands } from './enquiryCommands.ts'
import { createDocumentCommands } from './documentCommands.ts'
import { createFormCommands } from './formCommands.ts'
import { createMoveCommands } from './moveCommands.ts'
import { createPaymentCommands } from './paymentCommands.ts'
import { createTableCommands } from './tableCommands.ts'
import { readDailyCap } from '../sending/dailyCap.ts'
import { createMergeCommands } from './mergeCommands.ts'
import { createSentMailCommands } from './sentMailCommands.ts'
import { createIncomingCommands } from './incomingCommands.ts'
import { createTaskCommands } from './taskCommands.ts'
import { createLetterCommands } from './letterCommands.ts'
import { createClientBookingCommands } from './clientBookingCommands.ts'
import { createSequenceCommands } from './sequenceCommands.ts'
import { createSettingsCommands } from './settingsCommands.ts'
import { isUnnoticed } from '../../db/visitStore.ts'
import { presentClientId } from '../../db/clientMerges.ts'
import { onlyLiving } from '../../db/livingStore.ts'

function clientAnswer(effects: readonly Effect[]): Changed {
  for (const effect of effects) {
    if (effect.kind === 'put client') return { id: effect.client.id, revision: effect.client.revision }
  }
  throw new Error('The command changed no client')
}

/** One act on a client as they stand. */
const onLivingClient = <Answer>(
  application: Application,
  call: CommandCall,
  id: string,
  decide: (slice: Slice, context: EngineContext) => Result<readonly Effect[]>,
  answer: (effects: readonly Effect[]) => Answer,
): Result<Answer> =>
  application.command(call, (context) =>
    onClient(
      application,
      id,
      onlyLiving,
      'There is no such client.',
      (slice) => decide(slice, context),
      answer,
    ),
  )

/** What is noticed of clients. */
function noticingCommandsOf(application: Application) {
  return {
    /** It is noticed what a client opens and follows, or not any more. */
    noticeClient: (call: CommandCall, id: string, isNoticed: boolean) =>
      onLivingClient(
        application,
        call,
        id,
        (_, context) => setClientNoticed(id, isNoticed, context),
        () => ({ id }),
      ),
    /** The same as the client says it themself. */
    doNotNotice: (clientId: string) => {
      const id = presentClientId(application.store.statements, clientId)
      if (isUnnoticed(application.store.statements, id)) return
      const decided = setClientNoticed(id, false, application.context(null))
      if (decided.ok) application.apply(decided.value)
    },
  }
}

/** What can be done with clients. */
function clientCommandsOf(application: Application) {
  return {
    addClient: (call: CommandCall, input: ClientInput): Result<Changed> =>
      application.command(call, (context, settings) => {
        const decided = addClient(settings, input, context)
        return decided.ok ? done({ effects: decided.value, answer: clientAnswer(decided.value) }) : decided
      }),
    changeClient: (call: CommandCall, id: string, revision: number, input: ClientInput): Result<Changed> =>
      onLivingClient(
        application,
        call,
        id,
        (slice, context) => changeClient(slice, revision, input, context),
        clientAnswer,
      ),
    /** Nothing more of a sequence goes to this client. */
    stopSequence: (call: CommandCall, id: string, sequenceId: string) =>
      onLivingClient(
        application,
        call,
        id,
        (slice, context) => stopRuns(slice, sequenceId, context),
        () => ({ id }),
      ),
    /** What waits for a person of a sequence goes on by itself. */
    resumeSequence: (call: CommandCall, id: string, sequenceId: string) =>
      onLivingClient(
        application,
        call,
        id,
        (slice, context) => resumeRuns(slice, sequenceId, context),
        () => ({ id }),
      ),
    /** Nothing goes to this client for the present, or it goes on. */
    holdBackClient: (call: CommandCall, id: string, isHeldBack: boolean) =>
      onLivingClient(
        application,
        call,
        id,
        (slice, context) => setClientHeldBack(slice, isHeldBack, context),
        (effects) => ({ id, missed: missedCount(effects) }),
      ),
    /** A client ends promotional mail; asking twice is asking once. */
    optOut: (clientId: string) => {
      const slice = application.sliceOf(presentClientId(application.store.statements, clientId), onlyLiving)
      if (!slice?.facts.client.takesPromotional) return
      const decided = recordHappening(slice, 'opted out', '', application.context(null))
      if (decided.ok) application.apply(decided.value)
    },
  }
}

/** Everything a person can do, by name. Each is one transaction. */
export function createCommands(application: Application, sendingObstacle: () => string | null = () => null) {
  return {
    ...createSequenceCommands(application),
    ...createLetterCommands(application),
    ...createSettingsCommands(application),
    ...createBookingCommands(application),
    ...clientCommandsOf(application),
    ...noticingCommandsOf(application),
    ...createClientBookingCommands(application),
    ...createMessageCommands(application),
    ...createPaymentCommands(application),
    ...createEnquiryCommands(application),
    ...createDocumentCommands(application),
    ...createFormCommands(application),
    ...createMoveCommands(application),
    ...createSentMailCommands(application),
    ...createTaskCommands(application),
    ...createIncomingCommands(application),
    ...createTableCommands(application),
    ...createMergeCommands(application),
    setSending: (call: CommandCall, isOn: boolean): Result<{ isOn: boolean; missed: number }> => {
      const obstacle = sendingObstacle()
      if (isOn && obstacle !== null) return refused('not allowed now', obstacle)
      return application.command(call, (context, settings) =>
        setSending(application, isOn, settings.isSendingOn, context),
      )
    },
    setSourcesKept: (call: CommandCall, months: number | null) =>
      application.command(call, () =>
        done({ effects: [{ kind: 'set sources kept', months }], answer: { months } }),
      ),
  }
}
export type Commands = ReturnType<typeof createCommands>

/** How many messages some effects list as missed. */
const missedCount = (effects: readonly Effect[]) =>
  effects.filter((effect) => effect.kind === 'append event' && effect.event.kind === 'message missed').length

function setSending(
  application: Application,
  isOn: boolean,
  wasOn: boolean,
  context: EngineContext,
): Result<Decision<{ isOn: boolean; missed: number }>> {
  if (isOn === wasOn) return done({ effects: [], answer: { isOn, missed: 0 } })
  const { statements } = application.store
  const switched: Effect = { kind: 'set sending', isOn }
  const concerns = statements.all('clientsWithPlanned', { sequenceId: null }).map(({ id }) => String(id))
  if (!isOn) {
    return done({
      effects: [switched, appendEvent(context, 'sending held back', {}, 'All sending was held back.')],
      answer: { isOn, missed: 0 },
      concerns,
    })
  }
  const missed = forOverdue(application, overdueSends(application, context.now), (own, slice) =>
    missWhileHeldBack(own, { ...slice, settings: { ...slice.settings, isSendingOn: true } }, context),
  )
  const count = missedCount(missed)
  const event = appendEvent(
    context,
    'sending switched on',
    {},
    `Sending was switched on; ${count} missed meanwhile.`,
  )
  // A person has looked: what went before does not count for the cap of the day any more.
  const cap = readDailyCap(statements)
  const counted: readonly Effect[] =
    cap.most === null
      ? []
      : [{ kind: 'set daily cap', cap: { ...cap, countsFrom: context.now, reachedAt: null } }]
  const effects = [switched, event, ...counted, ...missed]
  return done({ effects, answer: { isOn, missed: count }, concerns })
}
