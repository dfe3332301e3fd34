import { randomUUID } from 'node:crypto'
import { checkAtSending, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { appendEvent } from '#core/engine/context.ts'
import { mostClaims, noProgress } from '#core/engine/following/noProgress.ts'
import { perform } from '#core/engine/following/outcomes.ts'
import { subjectOf } from '#core/engine/commands/sendCommands.ts'
import type { EventKind } from '#core/model/event.ts'
import type { Send } from '#core/model/send.ts'
import type { SendState } from '#core/model/sendState.ts'
import type { PlainStep } from '#core/model/step.ts'
import { mainAccountId } from '#core/model/furtherAccount.ts'
import { flag } from '../../db/columns.ts'
import { hasIncomingToTakeUp } from '../../db/incomingStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import { earliestDueMoment } from '../loop/dueNext.ts'
import { heldAtCap, leftOfCap } from './dailyCap.ts'
import { failClaim, type OnFault } from './faults.ts'
import { keepToAllowance, laneOf, throughLane } from './lanes.ts'
import type { MailAccounts } from '../../mail/mailAccounts.ts'
import type { Application } from '../application.ts'
import { noticedMessage } from '../noticing/noticedMessage.ts'
import { fixDocuments } from './fixDocuments.ts'
import { giveBack, settle, type Claim } from './endClaim.ts'
import { focusOnSend, onlyLiving } from '../../db/livingStore.ts'

/** Longer than the socket time-out of the sender, renewed at half. Real time. */
export const leaseMs = 3 * 60_000

/** What leaves the house: a message by mail, or a call to a web address. */
type Parcel =
  | { readonly kind: 'mail'; readonly message: OutgoingMessage; readonly through: string }
  | { readonly kind: 'call'; readonly url: string }

export interface Claimed extends Claim {
  readonly parcel: Parcel
  /** How much mail had come in when it was checked. */
  readonly arrivals: number
}

const eventOfState: Partial<Record<SendState, EventKind>> = {
  blocked: 'message blocked',
  missed: 'message missed',
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

/** How much of what is due is claimed. */
export interface Claiming {
  /** Through which mail account; what goes by none is claimed with what goes through the main one. */
  readonly laneId: string
  readonly limit: number
  /** False: only what does not go through a mail account. */
  readonly withMail: boolean
}

/** What a claim works with. */
export interface ClaimParts {
  readonly application: Application
  readonly accounts: MailAccounts
  readonly onFault: OnFault
}

/**
 * Claims some due sends and checks each once more, within a transaction. What has fallen due before them is handled
 * first: it may be why one does not go.
 */
export function claim(parts: ClaimParts, { laneId, limit, withMail }: Claiming): readonly Claimed[] {
  const { application, accounts, onFault } = parts
  const { store, clock, settings } = application
  if (!settings.required().isSendingOn || clock.jump() !== null) return []
  // What came in may stop what is due: it is taken up first.
  if (hasIncomingToTakeUp(store.statements)) return []
  const lane = laneOf(accounts, laneId)
  keepToAllowance(application, accounts, lane)
  const left = leftOfCap(application)
  if (left === 0 && heldAtCap(application)) return []
  const token = randomUUID()
  const now = clock.now()
  const rows = store.statements.all('claimDue', {
    token,
    leaseUntil: Date.now() + leaseMs,
    now,
    until: Math.min(now, (earliestDueMoment(store.statements, now)?.at ?? Infinity) - 1),
    withOther: flag(laneId === mainAccountId),
    withMail: flag(withMail && left > 0),
    through: lane.through,
    limit: left === 0 ? limit : Math.min(limit, left),
  })
  return rows.flatMap((row) => {
    const due = { id: String(row['id']), clientId: String(row['clientId']), runId: String(row['runId']) }
    try {
      return store.transaction(() => checked(parts, due, token, laneId))
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
function checked(
  { application, accounts }: ClaimParts,
  { id, clientId, runId }: Due,
  token: string,
  laneId: string,
): Claimed[] {
  const { clock } = application
  const arrivals = application.arrivals.count()
  const slice = application.sliceOf(clientId, { ...onlyLiving, runIds: [runId] })
  const send = slice?.facts.sends.find((one) => one.id === id)
  if (!send || !slice) throw new Error(`Claimed, and not to be found: ${id}`)
  if (send.attempts > mostClaims) {
    settle(application, { send, token }, { state: 'failed', reason: noProgress, event: 'message failed' })
    return []
  }
  const verdict = checkAtSending(send, slice, clock.now())
  if (verdict.goes && verdict.message) {
    const composed = throughLane(application, accounts, id, verdict.message, laneId)
    if (composed) {
      fixDocuments(application, send, verdict.message, slice.facts)
      const message = noticedMessage(application, send, composed)
      return [{ send, token, arrivals, parcel: { kind: 'mail', message, through: laneId } }]
    }
    giveBack(application, { send, token })
    return []
  }
  if (verdict.goes && verdict.does.kind === 'web call') {
    return [{ send, token, arrivals, parcel: { kind: 'call', url: verdict.does.url } }]
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
