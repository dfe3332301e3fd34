import { done, type Result } from '../model/problem.ts'
import { difference, type Change } from '../planning/difference.ts'
import type { Slice } from '../planning/slice.ts'
import type { EngineContext } from './context.ts'
import { withEffects, type Effect } from './effects.ts'

/** What an act would bring about, by the real planner, with nothing done. */
export function consequencesOf(slice: Slice, decided: Result<readonly Effect[]>): Result<readonly Change[]> {
  if (!decided.ok) return decided
  const after = withEffects(slice.facts, decided.value)
  return done(difference(slice.facts.sends, after.sends))
}

/** A context for asking only: its ids are made up and never stored. */
export function hypothetical(now: number): EngineContext {
  let count = 0
  return { now, personId: null, newId: (prefix) => `${prefix}_hypothetical-${(count += 1)}` }
}
