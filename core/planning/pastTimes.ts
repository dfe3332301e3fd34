import type { Booking } from '../model/booking.ts'
import { firstMomentUpTo } from './lateness.ts'
import type { PlannedSend } from './planStep.ts'
import { inWords, type StepFacts } from './runFacts.ts'

/*
 * What of a booking's earlier times still counts for a message: a move too small to count makes nothing late, and a
 * change undone while it settled leaves what fell due meanwhile for the next open moment.
 */

/** Since when a booking stands about where it does: moves too small to count are none. */
export function standsSince({ timesSetAt, history }: Booking): number {
  return history.nearby[0]?.setAt ?? timesSetAt
}

/** The booking as it was before its last move, where that was too small to count; null: it was not. */
export function beforeSmallMove(booking: Booking | null): Booking | null {
  const last = booking?.history.nearby.at(-1)
  if (!booking || !last) return null
  const shift = last.startAt - booking.startAt
  return {
    ...booking,
    startAt: last.startAt,
    endAt: last.endAt,
    sessions: booking.sessions.map(({ startAt, endAt }) => ({
      startAt: startAt + shift,
      endAt: endAt + shift,
    })),
    timesSetAt: last.setAt,
    history: { ...booking.history, nearby: booking.history.nearby.slice(0, -1) },
  }
}

function atFirstOpen(planned: PlannedSend, from: number, facts: StepFacts, why: string): PlannedSend {
  const open = firstMomentUpTo(facts.openTimes, from, planned.notAfter)
  const code = open === null ? 'no open moment' : 'first open moment'
  const sentence =
    open === null
      ? `${why}, but no open moment is left.`
      : `${why}: the first open moment is ${inWords(facts, open)}.`
  const line = { rule: 'undone', before: planned.ruledAt, after: open, code, sentence }
  const dropped = open === null ? { code, sentence } : null
  return { ...planned, dueAt: open, dropped, trace: [...planned.trace, line] }
}

/** Never late by a small move: what was still ahead before it goes at the first open moment. */
export function notLateByMove(
  planned: PlannedSend,
  before: PlannedSend | undefined,
  movedAt: number,
  facts: StepFacts,
): PlannedSend {
  const wasAhead = before?.dueAt != null && before.dueAt >= movedAt
  const isPast = planned.ruledAt !== null && planned.ruledAt < movedAt
  return wasAhead && isPast
    ? atFirstOpen(planned, movedAt, facts, 'A change too small to count made its moment pass')
    : planned
}

const hangsOnTimes = ({ timing }: StepFacts['step']) =>
  'anchor' in timing && (timing.anchor.of === 'booking start' || timing.anchor.of === 'booking end')

/** What fell due while a change had voided it that was then taken back goes at the first open moment after. */
export function dueMeanwhile(planned: PlannedSend, facts: StepFacts): PlannedSend {
  const undone = facts.booking?.history.undone ?? []
  return undone.reduce((one, { from, to, voided }) => {
    const wasVoid = voided === 'all' || hangsOnTimes(facts.step) || facts.run.startedOn === 'booking moved'
    const isMeanwhile = one.dueAt !== null && one.dueAt >= from && one.dueAt < to
    return wasVoid && isMeanwhile
      ? atFirstOpen(one, to, facts, 'It fell due while a change stood that was taken back')
      : one
  }, planned)
}
