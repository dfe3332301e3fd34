import type { Send, SendState } from '../model/send.ts'
import { rulesOf } from '../sequences/purposes.ts'
import { minuteMs } from '../time/calendar.ts'
import type { PlannedSend } from './planStep.ts'

/** States in which a message has reached its recipient or may have. */
export const perhapsToldStates: readonly SendState[] = ['sending', 'sent', 'bounced', 'in doubt']

/** Whether a stored send is of the same step, occurrence and recipient, whatever its anchor's value. */
export function isSameMessage(send: Send, planned: PlannedSend): boolean {
  return (
    send.runId === planned.run.id &&
    send.stepId === planned.step.id &&
    send.occurrence === planned.occurrence &&
    send.recipientId === planned.recipient.id
  )
}

/** The stored send a planned one has already: its own row, for the present value of its anchor. */
export function ownRow(planned: PlannedSend, sends: readonly Send[]): Send | undefined {
  return sends.find((send) => send.anchorValue === planned.anchorValue && isSameMessage(send, planned))
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

/**
 * Whether what went for an earlier value of its anchor is due once more for the present one: its step says so, and
 * a booking has moved far enough from what the client was told.
 */
export function goesAgain(
  planned: PlannedSend,
  booking: ToldTimes | null,
  thresholdMinutes: number,
): boolean {
  if (rulesOf(planned.step).ifMoved === 'leave') return false
  const { timing } = planned.step
  const isOfTimes = 'anchor' in timing && ['booking start', 'booking end'].includes(timing.anchor.of)
  return !isOfTimes || booking === null || shiftFromTold(booking) >= thresholdMinutes * minuteMs
}

/**
 * The stored send that answers for a planned one: its own row, else one that went for an earlier value and is not
 * due again.
 */
export function answeringRow(
  planned: PlannedSend,
  sends: readonly Send[],
  booking: ToldTimes | null,
  thresholdMinutes: number,
): Send | undefined {
  const own = ownRow(planned, sends)
  if (own) return own
  const gone = sends.findLast(
    (send) => perhapsToldStates.includes(send.state) && isSameMessage(send, planned),
  )
  return gone && !goesAgain(planned, booking, thresholdMinutes) ? gone : undefined
}
