import { done, type Result } from '../model/problem.ts'
import { plannableStates, type Send } from '../model/send.ts'
import { difference, type Change } from '../planning/difference.ts'
import type { Slice } from '../planning/slice.ts'
import type { EngineContext } from './context.ts'
import { withEffects, type Effect } from './effects.ts'
import { endSettling } from './settling.ts'

/** What an act would bring about, by the real planner, with nothing done. */
export function consequencesOf(slice: Slice, decided: Result<readonly Effect[]>): Result<readonly Change[]> {
  if (!decided.ok) return decided
  const after = withEffects(slice.facts, decided.value)
  return done(difference(slice.facts.sends, after.sends))
}

/**
 * What an act on a booking would bring about, its settle time over: what sequences on the net change would send is
 * part of the answer.
 */
export function consequencesOnBooking(
  slice: Slice,
  bookingId: string,
  decided: Result<readonly Effect[]>,
  context: EngineContext,
): Result<readonly Change[]> {
  if (!decided.ok) return decided
  const facts = withEffects(slice.facts, decided.value)
  const until = facts.bookings.find(({ id }) => id === bookingId)?.settling?.until
  const settled =
    until === undefined ? [] : endSettling({ ...slice, facts }, bookingId, { ...context, now: until })
  const after = withEffects(slice.facts, [...decided.value, ...settled])
  const sends = after.sends.map((send) => settledSend(send, bookingId, until))
  return done(difference(slice.facts.sends, sends))
}

/** A message about a booking as it goes: not while that settles. */
function settledSend(send: Send, bookingId: string, until: number | undefined): Send {
  const isAhead = plannableStates.includes(send.state) && send.dueAt !== null
  if (until === undefined || !isAhead || send.subject.id !== bookingId) return send
  return { ...send, dueAt: Math.max(send.dueAt ?? until, until) }
}

/** A context for asking only: its ids are made up and never stored. */
export function hypothetical(now: number): EngineContext {
  let count = 0
  return { now, personId: null, newId: (prefix) => `${prefix}_hypothetical-${(count += 1)}` }
}
