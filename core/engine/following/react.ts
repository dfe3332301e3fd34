import type { Event } from '../../model/event.ts'
import { isStartEvent, startTraits, type StartEvent } from '../../model/startEvent.ts'
import type { Slice } from '../../planning/slice.ts'
import type { Trigger } from '../../sequences/startRules.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { invoicesFollowing } from './invoicing.ts'
import { replan } from './replan.ts'
import { startedRuns } from './startRuns.ts'
import type { Undoing } from './bookingSettling.ts'
import { heldRuns, resumedRuns, stoppedRuns, voidsEarlierMove } from './stopRuns.ts'
import { tagSettles } from './tagSettling.ts'

export type Starting = Trigger & { readonly on: StartEvent }

function triggerOf({ kind, name, at, clientId, subject }: Event): Trigger | null {
  const stops = kind === 'answered' || kind === 'opted out' ? kind : null
  const on = isStartEvent(kind) ? kind : stops
  return on === null || clientId === null ? null : { on, name, at, clientId, subject }
}

function isStarting(trigger: Trigger): trigger is Starting {
  return isStartEvent(trigger.on)
}

/** What is special about a change beside its facts. */
export interface Manner {
  /** Changes that have settled by now. */
  readonly settled?: readonly Starting[]
  /** A correction of what has been: nothing starts because of it. */
  readonly startsNothing?: boolean
  /** It undoes, within its settle time, an earlier change of this booking. */
  readonly undoes?: Undoing | null
}

/**
 * Facts → events → runs → plan → sends: everything that follows from some changed facts. The given effects
 * come first in the answer, what they bring about after them.
 */
export function conclude(
  slice: Slice,
  changed: readonly Effect[],
  context: EngineContext,
  { settled = [], startsNothing = false, undoes = null }: Manner = {},
): readonly Effect[] {
  const { settings } = slice
  const changes = [...changed, ...invoicesFollowing(slice, changed, context)]
  let effects: readonly Effect[] = changes
  const present = (): Slice => ({ settings, facts: withEffects(slice.facts, effects) })
  const add = (more: readonly Effect[]) => {
    effects = [...effects, ...more]
  }
  if (undoes) add(resumedRuns(undoes, present(), context))
  for (const change of undoes && undoes.undone !== 'the ending' ? [] : changes) {
    const trigger = change.kind === 'append event' ? triggerOf(change.event) : null
    if (trigger === null) continue
    // What an earlier move would have sent is planned for the new times once more, and void at once with the rest.
    if (voidsEarlierMove(trigger, present())) add(replan(present(), context))
    add(stoppedRuns(trigger, present(), context))
    add(heldRuns(trigger, present(), context))
    if (startsNothing || !isStarting(trigger)) continue
    if (trigger.on === 'tag added') add(tagSettles(trigger, present(), context))
    else if (!startTraits[trigger.on].settles) add(startedRuns(trigger, present(), context))
  }
  for (const trigger of settled) add(startedRuns(trigger, present(), context))
  return [...effects, ...replan(present(), context)]
}
