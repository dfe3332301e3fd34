import { appendEvent } from '#core/engine/context.ts'
import type { Told } from '#core/engine/atSending/checkAtSending.ts'
import { afterOutcome, notedTimes } from '#core/engine/following/outcomes.ts'
import { isAwaited } from '#core/engine/following/replan.ts'
import { subjectOf } from '#core/engine/commands/sendCommands.ts'
import type { EventKind } from '#core/model/event.ts'
import type { Reason, Send } from '#core/model/send.ts'
import type { SendState } from '#core/model/sendState.ts'
import { stepTraits } from '#core/model/step.ts'
import { sendLabel } from '#core/planning/sendLabel.ts'
import { asJson } from '../../db/columns.ts'
import { appendEvent as storeEvent } from '../../db/eventStore.ts'
import type { AccountFault, Outcome } from '../../mail/whoseFault.ts'
import { applyEffects } from '../applyEffects.ts'
import { backOffMs, mostAttempts } from './backOff.ts'
import type { Application } from '../application.ts'
import { focusOnSend } from '../../db/livingStore.ts'

/** A claim on one send: whatever follows it names its token. */
export interface Claim {
  readonly send: Send
  readonly token: string
}

/** How a claim ends. */
export interface Settled {
  /** Null: the state it was claimed from. */
  readonly state: SendState | null
  readonly reason: Reason | null
  readonly event: EventKind | null
  readonly dueAt?: number
  readonly sentAt?: number
  readonly answer?: string
}

/** What has not begun is as if it had not been claimed: the attempt does not count. */
export function giveBack({ store }: Application, { send, token }: Claim) {
  store.statements.run('giveBackClaim', { id: send.id, token })
}

/** Something was thrown while the message was being made ready: it never left the house. */
export interface NotMade {
  readonly kind: 'not made'
}

export const notMade: Reason = {
  code: 'fault',
  sentence:
    'Something went wrong here while it was made ready, so it did not go. Look at the client and the letter, then send or skip it.',
}

/** How a claim ends by the answer of the server, where it is the message's. */
export function outcomeSettled(
  send: Send,
  outcome: Exclude<Outcome, AccountFault> | NotMade,
  now: number,
): Settled {
  if (outcome.kind === 'not made') return { state: 'failed', reason: notMade, event: 'message failed' }
  const { answer } = outcome
  switch (outcome.kind) {
    case 'accepted':
      return { state: 'sent', reason: null, event: 'message sent', sentAt: now, answer }
    case 'refused': {
      const who =
        stepTraits[send.stepKind].goesTo === null
          ? 'The address'
          : `The mail server of ${send.address ?? 'the client'}`
      const sentence = `${who} refused it: ${answer}`
      return { state: 'failed', reason: { code: 'refused', sentence }, event: 'message failed', answer }
    }
    case 'in doubt': {
      const sentence = `The connection was lost while it was being handed over: it may have gone. ${answer}`
      return { state: 'in doubt', reason: { code: 'lost', sentence }, event: 'message in doubt', answer }
    }
    case 'later': {
      if (send.attempts >= mostAttempts) {
        const sentence = `It did not get through in ${send.attempts} attempts: ${answer}`
        return { state: 'failed', reason: { code: 'gave up', sentence }, event: 'message failed', answer }
      }
      const dueAt = now + backOffMs(send.attempts, Math.random())
      const sentence = `Attempt ${send.attempts} did not get through, the next one follows: ${answer}`
      return { state: null, reason: { code: 'later', sentence }, event: null, dueAt, answer }
    }
  }
}

/** What the client was told is noted, and steps that waited for this are planned, in the same transaction. */
function follow(application: Application, send: Send, told: Told | null) {
  const { statements } = application.store
  const needsSlice =
    told?.lines || send.state === 'waiting' || isAwaited(send, application.settings.required())
  if (!needsSlice) {
    applyEffects(statements, notedTimes(told))
    return
  }
  const slice = application.sliceOf(send.clientId, focusOnSend(send))
  if (slice) applyEffects(statements, afterOutcome(send, told, slice, application.context(null)))
}

/**
 * Ends a claim, with all that follows, in a transaction of its own or within a larger one. `follows` false: with nothing
 * that has to be read for it.
 */
export function settle(
  application: Application,
  { send, token }: Claim,
  settled: Settled,
  told: Told | null = null,
  follows = true,
) {
  const { store, clock, changes } = application
  store.transaction(() => {
    const rows = store.statements.run('settleClaim', {
      id: send.id,
      token,
      state: settled.state,
      dueAt: settled.dueAt ?? send.dueAt,
      reasonJson: settled.reason === null ? null : asJson(settled.reason),
      sentAt: settled.sentAt ?? null,
      stateSince: clock.now(),
    })
    if (rows === 0) return
    // What is given back has not ended: planning anew would make it due at once, again and again.
    if (settled.state !== null && follows) follow(application, { ...send, state: settled.state }, told)
    if (settled.answer !== undefined) {
      store.statements.run('storeAnswer', { sendId: send.id, answer: settled.answer })
    }
    if (settled.event === null) return
    const settings = application.settings.required()
    const action = follows ? sendLabel(send, settings) : send.stepKind
    const done = send.address === null ? 'Done.' : `Sent to ${send.address}.`
    const sentence = settled.reason?.sentence ?? done
    const effect = appendEvent(
      application.context(null),
      settled.event,
      subjectOf(send),
      `“${action}”: ${sentence}`,
    )
    if (effect.kind === 'append event') storeEvent(store.statements, effect.event)
  })
  changes.publish(settled.state === 'sent' ? ['sends', 'mail'] : ['sends'])
}
