import { z } from 'zod'
import type { EventKind } from '../../model/event.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Reason, Send } from '../../model/send.ts'
import { canTurn, troubleStates, type SendState } from '../../model/sendState.ts'
import { isMessage } from '../../model/step.ts'
import { addressFor } from '../../sequences/recipients.ts'
import { approvedMoment, lastChanceOf } from '../../planning/lastChance.ts'
import type { Slice } from '../../planning/slice.ts'
import { checkAtSending } from '../atSending/checkAtSending.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { factsToApprove, wordsToApprove } from '../atSending/approval.ts'
import { sendFactsOf } from '../atSending/mergeFacts.ts'
import { conclude } from '../following/react.ts'
import { replan, staleMoment } from '../following/replan.ts'

/** What a person can decide about a message that is in trouble or on its way. */
export const sendDecision = z.enum(['approve', 'send now', 'skip', 'it went', 'hold back', 'called'])
export type SendDecision = z.infer<typeof sendDecision>

const decisions: Readonly<Record<SendDecision, { state: SendState; event: EventKind; words: string }>> = {
  approve: { state: 'approved', event: 'message approved', words: 'A person approved it.' },
  'send now': { state: 'ready', event: 'message taken up again', words: 'A person sends it now.' },
  skip: { state: 'skipped', event: 'message skipped', words: 'A person left it out.' },
  'it went': { state: 'sent', event: 'message sent', words: 'A person found that it went.' },
  'hold back': {
    state: 'waiting',
    event: 'message held back',
    words: 'A person held it back: it waits for approval.',
  },
  called: { state: 'skipped', event: 'message skipped', words: 'A person called instead.' },
}

function decided(send: Send, decision: SendDecision, state: SendState, now: number): Send {
  const { words } = decisions[decision]
  const isGoing = decision === 'send now'
  const line = {
    rule: 'person',
    before: send.dueAt,
    after: isGoing ? now : null,
    code: decision,
    sentence: words,
  }
  return {
    ...send,
    state,
    dueAt: isGoing ? now : send.dueAt,
    sentAt: decision === 'it went' ? send.stateSince : isGoing ? null : send.sentAt,
    reason: isGoing || decision === 'approve' ? null : { code: decision, sentence: words },
    decision: {
      ...send.decision,
      isSentNow: isGoing,
      // An approval leaves that it was held back: once that no longer stands, a person is asked again.
      isHeldBack: decision === 'hold back' || send.decision.isHeldBack,
    },
    trace: [...send.trace, line],
    stateSince: now,
  }
}

/** Which words a message keeps after a decision: sending now is no other approval. */
function wordsAfter(decision: SendDecision, send: Send, slice: Slice): Send['approvedWords'] {
  if (decision === 'approve') return wordsToApprove(send, slice)
  return decision === 'send now' ? send.approvedWords : null
}

/** What would stop a message if a person sent it now; null: nothing. While its booking settles it waits for that. */
function whatStops(send: Send, slice: Slice, now: number): Reason | null {
  const asked: Send = { ...send, state: 'ready', approvedFacts: null }
  const verdict = checkAtSending(asked, slice, now)
  return verdict.goes || verdict.state === null ? null : verdict.reason
}

/** Whether what waited went as the letter has it: what trust in a step is counted from. */
export type AsItWas = 'as it was' | 'edited'

function asItWas({ state, decision: { personalLine, ownWords, letterId } }: Send): AsItWas | '' {
  if (state !== 'waiting') return ''
  return personalLine === null && ownWords === null && letterId === null ? 'as it was' : 'edited'
}

/** What an event about a message belongs to. */
export function subjectOf({ id, clientId, subject }: Pick<Send, 'id' | 'clientId' | 'subject'>) {
  return { clientId, subject, sendId: id }
}

/** A person's decision about one message. Only what its state allows; the rest is refused with the reason. */
export function decideSend(
  { settings, facts }: Slice,
  sendId: string,
  decision: SendDecision,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = facts.sends.find((one) => one.id === sendId)
  if (!found) return refused('not found', 'There is no such message.')
  const { state, event, words } = decisions[decision]
  const isPlainReady = decision === 'send now' && found.state === 'ready'
  if (
    isPlainReady ||
    found.state === 'cancelled' ||
    !canTurn(found.state, state) ||
    (decision === 'it went' && found.state !== 'in doubt') ||
    (decision === 'called' && !troubleStates.includes(found.state))
  ) {
    return refused('not allowed now', `This message is ${found.state} by now: “${decision}” is not possible.`)
  }
  if (decision === 'send now' && !settings.isSendingOn) {
    return refused('not allowed now', 'Sending is held back. Switch it on first.')
  }
  if (decision === 'send now' && found.notAfter !== null && context.now > found.notAfter) {
    return refused(
      'not allowed now',
      'Its last useful moment has passed: it would say something that no longer holds. Skip it.',
    )
  }
  const sendFacts = sendFactsOf(found, { settings, facts })
  const isToSomebody = sendFacts !== null && isMessage(sendFacts.step)
  const address = sendFacts?.recipient ? addressFor(sendFacts.step, sendFacts.recipient) : null
  if (decision === 'send now' && isToSomebody && address === null) {
    return refused('not allowed now', 'There is still no address to send it to.')
  }
  const inTheWay = decision === 'send now' ? whatStops(found, { settings, facts }, context.now) : null
  if (inTheWay) return refused('not allowed now', `It cannot go now: ${inTheWay.sentence}`)
  const dueAt = decision === 'approve' ? approvedMoment(found, { settings, facts }, context.now) : found.dueAt
  if (decision === 'approve' && dueAt === null) {
    return refused('not allowed now', 'Its last chance has passed: approved now it would come too late.')
  }
  const approvedFacts =
    decision === 'approve' ? factsToApprove(found, { settings, facts }, context.now) : null
  const approvedWords = wordsAfter(decision, found, { settings, facts })
  const send = decided(
    { ...found, dueAt, address, approvedFacts, approvedWords },
    decision,
    state,
    context.now,
  )
  const about = { ...subjectOf(send), name: asItWas(found) }
  const effects: readonly Effect[] = [
    { kind: 'put send', send },
    appendEvent(context, event, about, words),
    ...staleMoment(send, { settings, facts }),
  ]
  return done(conclude({ settings, facts }, effects, context))
}

/** Puts a message off: never to a moment before the one at which it goes by itself. */
export function putOffSend(
  slice: Slice,
  sendId: string,
  to: number,
  context: EngineContext,
): Result<readonly Effect[]> {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  const goesAt = send?.dueAt ?? send?.wantedAt ?? null
  if (goesAt !== null && to > context.now && to < goesAt) {
    return refused('invalid', 'That is earlier than it goes by itself: later means after that.', 'to')
  }
  return postponeSend(slice, sendId, to, context)
}

/** Gives a message another moment, within its bounds. A moved anchor voids that and asks again. */
export function postponeSend(
  slice: Slice,
  sendId: string,
  to: number,
  context: EngineContext,
): Result<readonly Effect[]> {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  if (!send) return refused('not found', 'There is no such message.')
  if (!['waiting', 'approved', 'ready'].includes(send.state)) {
    return refused('not allowed now', `This message is ${send.state} by now: it cannot be put off.`)
  }
  if (to <= context.now) return refused('invalid', 'Choose a moment that is still ahead.', 'to')
  if (send.notAfter !== null && to > send.notAfter) {
    return refused('invalid', 'That is after its last useful moment.', 'to')
  }
  const words = 'A person put it off.'
  const put: Effect = { kind: 'put send', send: { ...send, decision: { ...send.decision, postponedTo: to } } }
  const event = appendEvent(context, 'message postponed', subjectOf(send), words)
  return done(conclude(slice, [put, event], context))
}

/** A message that was not approved before its last chance: never sent late, shown in Trouble. */
export function goStale(slice: Slice, sendId: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'goes stale', key: sendId } }
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  if (send?.state !== 'waiting') return [cleared]
  const lastChance = lastChanceOf(send, slice)
  if (lastChance !== null && lastChance >= context.now) {
    return [
      {
        kind: 'set due moment',
        moment: { kind: 'goes stale', key: sendId, clientId: send.clientId, at: lastChance + 1 },
      },
    ]
  }
  const sentence = 'It was not approved before its last chance.'
  const stale: Send = {
    ...send,
    state: 'stale',
    reason: { code: 'stale', sentence },
    stateSince: context.now,
  }
  const event = appendEvent(context, 'message stale', subjectOf(send), sentence)
  return conclude(slice, [{ kind: 'put send', send: stale }, cleared, event], context)
}

/** A send that fell due and did not go, listed for a person. */
export function missed(send: Send, sentence: string, context: EngineContext): readonly Effect[] {
  const reason = { code: 'missed', sentence }
  const next: Send = { ...send, state: 'missed', reason, stateSince: context.now }
  const subject = subjectOf(send)
  return [{ kind: 'put send', send: next }, appendEvent(context, 'message missed', subject, sentence)]
}

/**
 * A switch is on again: what fell due for one client meanwhile is listed, never sent in a burst, and what is chained to
 * it counts from now.
 */
export function missWhileHeldBack(
  overdue: readonly Send[],
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  if (overdue.length === 0) return []
  const effects = overdue.flatMap((send) => missed(send, 'It fell due while sending was held back.', context))
  return [...effects, ...replan({ ...slice, facts: withEffects(slice.facts, effects) }, context)]
}
