import type { Booking } from '../model/booking.ts'
import {
  plannableStates,
  undecided,
  voidableStates,
  type Reason,
  type Send,
  type SendDecided,
  type SendState,
  type TraceLine,
} from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import { isMessage } from '../model/step.ts'
import { addressFor } from '../sequences/recipients.ts'
import type { PlannedSend } from './planStep.ts'
import { goesAgain, isSameMessage, perhapsToldStates } from './stored.ts'

export interface ReconcileContext {
  readonly now: number
  readonly newSendId: () => string
  readonly moveThresholdMinutes: number
  readonly messageIdOf: (sendId: string) => string
  readonly bookingOf: (run: Run) => Booking | null
  /** The first moment from now at which a planned message may go, up to its bound; null: none is left. */
  readonly nextMoment: (planned: PlannedSend) => number | null
  /** Which facts of an approved message have other values now; null: none. */
  readonly changedFacts: (send: Send, planned: PlannedSend) => Reason | null
  /** Since when what was voided counts as never voided: a change that was undone while it settled; null: none. */
  readonly undoneSince: number | null
}

const noAddress: Reason = {
  code: 'no address',
  sentence: 'There is no e-mail address to send it to.',
}
const noPhone: Reason = { code: 'no address', sentence: 'There is no telephone number to send it to.' }

interface Target {
  readonly state: SendState
  readonly reason: Reason | null
}

function targetOf(planned: PlannedSend, isHeldBack: boolean): Target {
  const { step, recipient } = planned
  if (planned.skipped) return { state: 'skipped', reason: planned.skipped }
  if (planned.dropped) return { state: 'dropped', reason: planned.dropped }
  if (planned.awaits) return { state: 'expected', reason: planned.awaits }
  if (isMessage(step) && addressFor(step, recipient) === null) {
    return { state: 'blocked', reason: step.kind === 'text message' ? noPhone : noAddress }
  }
  return { state: step.needsApproval || isHeldBack ? 'waiting' : 'ready', reason: null }
}

function letterOf({ step, recipient }: PlannedSend): string | null {
  return step.kind === 'mail' ? (recipient.letterId ?? step.letterId) : null
}

function plannedPart(planned: PlannedSend) {
  const { anchorValue, wantedAt, notBefore, notAfter, dueAt, trace, step, recipient, run } = planned
  return {
    anchorValue,
    wantedAt,
    notBefore,
    notAfter,
    dueAt,
    trace: [...trace],
    address: addressFor(step, recipient),
    letterId: letterOf(planned),
    purpose: step.purpose,
    sequenceVersion: run.version,
  }
}

function isUnchanged(send: Send, other: Send): boolean {
  return JSON.stringify(send) === JSON.stringify(other)
}

const mendedTooLate: Reason = {
  code: 'mended too late',
  sentence: 'What blocked it has been mended, but its time had passed by then.',
}

/** A planned send at the moment a person has put it off to, where its bounds allow that. */
function postponed(planned: PlannedSend, to: number | null): PlannedSend {
  if (to === null || planned.dueAt === null || (planned.notAfter !== null && to > planned.notAfter)) {
    return planned
  }
  const line: TraceLine = {
    rule: 'person',
    before: planned.dueAt,
    after: to,
    code: 'postponed',
    sentence: 'A person put it off to this moment.',
  }
  return { ...planned, dueAt: to, trace: [...planned.trace, line] }
}

/** A planned send whose moment is past through no fault of its own, at the first moment still open to it. */
function fromNow(planned: PlannedSend, context: ReconcileContext): PlannedSend {
  const at = context.nextMoment(planned)
  const code = at === null ? 'too late' : 'first open moment'
  const sentence =
    at === null
      ? 'What had voided it was undone, but no open moment is left.'
      : 'A change that had voided it was undone, or too small to count: the first open moment.'
  const line = { rule: 'undone', before: planned.dueAt, after: at, code, sentence }
  const dropped = at === null ? { code, sentence } : null
  return { ...planned, dueAt: at, dropped, trace: [...planned.trace, line] }
}

/** Whether a voided row counts as never voided: the change that voided it was undone while it settled. */
function wasUndone(send: Send, planned: PlannedSend, { undoneSince }: ReconcileContext): boolean {
  return (
    undoneSince !== null &&
    send.state === 'cancelled' &&
    send.stateSince >= undoneSince &&
    (planned.dueAt ?? 0) >= undoneSince
  )
}

/** What only the check at sending finds out: planning anew cannot know whether it has been mended. */
const foundAtSending: readonly string[] = ['missing field', 'unread letter', 'gone', 'no consent']

/** Blocked when its moment had come: it stays so until a person decides, however often it is planned anew. */
function staysBlocked(send: Send, { dueAt }: PlannedSend, { state }: Target, now: number): boolean {
  return (
    send.state === 'blocked' &&
    foundAtSending.includes(send.reason?.code ?? '') &&
    (state === 'ready' || state === 'waiting') &&
    dueAt !== null &&
    dueAt <= now
  )
}

function stateFor(send: Send, target: Target, isAhead: boolean, changed: Reason | null): Target {
  if (send.state === 'blocked' && target.state === 'ready' && !isAhead) {
    return { state: 'missed', reason: mendedTooLate }
  }
  if (send.state !== 'approved' || (target.state !== 'ready' && target.state !== 'waiting')) return target
  return changed ? { state: 'waiting', reason: changed } : { state: 'approved', reason: null }
}

/** The row a planned send already has, brought up to the present plan. Null: nothing changes. */
function updated(send: Send, found: PlannedSend, context: ReconcileContext): Send | null {
  const { now } = context
  const isOpen = plannableStates.includes(send.state)
  const canRevive = send.state === 'cancelled' || send.state === 'dropped'
  if (!isOpen && !canRevive) return null
  if (send.state === 'ready' && send.decision.isSentNow) return null
  // What was approved keeps the version it was approved in.
  if (send.state === 'approved' && send.sequenceVersion < found.run.version) return null
  const isPast = found.dueAt !== null && found.dueAt < now
  const revived = isPast && wasUndone(send, found, context) ? fromNow(found, context) : found
  const planned = postponed(revived, send.decision.postponedTo)
  const target = targetOf(planned, send.decision.isHeldBack)
  if (staysBlocked(send, planned, target, now)) return null
  const isAhead = planned.awaits !== null || (planned.dueAt !== null && planned.dueAt >= now)
  if (canRevive && target.state !== 'dropped' && target.state !== 'skipped' && !isAhead) return null
  if (send.state === 'dropped' && target.state === 'skipped') return null
  const changed = send.state === 'approved' ? context.changedFacts(send, planned) : null
  const aim = stateFor(send, target, isAhead, changed)
  const next = {
    ...send,
    ...plannedPart(planned),
    letterId: send.decision.letterId ?? letterOf(planned),
    state: aim.state,
    reason: aim.reason ?? (aim.state === send.state && send.state === 'waiting' ? send.reason : null),
    approvedFacts: aim.state === 'approved' ? send.approvedFacts : null,
    stateSince: aim.state === send.state ? send.stateSince : now,
  }
  return isUnchanged(send, next) ? null : next
}

function cancelled(send: Send, why: Reason, now: number): Send {
  return { ...send, state: 'cancelled', reason: why, approvedFacts: null, stateSince: now }
}

const approvedBefore: Reason = {
  code: 'facts changed',
  sentence: 'Approved before the booking was moved: it goes at another time now.',
}

/** What a person decided about the same message at its old time and that still holds: its words, and that it waits. */
function carriedOver(before: Send | undefined): SendDecided {
  if (!before) return undecided
  const { isHeldBack, personalLine, ownWords } = before.decision
  return { ...undecided, isHeldBack, personalLine, ownWords }
}

/** A new row. `before` is the same message for its old time, which the new one takes the place of. */
function inserted(planned: PlannedSend, context: ReconcileContext, before?: Send): Send {
  const { run, step } = planned
  const decision = carriedOver(before)
  const target = targetOf(planned, decision.isHeldBack)
  const asksAgain = target.state === 'waiting' && before?.state === 'approved'
  const id = context.newSendId()
  return {
    id,
    runId: run.id,
    sequenceId: run.sequenceId,
    stepId: step.id,
    occurrence: planned.occurrence,
    recipientId: planned.recipient.id,
    clientId: run.clientId,
    subject: run.subject,
    stepKind: step.kind,
    ...plannedPart(planned),
    ...(asksAgain ? { ...target, reason: approvedBefore } : target),
    messageId: context.messageIdOf(id),
    decision,
    approvedFacts: null,
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
  const { now, moveThresholdMinutes } = context
  const family = sends.filter((send) => isSameMessage(send, planned))
  // An unknown value is empty, and is filled in in the same row once it is known.
  const exact =
    family.find((send) => send.anchorValue === planned.anchorValue) ??
    family.find((send) => send.anchorValue === '' && send.state === 'expected')
  const others = family.filter((send) => send !== exact && voidableStates.includes(send.state))
  const voided = others.map((send) => cancelled(send, anchorMoved, now))
  if (exact) {
    const next = updated(exact, planned, context)
    return next ? [...voided, next] : voided
  }
  const told = family.some((send) => perhapsToldStates.includes(send.state))
  const isDueAgain =
    goesAgain(planned, context.bookingOf(planned.run), moveThresholdMinutes) && (planned.wantedAt ?? 0) >= now
  if (told && !isDueAgain) return voided
  // A change too small to count made its moment pass: what was still ahead before it is not late by that.
  const wasAhead = others.some(({ dueAt }) => dueAt !== null && dueAt >= now)
  const isPassed = wasAhead && planned.dueAt !== null && planned.dueAt < now
  const before = others.findLast(({ state }) => plannableStates.includes(state))
  return [...voided, inserted(isPassed ? fromNow(planned, context) : planned, context, before)]
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
  const isKept = (send: Send) =>
    run.state === 'running' && send.state === 'approved' && send.sequenceVersion < run.version
  const orphans = own.filter(
    (send) =>
      voidableStates.includes(send.state) &&
      !isKept(send) &&
      !planned.some((one) => isSameMessage(send, one)),
  )
  const why: Reason = { code: 'stopped', sentence: run.stoppedReason ?? 'It is no longer part of the plan.' }
  return [...changes, ...orphans.map((send) => cancelled(send, why, context.now))]
}
