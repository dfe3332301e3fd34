import { randomUUID } from 'node:crypto'
import { appendEvent } from '#core/engine/context.ts'
import { checkAtSending, type OutgoingMessage } from '#core/engine/checkAtSending.ts'
import { afterOutcome, isAwaited } from '#core/engine/react.ts'
import { subjectOf } from '#core/engine/sendCommands.ts'
import type { EventKind } from '#core/model/event.ts'
import type { Reason, Send, SendState } from '#core/model/send.ts'
import { asJson } from '../db/columns.ts'
import { appendEvent as storeEvent } from '../db/eventStore.ts'
import { readSend } from '../db/sendStore.ts'
import { composeMessage } from '../mail/compose.ts'
import type { Outcome, SmtpSender } from '../mail/smtpSender.ts'
import { applyEffects } from './applyEffects.ts'
import { backOffMs, mostAttempts } from './backOff.ts'
import type { Office } from './office.ts'

/*
 * The life of a claim:
 *
 *   ready/approved --claim--> sending --check fails--> blocked, cancelled, missed
 *                                     --250----------> sent
 *                                     --5yz----------> failed
 *                                     --4yz, not begun-> ready/approved, due later
 *                                     --lost after DATA, process killed, lease over--> in doubt
 *                                     --draining, not begun--> ready/approved, attempt not counted
 *
 * Everything after the claim names the claim's token: where no row answers to it, the claim was lost and
 * nothing is done.
 */

/** Longer than the socket time-out of the sender, renewed at half. Real time. */
const leaseMs = 3 * 60_000

interface Claimed {
  readonly send: Send
  readonly token: string
  readonly message: OutgoingMessage
}

interface Settled {
  /** Null: the state it was claimed from. */
  readonly state: SendState | null
  readonly reason: Reason | null
  readonly event: EventKind | null
  readonly dueAt?: number
  readonly sentAt?: number
  readonly answer?: string
}

export interface Dispatcher {
  /** Sends everything due up to the clock's present moment and waits for the outcomes. */
  sendDue(): Promise<void>
  /** Claims of a process that is gone: whether those messages went, nobody can tell. */
  doubtAbandoned(): void
  /** Claims nothing more, waits up to a deadline for what is under way, gives back what has not begun. */
  drain(deadlineMs: number): Promise<void>
}

function outcomeSettled(send: Send, outcome: Outcome, now: number): Settled {
  const { answer } = outcome
  switch (outcome.kind) {
    case 'accepted':
      return { state: 'sent', reason: null, event: 'message sent', sentAt: now, answer }
    case 'refused': {
      const sentence = `The mail server of ${send.address ?? 'the client'} refused it: ${answer}`
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

/** Steps that waited for this message are planned in the same transaction. */
function planWhatWaited(office: Office, send: Send) {
  if (!isAwaited(send, office.settings.required())) return
  const slice = office.sliceOf(send.clientId)
  if (slice) applyEffects(office.store.statements, afterOutcome(send.id, slice, office.context(null)))
}

function settle(office: Office, { send, token }: Pick<Claimed, 'send' | 'token'>, settled: Settled) {
  const { store, clock, changes } = office
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
    planWhatWaited(office, send)
    if (settled.answer !== undefined) {
      store.statements.run('storeAnswer', { sendId: send.id, answer: settled.answer })
    }
    if (settled.event === null) return
    const letter =
      office.settings.required().letters.find((one) => one.id === send.letterId)?.name ?? send.letterId
    const sentence = settled.reason?.sentence ?? `Sent to ${send.address ?? ''}.`
    const effect = appendEvent(
      office.context(null),
      settled.event,
      subjectOf(send),
      `“${letter}”: ${sentence}`,
    )
    if (effect.kind === 'append event') storeEvent(store.statements, effect.event)
  })
  changes.publish(settled.state === 'sent' ? ['sends', 'mail'] : ['sends'])
}

const eventOfState: Partial<Record<SendState, EventKind>> = {
  blocked: 'message blocked',
  missed: 'message missed',
}

/** Claims some due sends and checks each once more, in one transaction. */
function claim(office: Office, limit: number): readonly Claimed[] {
  const { store, clock, settings } = office
  return store.transaction(() => {
    if (!settings.required().isSendingOn) return []
    const token = randomUUID()
    const leaseUntil = Date.now() + leaseMs
    const rows = store.statements.all('claimDue', { token, leaseUntil, now: clock.now(), limit })
    return rows.flatMap((row): Claimed[] => {
      const send = readSend(store.statements, String(row['id']))
      const slice = send && office.sliceOf(send.clientId)
      if (!send || !slice) return []
      const verdict = checkAtSending(send, slice, clock.now())
      if (verdict.goes) return [{ send, token, message: verdict.message }]
      if (verdict.state === null) {
        settle(office, { send, token }, { state: null, reason: null, event: null, dueAt: verdict.waitsUntil })
        return []
      }
      const event = eventOfState[verdict.state] ?? null
      settle(office, { send, token }, { state: verdict.state, reason: verdict.reason, event })
      return []
    })
  })
}

async function deliver(
  office: Office,
  sender: SmtpSender,
  claimed: Claimed,
  mayBegin: () => boolean,
): Promise<void> {
  const { send, token, message } = claimed
  const { statements } = office.store
  const source = await composeMessage(message)
  if (!mayBegin()) {
    statements.run('giveBackClaim', { id: send.id, token })
    return
  }
  statements.run('storeMessage', { sendId: send.id, subject: message.subject, source })
  const outcome = await sender.deliver({ from: message.from.address, to: message.to.address }, source)
  settle(office, claimed, outcomeSettled(send, outcome, office.clock.now()))
}

export function createDispatcher(office: Office, sender: SmtpSender): Dispatcher {
  const underWay = new Map<string, Promise<void>>()
  const tokens = new Set<string>()
  let isDraining = false

  const begin = (claimed: Claimed) => {
    tokens.add(claimed.token)
    const work = deliver(office, sender, claimed, () => !isDraining).finally(() => {
      underWay.delete(claimed.send.id)
      if (underWay.size === 0) tokens.clear()
    })
    underWay.set(claimed.send.id, work)
  }
  const renewal = setInterval(() => {
    for (const token of tokens) {
      office.store.statements.run('renewLease', { token, leaseUntil: Date.now() + leaseMs })
    }
  }, leaseMs / 2)
  renewal.unref()

  return {
    async sendDue() {
      for (;;) {
        const free = isDraining ? 0 : sender.size - underWay.size
        const claimed = free > 0 ? claim(office, free) : []
        claimed.forEach(begin)
        if (underWay.size === 0) {
          if (free > 0 && claimed.length === 0) return
          if (isDraining) return
          continue
        }
        await Promise.race(underWay.values())
      }
    },
    doubtAbandoned() {
      for (const row of office.store.statements.all('abandonedClaims')) {
        const token = String(row['token'])
        const send = tokens.has(token) ? null : readSend(office.store.statements, String(row['id']))
        if (!send) continue
        const sentence = 'Vorfreude was stopped while it was being handed over: it may have gone.'
        settle(
          office,
          { send, token },
          { state: 'in doubt', reason: { code: 'stopped', sentence }, event: 'message in doubt' },
        )
      }
    },
    async drain(deadlineMs) {
      isDraining = true
      clearInterval(renewal)
      const deadline = new Promise<void>((resolve) => setTimeout(resolve, deadlineMs).unref())
      await Promise.race([Promise.allSettled(underWay.values()), deadline])
      sender.close()
    },
  }
}
