import { plannableStates, voidableStates, type Reason, type Send, type SendState } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import { rulesOf } from '../sequences/purposes.ts'
import { minuteMs } from '../time/calendar.ts'
import type { PlannedSend } from './planStep.ts'

export interface ReconcileContext {
  readonly now: number
  readonly newSendId: () => string
  readonly moveThresholdMinutes: number
  readonly messageIdOf: (sendId: string) => string
}

const isSameMessage = (send: Send, planned: PlannedSend) =>
  send.stepId === planned.step.id &&
  send.occurrence === planned.occurrence &&
  send.contactId === planned.contact.id

/** States in which a message has reached the client or may have. */
const perhapsToldStates: readonly SendState[] = ['sending', 'sent', 'in doubt']

const noAddress: Reason = {
  code: 'no address',
  sentence: 'There is no e-mail address to send it to.',
}

function targetOf(planned: PlannedSend): { state: SendState; reason: Reason | null } {
  if (planned.dropped) return { state: 'dropped', reason: planned.dropped }
  if (planned.awaits) return { state: 'expected', reason: planned.awaits }
  if (planned.contact.email === null) return { state: 'blocked', reason: noAddress }
  return { state: planned.step.needsApproval ? 'waiting' : 'ready', reason: null }
}

function plannedPart(planned: PlannedSend) {
  const { anchorValue, wantedAt, notBefore, notAfter, dueAt, trace } = planned
  return {
    anchorValue,
    wantedAt,
    notBefore,
    notAfter,
    dueAt,
    trace: [...trace],
    address: planned.contact.email,
  }
}

function isUnchanged(send: Send, other: Send): boolean {
  return JSON.stringify(send) === JSON.stringify(other)
}

const mendedTooLate: Reason = {
  code: 'mended too late',
  sentence: 'What blocked it has been mended, but its time had passed by then.',
}

/** The row a planned send already has, brought up to the present plan. Null: nothing changes. */
function updated(send: Send, planned: PlannedSend, now: number): Send | null {
  const isOpen = plannableStates.includes(send.state)
  const canRevive = send.state === 'cancelled' || send.state === 'dropped'
  if (!isOpen && !canRevive) return null
  const target = targetOf(planned)
  const isAhead = planned.awaits !== null || (planned.dueAt !== null && planned.dueAt >= now)
  if (canRevive && target.state !== 'dropped' && !isAhead) return null
  const isMended = send.state === 'blocked' && target.state === 'ready' && !isAhead
  const aim: { state: SendState; reason: Reason | null } = isMended
    ? { state: 'missed', reason: mendedTooLate }
    : target
  const state = aim.state === 'ready' && send.state === 'approved' ? 'approved' : aim.state
  const next = {
    ...send,
    ...plannedPart(planned),
    state,
    reason: aim.reason,
    stateSince: state === send.state ? send.stateSince : now,
  }
  return isUnchanged(send, next) ? null : next
}

function cancelled(send: Send, why: Reason, now: number): Send {
  return { ...send, state: 'cancelled', reason: why, stateSince: now }
}

/** Whether a message that went for an earlier value of its anchor is due again for the present one. */
function isDueAgain(told: readonly Send[], planned: PlannedSend, context: ReconcileContext): boolean {
  if (rulesOf(planned.step).ifMoved === 'leave' || (planned.wantedAt ?? 0) < context.now) return false
  const lastTold = told.reduce((latest, one) => ((one.sentAt ?? 0) > (latest.sentAt ?? 0) ? one : latest))
  const shift = Math.abs(Number(planned.anchorValue) - Number(lastTold.anchorValue))
  return shift >= context.moveThresholdMinutes * minuteMs
}

function inserted(planned: PlannedSend, context: ReconcileContext): Send {
  const { run, step } = planned
  const id = context.newSendId()
  return {
    id,
    runId: run.id,
    sequenceId: run.sequenceId,
    sequenceVersion: run.version,
    stepId: step.id,
    occurrence: planned.occurrence,
    contactId: planned.contact.id,
    clientId: run.clientId,
    subject: run.subject,
    letterId: step.letterId,
    purpose: step.purpose,
    ...plannedPart(planned),
    ...targetOf(planned),
    messageId: context.messageIdOf(id),
    attempts: 0,
    sentAt: null,
    stateSince: context.now,
  }
}

const anchorMoved: Reason = {
  code: 'moved',
  sentence: 'The booking was moved; this was planned for its old time.',
}

function reconcileOne(
  planned: PlannedSend,
  sends: readonly Send[],
  context: ReconcileContext,
): readonly Send[] {
  const family = sends.filter((send) => isSameMessage(send, planned))
  // An unknown value is empty, and is filled in in the same row once it is known.
  const exact =
    family.find((send) => send.anchorValue === planned.anchorValue) ??
    family.find((send) => send.anchorValue === '' && send.state === 'expected')
  const voided = family
    .filter((send) => send !== exact && voidableStates.includes(send.state))
    .map((send) => cancelled(send, anchorMoved, context.now))
  if (exact) {
    const next = updated(exact, planned, context.now)
    return next ? [...voided, next] : voided
  }
  const told = family.filter((send) => perhapsToldStates.includes(send.state))
  if (told.length > 0 && !isDueAgain(told, planned, context)) return voided
  return [...voided, inserted(planned, context)]
}

/**
 * The rows of one run that have to change so that the outbox says what the plan says. A send is updated
 * under its key, never inserted beside it; one that is being sent or has gone is left alone.
 */
export function reconcile(
  run: Run,
  planned: readonly PlannedSend[],
  existing: readonly Send[],
  context: ReconcileContext,
): readonly Send[] {
  const own = existing.filter((send) => send.runId === run.id)
  const changes = planned.flatMap((one) => reconcileOne(one, own, context))
  const orphans = own.filter(
    (send) => voidableStates.includes(send.state) && !planned.some((one) => isSameMessage(send, one)),
  )
  const why: Reason = { code: 'stopped', sentence: run.stoppedReason ?? 'It is no longer part of the plan.' }
  return [...changes, ...orphans.map((send) => cancelled(send, why, context.now))]
}
