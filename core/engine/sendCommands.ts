import { z } from 'zod'
import type { EventKind } from '../model/event.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { canTurn, type Send, type SendState } from '../model/send.ts'
import { primaryContact } from '../model/client.ts'
import { approvedMoment, lastChanceOf } from '../planning/lastChance.ts'
import type { Slice } from '../planning/slice.ts'
import { hourMs } from '../time/calendar.ts'
import { appendEvent, type EngineContext } from './context.ts'
import type { Effect } from './effects.ts'
import { conclude } from './react.ts'

/** What a person can decide about a message that is in trouble or on its way. */
export const sendDecision = z.enum(['approve', 'send now', 'skip', 'it went'])
export type SendDecision = z.infer<typeof sendDecision>

const decisions: Readonly<Record<SendDecision, { state: SendState; event: EventKind; words: string }>> = {
  approve: { state: 'approved', event: 'message approved', words: 'A person approved it.' },
  'send now': { state: 'ready', event: 'message taken up again', words: 'A person sends it now.' },
  skip: { state: 'skipped', event: 'message skipped', words: 'A person left it out.' },
  'it went': { state: 'sent', event: 'message sent', words: 'A person found that it went.' },
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
    sentAt: decision === 'it went' ? send.stateSince : send.sentAt,
    reason: isGoing || decision === 'approve' ? null : { code: decision, sentence: words },
    trace: [...send.trace, line],
    stateSince: now,
  }
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
    !canTurn(found.state, state) ||
    (decision === 'it went' && found.state !== 'in doubt')
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
  const contact =
    facts.client.contacts.find((one) => one.id === found.contactId) ?? primaryContact(facts.client)
  if (decision === 'send now' && contact.email === null) {
    return refused('not allowed now', 'There is still no e-mail address to send it to.')
  }
  const dueAt = decision === 'approve' ? approvedMoment(found, { settings, facts }, context.now) : found.dueAt
  if (decision === 'approve' && dueAt === null) {
    return refused('not allowed now', 'Its last chance has passed: approved now it would come too late.')
  }
  const send = decided({ ...found, dueAt, address: contact.email }, decision, state, context.now)
  const subject = subjectOf(send)
  const effects: readonly Effect[] = [{ kind: 'put send', send }, appendEvent(context, event, subject, words)]
  const hasEnded = decision === 'skip' || decision === 'it went'
  return done(hasEnded ? conclude({ settings, facts }, effects, context) : effects)
}

/** A message that was not approved before its last chance: never sent late, shown in Trouble. */
export function goStale(slice: Slice, sendId: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'goes stale', key: sendId } }
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  if (send?.state !== 'waiting') return [cleared]
  const lastChance = lastChanceOf(send, slice)
  if (lastChance !== null && lastChance >= context.now) {
    return [{ kind: 'set due moment', moment: { kind: 'goes stale', key: sendId, at: lastChance + 1 } }]
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

function missed(send: Send, sentence: string, context: EngineContext): readonly Effect[] {
  const reason = { code: 'missed', sentence }
  const next: Send = { ...send, state: 'missed', reason, stateSince: context.now }
  const subject = subjectOf(send)
  return [{ kind: 'put send', send: next }, appendEvent(context, 'message missed', subject, sentence)]
}

/** Sending is switched on again: what fell due meanwhile is listed, never sent in a burst. */
export function missWhileHeldBack(overdue: readonly Send[], context: EngineContext): readonly Effect[] {
  return overdue.flatMap((send) => missed(send, 'It fell due while sending was held back.', context))
}

const catchUpOrder: readonly Send['purpose'][] = ['change', 'cancellation', 'confirmation', 'reminder']

function catchUpRank(send: Send): number {
  const index = catchUpOrder.indexOf(send.purpose)
  return index < 0 ? catchUpOrder.length : index
}

/** How long after its time a message may still go by itself once the machine is back, in milliseconds. */
function toleranceMs(send: Send): number {
  return ['confirmation', 'change', 'cancellation'].includes(send.purpose) ? 12 * hourMs : 2 * hourMs
}

function canCatchUp(send: Send, now: number): boolean {
  const isBeforeStep = send.purpose === 'reminder' || send.purpose === 'preparation'
  if (isBeforeStep && send.notAfter !== null) return now <= send.notAfter
  return now - (send.dueAt ?? now) <= toleranceMs(send)
}

/**
 * After the machine was off: of what fell due meanwhile at most one message per client and booking goes by
 * itself, if it is within its tolerance; the rest is missed. `overdue` are the claimable sends due in the past.
 */
export function catchUp(overdue: readonly Send[], context: EngineContext): readonly Effect[] {
  const ordered = [...overdue].sort(
    (one, other) => catchUpRank(one) - catchUpRank(other) || (one.dueAt ?? 0) - (other.dueAt ?? 0),
  )
  const served = new Set<string>()
  return ordered.flatMap((send) => {
    const place = `${send.clientId}|${send.subject.id}`
    if (!served.has(place) && canCatchUp(send, context.now)) {
      served.add(place)
      return []
    }
    return missed(send, 'It fell due while Vorfreude was not running.', context)
  })
}
