import type { Booking } from '../model/booking.ts'
import type { Send } from '../model/send.ts'
import { endedStates, perhapsToldStates, plannableStates } from '../model/sendState.ts'
import { rulesOf } from '../sequences/purposes.ts'
import type { PlannedSend } from './planStep.ts'

/*
 * What of the stored sends counts for a plan: what went, and what has ended by a person or because its time was over.
 * That is history. What a rule dropped and what became void are records for people; no plan is made from them.
 */

export const hasGone = ({ state }: Send): boolean => perhapsToldStates.includes(state)
export const hasEnded = ({ state }: Send): boolean => endedStates.includes(state)
export const isOpen = ({ state }: Send): boolean => plannableStates.includes(state)

/** Whether a stored send is of the same step, occurrence and recipient, whatever its anchor's value. */
export function isSameMessage(send: Send, planned: PlannedSend): boolean {
  return (
    send.runId === planned.run.id &&
    send.stepId === planned.step.id &&
    send.occurrence === planned.occurrence &&
    send.recipientId === planned.recipient.id
  )
}

interface ToldTimes {
  readonly startAt: number
  readonly endAt: number
  readonly told: { readonly startAt: number; readonly endAt: number }
}

/** How far a booking lies from what the client was last told, in milliseconds: the larger change of start and end. */
export function shiftFromTold({ startAt, endAt, told }: ToldTimes): number {
  return Math.max(Math.abs(startAt - told.startAt), Math.abs(endAt - told.endAt))
}

/** The anchor's values before moves too small to count, as parts of keys: a message for one of them is the same message. */
function nearbyValues({ step, anchorValue }: PlannedSend, booking: Booking | null): readonly string[] {
  const { timing } = step
  if (!booking || !('anchor' in timing)) return []
  const { of } = timing.anchor
  if (of !== 'booking start' && of !== 'booking end') return []
  const isEnd = of === 'booking end' && booking.sessions.length === 0
  return booking.history.nearby.map(({ startAt, endAt }) => {
    const shift = isEnd ? endAt - booking.endAt : startAt - booking.startAt
    return String(Number(anchorValue) + shift)
  })
}

/**
 * Whether what went for an earlier value of its anchor is due once more for the present one: its step says so, it went
 * before a change that counts, and the new wanted time was still ahead then.
 */
function goesAgain(planned: PlannedSend, gone: Send): boolean {
  const { againSince, wantedAt, step } = planned
  if (rulesOf(step).ifMoved === 'leave' || againSince === null || wantedAt === null) return false
  return (gone.sentAt ?? gone.stateSince) < againSince && wantedAt >= againSince
}

/** Ended by the check in the moment of sending, and nothing has given it a later moment since. */
function isFinal({ state, decision, stateSince }: Send, { dueAt }: PlannedSend): boolean {
  return state === 'cancelled' && decision.isEndedAtSending && (dueAt === null || dueAt <= stateSince)
}

/**
 * The stored send that answers for a planned one, so that nothing is planned beside it: its own or one for times that
 * lie too near to count, where that has gone or ended; else one that went for an earlier value and is not due again.
 * `rows` are those of its step, occurrence and recipient in its run.
 */
export function answerOf(
  planned: PlannedSend,
  rows: readonly Send[],
  booking: Booking | null,
): Send | undefined {
  if (rows.length === 0) return undefined
  const counts = (send: Send) => hasGone(send) || hasEnded(send) || isFinal(send, planned)
  const own = rows.find((send) => send.anchorValue === planned.anchorValue && counts(send))
  if (own) return own
  const near = nearbyValues(planned, booking)
  const alike = rows.findLast((send) => near.includes(send.anchorValue) && counts(send))
  if (alike) return alike
  const gone = rows.findLast(hasGone)
  return gone && !goesAgain(planned, gone) ? gone : undefined
}

/** Whether a message stands for the present value of its anchor, or for one that lies too near to count. */
export function isForPresent(send: Send, planned: PlannedSend, booking: Booking | null): boolean {
  return send.anchorValue === planned.anchorValue || nearbyValues(planned, booking).includes(send.anchorValue)
}

/** Whether a row that a change had voided or dropped counts as never so: the change was undone while it settled. */
export function isVoidUndone(send: Send, booking: Booking | null): boolean {
  const isEnded = send.state === 'cancelled' || send.state === 'dropped'
  if (!isEnded || send.decision.voidedFrom === null || !booking) return false
  return booking.history.undone.some(({ from, to }) => send.stateSince >= from && send.stateSince <= to)
}
