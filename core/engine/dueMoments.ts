import { voidableStates, type Send } from '../model/send.ts'
import { isBefore } from '../model/timing.ts'
import { versionOf, type Slice } from '../planning/slice.ts'
import { findStep } from '../sequences/steps.ts'
import { completeBooking } from './bookingCommands.ts'
import type { EngineContext } from './context.ts'
import type { DueMoment, Effect } from './effects.ts'
import { replan } from './replan.ts'
import { goStale } from './sendCommands.ts'
import { endSettling } from './settling.ts'

type Handler = (slice: Slice, key: string, context: EngineContext) => readonly Effect[]

/** The event is over: where a sequence says so, what was to come before it and has not gone is void. */
const eventOver: Handler = ({ settings, facts }, key, context) => {
  const reason = { code: 'event over', sentence: 'The event is over.' }
  const runs = facts.runs.filter(
    (run) =>
      run.state === 'running' &&
      run.subject.id === key &&
      versionOf(settings, run.sequenceId, run.version).stops.some(({ on }) => on === 'event over'),
  )
  const isVoid = (send: Send) => {
    const run = runs.find(({ id }) => id === send.runId)
    const step = run && findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
    return step !== undefined && isBefore(step.timing) && voidableStates.includes(send.state)
  }
  const voided = facts.sends.filter(isVoid).map((send): Effect => ({
    kind: 'put send',
    send: { ...send, state: 'cancelled', reason, stateSince: context.now },
  }))
  return [{ kind: 'clear due moment', moment: { kind: 'event over', key } }, ...voided]
}

/** The latest moment of a branch: planning anew decides it. */
const branchDecides: Handler = (slice, key, context) => [
  { kind: 'clear due moment', moment: { kind: 'branch decides', key } },
  ...replan(slice, context),
]

const handlers: Readonly<Record<DueMoment['kind'], Handler>> = {
  'settle ends': endSettling,
  'event over': eventOver,
  'branch decides': branchDecides,
  'goes stale': goStale,
  'booking completes': completeBooking,
}

/**
 * At one instant facts come before what follows from them: settle times end, messages go stale, events are over,
 * branches are decided, bookings complete. (Backwards by name, so that a table can be asked in the same order.)
 */
export const dueMomentOrder: readonly DueMoment['kind'][] = [
  'settle ends',
  'goes stale',
  'event over',
  'branch decides',
  'booking completes',
]

/** What a due moment brings about. It is cleared, or set anew, by what comes back. */
export function handleDueMoment(
  { kind, key }: Pick<DueMoment, 'kind' | 'key'>,
  slice: Slice,
  context: EngineContext,
) {
  return handlers[kind](slice, key, context)
}
