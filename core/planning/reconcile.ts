import { settlesUntil, type Booking } from '../model/booking.ts'
import type { ApprovedWords } from '../model/letter.ts'
import { undecided, type Reason, type Send, type SendDecided, type TraceLine } from '../model/send.ts'
import { voidableStates, type SendState } from '../model/sendState.ts'
import type { Run } from '../model/sequence.ts'
import { whyAskedAgain, whyLeftOut, whyThen } from './reasons.ts'
import { addressFor, type Recipient } from '../sequences/recipients.ts'
import { hasEnded, isOpen, isSameMessage, isVoidUndone } from './answers.ts'
import { firstMomentUpTo } from './lateness.ts'
import type { PlannedSend } from './planStep.ts'

export interface ReconcileContext {
  readonly now: number
  readonly newSendId: () => string
  readonly messageIdOf: (sendId: string) => string
  /** The booking a run is about, as its subject or that of its invoice; null: none. */
  readonly bookingOf: (run: Run) => Booking | null
  /** Which facts of an approved message have other values now; null: none. */
  readonly changedFacts: (send: Send) => Reason | null
  /** A recipient as they are to be reached at a moment; null: it is not known yet. */
  readonly reached: (recipient: Recipient, at: number | null) => Recipient
  /** That the letter of an approved message says something else by now; null: it does not. */
  readonly keptWords: (send: Send) => Reason | null
  /** What is known by now to stop a message in the moment of sending; null: nothing. */
  readonly foreseen: (
    planned: PlannedSend,
    letterId: string | null,
    words: Pick<SendDecided, 'ownWords' | 'personalLine'> & { readonly approved: ApprovedWords | null },
  ) => Reason | null
}

interface Target {
  readonly state: SendState
  readonly reason: Reason | null
}

function letterOf({ step, recipient }: PlannedSend): string | null {
  return step.kind === 'mail' ? (recipient.letterId ?? step.letterId) : null
}

function targetOf(
  planned: PlannedSend,
  decision: SendDecided,
  approved: ApprovedWords | null,
  context: ReconcileContext,
): Target {
  const { skipped, dropped, voided, awaits, step } = planned
  if (skipped) return { state: 'skipped', reason: { code: skipped.code, sentence: skipped.sentence } }
  if (dropped) return { state: 'dropped', reason: dropped }
  if (voided) return { state: 'cancelled', reason: { code: voided.code, sentence: voided.sentence } }
  // An arm nobody has chosen yet may never be taken: what would be in its way is no trouble.
  const isChosen = awaits?.code !== 'branch'
  const inTheWay =
    isChosen && context.foreseen(planned, decision.letterId ?? letterOf(planned), { ...decision, approved })
  if (inTheWay) return { state: 'blocked', reason: inTheWay }
  if (awaits) return { state: 'expected', reason: awaits }
  const { held } = planned.run
  if (held) return { state: 'waiting', reason: whyAskedAgain.runHeld(held.reason) }
  return { state: step.needsApproval || decision.isHeldBack ? 'waiting' : 'ready', reason: null }
}

function plannedPart(planned: PlannedSend, { reached }: ReconcileContext) {
  const { anchorValue, wantedAt, notBefore, notAfter, trace, step, recipient, run } = planned
  // What is left out at its moment keeps that.
  const dueAt = planned.skipped ? planned.estimateAt : planned.dueAt
  return {
    anchorValue,
    wantedAt,
    notBefore,
    notAfter,
    dueAt,
    trace: [...trace],
    address: addressFor(step, reached(recipient, dueAt)),
    letterId: letterOf(planned),
    purpose: step.purpose,
    sequenceVersion: run.version,
  }
}

/** Whether two of the same row say the same; what was read from a store can have its parts in another order. */
function isUnchanged(send: Send, other: Send): boolean {
  const parts = Object.keys(other) as (keyof Send)[]
  return parts.every(
    (part) => send[part] === other[part] || JSON.stringify(send[part]) === JSON.stringify(other[part]),
  )
}

function withLine(planned: PlannedSend, line: TraceLine, dueAt: number | null): PlannedSend {
  const dropped = dueAt === null ? { code: line.code, sentence: line.sentence } : planned.dropped
  return { ...planned, dueAt, dropped, trace: [...planned.trace, line] }
}

/** A planned send at the moment a person has put it off to, where its bounds allow that. */
function postponed(planned: PlannedSend, to: number | null): PlannedSend {
  const { dueAt, notAfter } = planned
  if (to === null || dueAt === null || (notAfter !== null && to > notAfter)) return planned
  return withLine(planned, { rule: 'person', before: dueAt, after: to, ...whyThen.putOff }, to)
}

/** It stands at its own time until a person has spoken, however long that takes. */
function waitsForPerson({ step, run }: PlannedSend, { isHeldBack }: SendDecided, was?: SendState): boolean {
  return (step.needsApproval || isHeldBack || run.held !== null) && was !== 'approved'
}

/** While its booking settles a message that would go waits for the end of that, and then goes up to its bound. */
function settled(
  planned: PlannedSend,
  booking: Booking | null,
  decision: SendDecided,
  was?: SendState,
): PlannedSend {
  const { dueAt, notAfter } = planned
  const until = settlesUntil(booking, dueAt)
  if (until === null || waitsForPerson(planned, decision, was)) return planned
  const isTooLate = notAfter !== null && until > notAfter
  const after = isTooLate ? null : until
  const why = isTooLate ? whyLeftOut.settlesTooLate : whyThen.settles
  return withLine(planned, { rule: 'settling', before: dueAt, after, ...why }, after)
}

/** A planned send whose moment is past through no fault of its own, at the first moment still open to it. */
function fromNow(planned: PlannedSend, { now }: ReconcileContext, was?: SendState): PlannedSend {
  const after = firstMomentUpTo(planned.openTimes, now, planned.notAfter)
  const open = was === 'approved' ? whyThen.approvedLate : whyThen.madePast
  const none = was === 'approved' ? whyLeftOut.approvedTooLate : whyLeftOut.madePast
  const line = { rule: 'changed', before: planned.dueAt, after, ...(after === null ? none : open) }
  return withLine(planned, line, after)
}

/** What persons said of a message stays in the answer to "why then?"; a postponement is told by the plan itself. */
function wordsOfPersons({ trace }: Send): readonly TraceLine[] {
  return trace.filter(({ rule, code }) => rule === 'person' && code !== 'postponed')
}

/** Put off after it was planned: by the allowance, its booking settling, downtime, a change, a server that asked to wait. */
function isPutOff({ trace, reason }: Send): boolean {
  const last = trace.findLast(({ rule }) => rule !== 'person')?.rule ?? ''
  return ['allowance', 'settling', 'downtime', 'changed'].includes(last) || reason?.code === 'later'
}

/** The plan's moment is past, and the row stands for a later one. */
function isLaterThan({ dueAt }: Send, planned: PlannedSend, now: number): boolean {
  return planned.dueAt !== null && planned.dueAt < now && dueAt !== null && dueAt > planned.dueAt
}

/** The moment a row stood for is still ahead, and the plan's is past. */
function hasSlipped(send: Send, planned: PlannedSend, now: number): boolean {
  return planned.dueAt !== null && planned.dueAt < now && send.dueAt !== null && send.dueAt >= now
}

/** Whether a message whose moment is past can go no more: by itself, or once a person had approved it. */
function isOver({ openTimes, notAfter }: PlannedSend, { state }: Target, { now }: ReconcileContext): boolean {
  if (state === 'waiting') return firstMomentUpTo(openTimes, now, notAfter) === null
  return state === 'ready'
}

interface Standing {
  readonly planned: PlannedSend
  readonly target: Target
  readonly isAhead: boolean
}

/** What a row was before this planning, and why its approval no longer stands (null: it does, or there was none). */
interface Past {
  readonly was: SendState
  readonly lapsed: Reason | null
  /** That it keeps words its letter no longer says; null: it says the same. */
  readonly kept: Reason | null
}

/** An approval whose facts have changed stands no longer: from here on the row is one that waits. */
function pastOf(state: SendState, send: Send, found: PlannedSend, context: ReconcileContext): Past {
  const isOther =
    send.approvedWords !== null && send.approvedWords.letterId !== (send.decision.letterId ?? letterOf(found))
  const why = isOther ? whyAskedAgain.otherLetter : null
  const lapsed = state === 'approved' ? (why ?? context.changedFacts(send)) : null
  if (lapsed) return { was: 'waiting', lapsed, kept: null }
  return { was: state, lapsed, kept: state === 'approved' ? context.keptWords(send) : null }
}

function stateFor(
  { was, lapsed, kept }: Past,
  { planned, target, isAhead }: Standing,
  context: ReconcileContext,
): Target {
  if (was === 'blocked' && !isAhead && isOver(planned, target, context)) {
    return { state: 'missed', reason: whyLeftOut.mendedTooLate }
  }
  if (target.state !== 'ready' && target.state !== 'waiting') return target
  if (lapsed) return { state: 'waiting', reason: lapsed }
  return was === 'approved' ? { state: 'approved', reason: kept } : target
}

/** States in which a row that a change had voided and that stands again is as it was. */
function restored(send: Send, now: number): Send | null {
  const { voidedFrom } = send.decision
  if (voidedFrom === null || !hasEnded({ ...send, state: voidedFrom })) return null
  const sentence = 'A change that had voided it was taken back.'
  const decision = { ...send.decision, voidedFrom: null }
  return { ...send, state: voidedFrom, decision, reason: { code: 'undone', sentence }, stateSince: now }
}

/** What may become of a row that a rule had dropped or a change had voided. */
function mayRevive(send: Send, { state, reason }: Target, isAhead: boolean): boolean {
  // That its moment has passed since is no news of what is void already.
  if (state === 'dropped') return send.state === 'cancelled' && reason?.code !== 'past'
  return state !== 'skipped' && state !== 'cancelled' && isAhead
}

/** The state a row that a rule drops had before, in case what brought that about is undone. */
const droppedFrom = (send: Send) => (isOpen(send) ? send.state : send.decision.voidedFrom)

/** An approved row that stays as it is: only what is said of its words can change. */
function withKept(send: Send, context: ReconcileContext): Send | null {
  const next = { ...send, reason: context.keptWords(send) }
  return isUnchanged(send, next) ? null : next
}

/** The row a planned send already has, brought up to the present plan. Null: nothing changes. */
function updated(send: Send, found: PlannedSend, context: ReconcileContext): Send | null {
  const { now } = context
  const booking = context.bookingOf(found.run)
  const isUndone = isVoidUndone(send, booking)
  if (found.voided && voidableStates.includes(send.state)) return cancelled(send, found.voided, now)
  if (!isOpen(send) && send.state !== 'cancelled' && send.state !== 'dropped') return null
  if (send.state === 'ready' && send.decision.isSentNow) return null
  // What was approved keeps the version it was approved in.
  if (send.state === 'approved' && send.sequenceVersion < found.run.version) return withKept(send, context)
  const asItWas = isUndone ? restored(send, now) : null
  if (asItWas) return asItWas
  // Where the void is undone, the row stands again as it stood, and for the moment it stood for.
  const stood = isUndone ? { ...send, state: send.decision.voidedFrom ?? send.state } : send
  const past = pastOf(stood.state, send, found, context)
  const { was } = past
  const isStanding = isOpen(send) || isUndone
  const postponedTo = isStanding ? send.decision.postponedTo : null
  const decision = { ...send.decision, postponedTo, voidedFrom: null, isEndedAtSending: false }
  const put = postponed(found, postponedTo)
  const isGoing = isOpen(stood) && !isPutOff(send) && !waitsForPerson(put, decision, was)
  const isLate = isGoing && hasSlipped(send, put, now)
  const planned = settled(isLate ? fromNow(put, context, was) : put, booking, decision, was)
  const target = targetOf(planned, decision, was === 'approved' ? send.approvedWords : null, context)
  const isAhead = planned.awaits !== null || (planned.dueAt !== null && planned.dueAt >= now)
  if (!isStanding && !mayRevive(send, target, isAhead)) return null
  const aim = stateFor(past, { planned, target, isAhead }, context)
  if (aim.state === 'cancelled') return cancelled(send, aim.reason ?? whyLeftOut.oldTime, now)
  // What was put off on its way keeps the moment it was put off to.
  const isKept = isOpen(stood) && isPutOff(send) && isLaterThan(send, planned, now)
  const next: Send = {
    ...send,
    ...plannedPart(planned, context),
    trace: [...planned.trace, ...wordsOfPersons(send)],
    ...(isKept ? { dueAt: send.dueAt, trace: send.trace } : {}),
    decision: aim.state === 'dropped' ? { ...decision, voidedFrom: droppedFrom(send) } : decision,
    letterId: decision.letterId ?? letterOf(planned),
    state: aim.state,
    reason:
      aim.reason ?? (isKept || (aim.state === send.state && send.state === 'waiting') ? send.reason : null),
    approvedFacts: aim.state === 'approved' ? send.approvedFacts : null,
    approvedWords: aim.state === 'approved' ? send.approvedWords : null,
    stateSince: aim.state === send.state ? send.stateSince : now,
  }
  return isUnchanged(send, next) ? null : next
}

/** A row that has become void; what a person had approved and decided stays noted, in case that is undone. */
export function cancelled(send: Send, why: Reason, now: number): Send {
  const decision = { ...send.decision, voidedFrom: send.state }
  const reason = { code: why.code, sentence: why.sentence }
  return { ...send, state: 'cancelled', reason, decision, stateSince: now }
}

/** What a person decided about the same message at its old time and that still holds: its words, and that it waits. */
function carriedOver(before: Send | undefined): SendDecided {
  if (!before) return undecided
  const { isHeldBack, personalLine, ownWords } = before.decision
  return { ...undecided, isHeldBack, personalLine, ownWords }
}

/** A new row. `before` is the same message for its old time, which the new one takes the place of. */
function inserted(found: PlannedSend, context: ReconcileContext, before?: Send): Send {
  const { run, step } = found
  const decision = carriedOver(before)
  const planned = settled(found, context.bookingOf(run), decision)
  const target = targetOf(planned, decision, null, context)
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
    ...plannedPart(planned, context),
    ...(asksAgain ? { ...target, reason: whyAskedAgain.moved } : target),
    messageId: context.messageIdOf(id),
    decision,
    approvedFacts: null,
    approvedWords: null,
    attempts: 0,
    sentAt: null,
    stateSince: context.now,
  }
}

function reconcileOne(
  planned: PlannedSend,
  sends: readonly Send[],
  context: ReconcileContext,
): readonly Send[] {
  const { now } = context
  const { answer } = planned
  const family = sends.filter((send) => isSameMessage(send, planned))
  // An unknown value is empty, and is filled in in the same row once it is known.
  const exact =
    family.find((send) => send.anchorValue === planned.anchorValue) ??
    family.find((send) => send.anchorValue === '' && send.state === 'expected')
  const others = family.filter(
    (send) => send !== exact && send.id !== answer?.id && voidableStates.includes(send.state),
  )
  const voided = others.map((send) => cancelled(send, whyLeftOut.oldTime, now))
  if (answer) {
    const own =
      exact && exact.id !== answer.id && isOpen(exact) ? [cancelled(exact, whyLeftOut.oldTime, now)] : []
    return [...voided, ...own]
  }
  if (exact) {
    const next = updated(exact, planned, context)
    return next ? [...voided, next] : voided
  }
  // What has never stood for any value leaves no trace where its moment had passed before.
  if (planned.voided || (planned.dropped?.code === 'past' && family.length === 0)) return voided
  const before = others.findLast(isOpen)
  const isPassed = before !== undefined && hasSlipped(before, planned, now)
  return [...voided, inserted(isPassed ? fromNow(planned, context) : planned, context, before)]
}

/**
 * The rows of one run that have to change so that the outbox says what the plan says. A send is updated
 * under its key, never inserted beside it; one that is being sent or has gone is left alone. `own` are those stored.
 */
export function reconcile(
  run: Run,
  planned: readonly PlannedSend[],
  own: readonly Send[],
  context: ReconcileContext,
): readonly Send[] {
  const changes = planned.flatMap((one) => reconcileOne(one, own, context))
  const isKept = (send: Send) =>
    run.state === 'running' && send.state === 'approved' && send.sequenceVersion < run.version
  const orphans = own.filter(
    (send) =>
      voidableStates.includes(send.state) &&
      !isKept(send) &&
      !planned.some((one) => isSameMessage(send, one)),
  )
  const why = whyLeftOut.stopped(run.stoppedReason)
  return [...changes, ...orphans.map((send) => cancelled(send, why, context.now))]
}
