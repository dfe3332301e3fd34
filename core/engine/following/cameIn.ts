import { isProbable, type Incoming, type IncomingPlace } from '../../model/incoming.ts'
import { epochDayOf } from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import type { Send } from '../../model/send.ts'
import type { Run } from '../../model/sequence.ts'
import { hasSomethingToDo } from '../../planning/atRest.ts'
import { isSameAddress } from '../../model/values.ts'
import { evaluate } from '../../conditions/evaluate.ts'
import { conditionFacts } from '../../planning/runFacts.ts'
import { happened, withoutPromotional } from '../commands/dealingCommands.ts'
import { sendFactsOf } from '../atSending/mergeFacts.ts'
import { plannableStates } from '../../model/sendState.ts'
import { sendLabel } from '../../planning/sendLabel.ts'
import { businessDate, serviceOf, versionOf, type Slice } from '../../planning/slice.ts'
import { nameOfRun } from './stopRuns.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { cameBack } from './cameBack.ts'
import { conclude } from './react.ts'
import { taskSet } from './taskSet.ts'

/** A mail with what follows from it. */
interface Following {
  readonly effects: readonly Effect[]
  readonly followed: readonly string[]
  readonly place: IncomingPlace | null
}

/** The event a mail is told by in the history of a client. */
function told(incoming: Incoming, clientId: string, words: string, context: EngineContext): Effect {
  return appendEvent(context, 'mail came in', { clientId, sendId: incoming.match.sendId }, words)
}

const quoted = ({ subject }: Incoming) => (subject === '' ? 'without a subject' : `“${subject}”`)

/** Whether a message's own condition holds as things stand; one without any always may go. */
function mayGo(send: Send, slice: Slice, now: number): boolean {
  const found = sendFactsOf(send, slice)
  const condition = found?.step.onlyIf ?? null
  return !found || condition === null || evaluate(condition, conditionFacts(found.of, now)).holds
}

/** That a message does not go any more because of some effects, in a sentence; null: it does, or did not before. */
function letGo(before: Send, present: Slice, slice: Slice, now: number): string | null {
  const after = present.facts.sends.find(({ id }) => id === before.id)
  if (!after || !plannableStates.includes(before.state)) return null
  const label = `“${sendLabel(before, slice.settings)}”`
  if (plannableStates.includes(after.state)) {
    // What is decided at its moment can be told now.
    const isEnded = mayGo(before, slice, now) && !mayGo(after, present, now)
    return isEnded ? `${label} will not go: its condition no longer holds.` : null
  }
  return `${label} does not go any more: ${after.reason?.sentence ?? after.state}`
}

/** Which of a client's sequences and messages have ended by some effects, and which could not be stopped any more. */
function sentencesOf(slice: Slice, effects: readonly Effect[], now: number): readonly string[] {
  const stopped = effects.flatMap((one) =>
    one.kind === 'put run' && one.run.state === 'stopped' ? [one.run] : [],
  )
  const after = withEffects(slice.facts, effects)
  const ofStopped = new Set(stopped.map(({ id }) => id))
  const runs = stopped.flatMap((run) => {
    const onTheWire = after.sends.filter(({ runId, state }) => runId === run.id && state === 'sending')
    return [
      `“${nameOfRun(slice, run)}” has stopped.`,
      ...onTheWire.map(
        (send) =>
          `“${sendLabel(send, slice.settings)}” was being handed over at that moment: it goes, unless it had not begun.`,
      ),
    ]
  })
  const isAtWork = (run: Run) =>
    hasSomethingToDo(
      run,
      after.sends.filter(({ runId }) => runId === run.id),
      slice.settings,
    )
  const held = effects.flatMap((one) =>
    one.kind === 'put run' && one.run.held?.at === now && isAtWork(one.run)
      ? [`“${nameOfRun(slice, one.run)}” waits for a person: each of its messages asks first.`]
      : [],
  )
  const others = slice.facts.sends.filter(({ runId }) => !ofStopped.has(runId))
  const ended = others.flatMap((send) => letGo(send, { ...slice, facts: after }, slice, now) ?? [])
  return [...runs, ...held, ...ended]
}

/** Somebody wrote: that is an answer, and what waits for one stops or is held. */
export function answered(slice: Slice, incoming: Incoming, context: EngineContext): Following {
  const { id: clientId } = slice.facts.client
  const { sendId } = incoming.match
  const effects = conclude(
    slice,
    [
      { kind: 'add happening', clientId, happening: { kind: 'answered', name: '', at: context.now } },
      appendEvent(context, 'answered', { clientId, sendId }, `Answered: ${quoted(incoming)}.`),
    ],
    context,
  )
  const sentences = sentencesOf(slice, effects, context.now)
  const nothing = 'It counts as an answer. Nothing was waiting for one.'
  return { effects, followed: sentences.length === 0 ? [nothing] : sentences, place: 'decide' }
}

function complained(slice: Slice, incoming: Incoming, context: EngineContext): Following {
  const { client } = slice.facts
  const words = 'Complained to their mail provider about a message.'
  if (!client.takesPromotional) {
    return {
      effects: [told(incoming, client.id, words, context)],
      followed: ['The client takes no promotional mail as it is.'],
      place: 'trouble',
    }
  }
  const effects = conclude(
    slice,
    [
      ...withoutPromotional(client),
      told(incoming, client.id, words, context),
      ...happened(
        client.id,
        { kind: 'opted out', name: '', at: context.now },
        context,
        'Promotional mail ended by a complaint.',
      ),
    ],
    context,
  )
  return {
    effects,
    followed: ['The client gets no promotional mail any more.', ...sentencesOf(slice, effects, context.now)],
    place: 'trouble',
  }
}

const replyWords = {
  accepted: 'accepted',
  declined: 'declined',
  tentative: 'said perhaps to',
  other: 'replied to',
}

/** A declined invitation is asked about, and cancels nothing. */
function invitationReplied(
  slice: Slice,
  incoming: Incoming,
  reply: keyof typeof replyWords,
  uid: string,
  context: EngineContext,
): Following {
  const { settings, facts } = slice
  const { client } = facts
  const booking = facts.bookings.find(({ id }) => uid.startsWith(`${id}@`))
  const service = booking && serviceOf(settings, booking.serviceId).name
  const about = service === undefined ? 'an appointment' : `the appointment “${service}”`
  const history = told(
    incoming,
    client.id,
    `${incoming.from.name || client.name} ${replyWords[reply]} ${about}.`,
    context,
  )
  if (reply !== 'declined') return { effects: [history], followed: ['Nothing follows from it.'], place: null }
  const title = `${client.name} declined ${about}: ask whether they are coming`.slice(0, 200)
  const task = {
    clientId: client.id,
    subject: booking ? ({ kind: 'booking', id: booking.id } as const) : null,
    title,
    dueOn: businessDate(settings, context.now),
    personId: booking?.personInChargeId ?? null,
  }
  return {
    effects: [history, ...taskSet(task, `Task: ${title}.`, context)],
    followed: ['A task was set: nothing was cancelled.'],
    place: null,
  }
}

function reported(slice: Slice, incoming: Incoming, context: EngineContext): Following {
  const { what, match } = incoming
  if (what.kind !== 'delivery report' || match.sendId === null)
    return { effects: [], followed: [], place: null }
  const { effects, sentences } = cameBack(match.sendId, what.reports, slice, context)
  // One entry stands for all messages to an address: a further report about it adds none.
  const isFirst = effects.some(
    (one) =>
      one.kind === 'put undelivered' &&
      one.undelivered?.isBlocked === true &&
      !slice.facts.undelivered.some(
        ({ address, isBlocked }) => isBlocked && isSameAddress(address, one.address),
      ),
  )
  return { effects, followed: sentences, place: isFirst ? 'trouble' : null }
}

/** What follows from a mail of a client, by what it is. */
function following(slice: Slice, incoming: Incoming, context: EngineContext): Following {
  const { what, from } = incoming
  const { id: clientId } = slice.facts.client
  switch (what.kind) {
    case 'answer':
      if (incoming.match.isFromTeam) {
        return {
          effects: [],
          followed: ['It came from the team: it is no answer of the client.'],
          place: 'decide',
        }
      }
      return answered(slice, incoming, context)
    case 'automatic reply': {
      const back = what.returnsOn === null ? '' : ` Back on ${longDate(epochDayOf(what.returnsOn))}.`
      const words = `An automatic reply came from ${from.address}.${back}`
      return {
        effects: [told(incoming, clientId, words, context)],
        followed: ['It is no answer: everything goes on.'],
        place: null,
      }
    }
    case 'delivery report':
      return reported(slice, incoming, context)
    case 'complaint':
      return complained(slice, incoming, context)
    case 'invitation reply':
      return invitationReplied(slice, incoming, what.reply, what.uid, context)
    case 'challenge':
      return {
        effects: [told(incoming, clientId, `The mail server of ${from.address} asks who writes.`, context)],
        followed: ['The message waits there until somebody follows what it asks.'],
        place: 'to-do',
      }
    case 'unclear':
      return {
        effects: [
          told(
            incoming,
            clientId,
            `A mail came in, and nobody knows yet what it is: ${quoted(incoming)}.`,
            context,
          ),
        ],
        followed: ['It does not count as an answer until a person says so.'],
        place: 'decide',
      }
  }
}

/** What follows from a mail that is a client's, with the mail itself as it stands then. */
export function cameIn(slice: Slice, incoming: Incoming, context: EngineContext): readonly Effect[] {
  const { effects, followed, place } = following(slice, incoming, context)
  const kept = followed.map((sentence) => sentence.slice(0, 400)).slice(0, 20)
  return [...effects, { kind: 'put incoming', incoming: { ...incoming, followed: kept, place } }]
}

/** Where a mail stands that is nobody's, or not for certain whose. */
export function ofNobody(incoming: Incoming): Incoming {
  const { what, match } = incoming
  if (what.kind === 'automatic reply') return incoming
  const isReport = what.kind === 'delivery report' || what.kind === 'complaint'
  const sentence = isProbable(match.by)
    ? 'It is not sure whose it is: a person says.'
    : isReport
      ? 'It is about no message from here: nothing follows from it.'
      : 'Nobody knows whose it is: a person looks.'
  // A report about nothing that went from here may be made up: it is no trouble.
  const place = isReport && !isProbable(match.by) ? null : isReport ? 'trouble' : 'decide'
  return { ...incoming, followed: [sentence], place }
}

/** Whether an answer would stop the sequence of a message. */
function isStoppedByAnswer(send: Send, { settings }: Slice): boolean {
  const { stops } = versionOf(settings, send.sequenceId, send.sequenceVersion)
  return stops.some(({ on }) => on === 'answered')
}

/**
 * While nobody knows which of several clients has written, what an answer would stop waits for a person, with each of
 * them.
 */
export function heldUntilKnown(slice: Slice, context: EngineContext): readonly Effect[] {
  const held = slice.facts.sends.filter(
    (send) =>
      plannableStates.includes(send.state) && !send.decision.isHeldBack && isStoppedByAnswer(send, slice),
  )
  const effects = held.map((send): Effect => {
    const decision = { ...send.decision, isHeldBack: true }
    // What was approved is asked about again.
    const state = send.state === 'approved' ? 'waiting' : send.state
    return { kind: 'put send', send: { ...send, state, decision, stateSince: context.now } }
  })
  return effects.length === 0 ? [] : conclude(slice, effects, context)
}

/** What was held until it was known who had written goes on, where nobody has decided about it since. */
export function released(
  slice: Slice,
  sendIds: readonly string[],
  context: EngineContext,
): readonly Effect[] {
  const effects = slice.facts.sends
    .filter(
      ({ id, decision, state }) =>
        sendIds.includes(id) && decision.isHeldBack && plannableStates.includes(state),
    )
    .map((send): Effect => {
      const decision = { ...send.decision, isHeldBack: false }
      return { kind: 'put send', send: { ...send, decision } }
    })
  return effects.length === 0 ? [] : conclude(slice, effects, context)
}
