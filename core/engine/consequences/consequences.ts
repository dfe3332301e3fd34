import { done, type Result } from '../../model/problem.ts'
import { difference, type Change } from '../../planning/difference.ts'
import type { Slice } from '../../planning/slice.ts'
import type { EngineContext } from '../context.ts'
import { settingsWithEffects, withEffects, type Effect } from '../effects.ts'
import { endSettling } from '../following/bookingSettling.ts'
import { endTagSettling, pendingTags } from '../following/tagSettling.ts'

/** A context for asking only: its ids are made up and never stored. Asked within another, it names things otherwise. */
export function hypothetical(now: number, within = 'hypothetical'): EngineContext {
  let count = 0
  return { now, personId: null, newId: (prefix) => `${prefix}_${within}-${(count += 1)}` }
}

/** Everything of a client that is settling: when it ends, and what that brings about. */
function settlings({ settings, facts }: Slice, now: number) {
  const bookings = facts.bookings.flatMap(({ id, settling }) =>
    settling ? [{ until: settling.until, end: endSettling, key: id }] : [],
  )
  const tags = pendingTags({ settings, facts }, now).map(({ key, until }) => ({
    until,
    end: endTagSettling,
    key,
  }))
  return [...bookings, ...tags].sort((one, other) => one.until - other.until)
}

/** A client once all that is settling now has settled: what sequences on the net changes send is part of the answer. */
export function settledSoon(slice: Slice, now: number): Slice {
  const context = hypothetical(now, 'settled')
  return settlings(slice, now).reduce((present: Slice, { until, end, key }) => {
    const effects = end(present, key, { ...context, now: Math.max(now, until) })
    return { settings: present.settings, facts: withEffects(present.facts, effects) }
  }, slice)
}

/**
 * What changes between two states of a client, each once it has settled: what the first was going to bring about is
 * no consequence of what lies between them.
 */
export function settledDifference(before: Slice, after: Slice, now: number): readonly Change[] {
  return difference(settledSoon(before, now), settledSoon(after, now))
}

/** What an act would bring about, by the real planner, with nothing done. */
export function consequencesOf(
  slice: Slice,
  decided: Result<readonly Effect[]>,
  now: number,
): Result<readonly Change[]> {
  if (!decided.ok) return decided
  const settings = settingsWithEffects(slice.settings, decided.value)
  const after = { settings, facts: withEffects(slice.facts, decided.value) }
  return done(settledDifference(slice, after, now))
}
