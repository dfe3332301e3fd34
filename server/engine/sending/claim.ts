import { randomUUID } from 'node:crypto'
import { allowanceLeft, allowanceLine, inAllowanceOrder } from '#core/engine/atSending/allowance.ts'
import { checkAtSending, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { appendEvent } from '#core/engine/context.ts'
import { mostClaims, noProgress } from '#core/engine/following/noProgress.ts'
import { perform } from '#core/engine/following/outcomes.ts'
import { subjectOf } from '#core/engine/commands/sendCommands.ts'
import type { EventKind } from '#core/model/event.ts'
import type { Send } from '#core/model/send.ts'
import type { SendState } from '#core/model/sendState.ts'
import type { PlainStep } from '#core/model/step.ts'
import { dateAndTime } from '#core/time/format.ts'
import { asJson, flag } from '../../db/columns.ts'
import { readSend, sentSince } from '../../db/sendStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import { earliestDueMoment } from '../loop/dueNext.ts'
import { heldAtCap, leftOfCap } from './dailyCap.ts'
import { failClaim, type OnFault } from './faults.ts'
import type { Application } from '../application.ts'
import { settle, type Claim } from './endClaim.ts'
import { focusOnSend, onlyLiving } from '../../db/livingStore.ts'

/** Longer than the socket time-out of the sender, renewed at half. Real time. */
export const leaseMs = 3 * 60_000

/** What leaves the house: a message by mail, or a call to a web address. */
type Parcel =
  | { readonly kind: 'mail'; readonly message: OutgoingMessage }
  | { readonly kind: 'call'; readonly url: string }

export interface Claimed extends Claim {
  readonly parcel: Parcel
}

const eventOfState: Partial<Record<SendState, EventKind>> = {
  blocked: 'message blocked',
  missed: 'message missed',
}

/** What the mail account will not take now waits until it takes more: service messages go first. */
function keepToAllowance({ store, clock, settings }: Application) {
  const { business, zones } = settings.required()
  const zone = zones.zone(business.zone)
  const now = clock.now()
  const { left, freeAt } = allowanceLeft(business.allowance, zone, now, (from) =>
    sentSince(store.statements, from),
  )
  if (freeAt === null) return
  const due = store.statements.all('dueMessages', { until: now }).map((row) => ({
    id: String(row['id']),
    dueAt: Number(row['dueAt']),
    isPromotional: row['purpose'] === 'promotional',
  }))
  for (const { id, dueAt } of due.sort(inAllowanceOrder).slice(left)) {
    const line = allowanceLine(dueAt, freeAt, dateAndTime(zone, freeAt))
    store.statements.run('putOff', { id, dueAt: freeAt, lineJson: asJson(line) })
  }
}

/** A step that is no message is done here and now, with all that follows from it. */
function doStep(application: Application, claimed: Claim, step: PlainStep) {
  const { send } = claimed
  const now = application.clock.now()
  settle(application, claimed, { state: 'sent', reason: null, event: 'step done', sentAt: now })
  const slice = application.sliceOf(send.clientId, focusOnSend(send))
  if (!slice) return
  const performed = perform(step, { ...send, state: 'sent' }, slice, application.context(null))
  if (performed.done) {
    application.apply(performed.effects)
    return
  }
  const reason = { code: 'could not be done', sentence: performed.sentence }
  const failed: Send = { ...send, state: 'failed', reason, stateSince: now }
  const told = appendEvent(application.context(null), 'message failed', subjectOf(send), performed.sentence)
  application.apply([{ kind: 'put send', send: failed }, told])
}

export interface Claiming {
  readonly limit: number
  /** False: only what does not go through the mail account. */
  readonly withMail: boolean
}

/**
 * Claims some due sends and checks each once more, within a transaction. What has fallen due before them is handled
 * first: it may be why one does not go.
 */
export function claim(
  application: Application,
  { limit, withMail }: Claiming,
  onFault: OnFault,
): readonly Claimed[] {
  const { store, clock, settings } = application
  if (!settings.required().isSendingOn || clock.jump() !== null) return []
  keepToAllowance(application)
  const left = leftOfCap(application)
  if (left === 0 && heldAtCap(application)) return []
  const token = randomUUID()
  const now = clock.now()
  const rows = store.statements.all('claimDue', {
    token,
    leaseUntil: Date.now() + leaseMs,
    now,
    until: Math.min(now, (earliestDueMoment(store.statements, now)?.at ?? Infinity) - 1),
    withMail: flag(withMail && left > 0),
    limit: left === 0 ? limit : Math.min(limit, left),
  })
  return rows.flatMap((row) => {
    const due = { id: String(row['id']), clientId: String(row['clientId']), runId: String(row['runId']) }
    try {
      return store.transaction(() => checked(application, due, token))
    } catch (fault) {
      if (isOfStore(fault)) throw fault
      onFault(fault)
      const send = readSend(store.statements, due.id)
      if (send) failClaim(application, { send, token })
      return []
    }
  })
}

/** A send that was claimed, and whose it is. */
interface Due {
  readonly id: string
  readonly clientId: string
  readonly runId: string
}

/** Checks one claimed send, and ends its claim where it does not leave the house. Throws where it cannot be read. */
function checked(application: Application, { id, clientId, runId }: Due, token: string): Claimed[] {
  const { clock } = application
  const slice = application.sliceOf(clientId, { ...onlyLiving, runIds: [runId] })
  const send = slice?.facts.sends.find((one) => one.id === id)
  if (!send || !slice) throw new Error(`Claimed, and not to be found: ${id}`)
  if (send.attempts > mostClaims) {
    settle(application, { send, token }, { state: 'failed', reason: noProgress, event: 'message failed' })
    return []
  }
  const verdict = checkAtSending(send, slice, clock.now())
  if (verdict.goes && verdict.message) {
    return [{ send, token, parcel: { kind: 'mail', message: verdict.message } }]
  }
  if (verdict.goes && verdict.does.kind === 'web call') {
    return [{ send, token, parcel: { kind: 'call', url: verdict.does.url } }]
  }
  if (verdict.goes) {
    doStep(application, { send, token }, verdict.does)
    return []
  }
  if (verdict.state === null) {
    settle(
      application,
      { send, token },
      { state: null, reason: null, event: null, dueAt: verdict.waitsUntil },
    )
    return []
  }
  const event = eventOfState[verdict.state] ?? null
  settle(application, { send, token }, { state: verdict.state, reason: verdict.reason, event })
  return []
}
