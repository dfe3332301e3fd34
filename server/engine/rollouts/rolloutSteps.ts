import { announcedOf, isStillSo } from '#core/engine/consequences/announced.ts'
import { settledDifference } from '#core/engine/consequences/consequences.ts'
import { appendEvent, type EngineContext } from '#core/engine/context.ts'
import { withEffects, type Effect } from '#core/engine/effects.ts'
import { rolledOut } from '#core/engine/consequences/rollout.ts'
import type { Slice } from '#core/planning/slice.ts'
import {
  nextOfRollout,
  rolloutUnderWay,
  type RolloutClient,
  type RolloutUnderWay,
} from '../../db/rolloutStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import { graceMs } from '../considering/announcements.ts'
import { applyEffects } from '../applyEffects.ts'
import type { Application } from '../application.ts'
import { readingFor } from './rollouts.ts'

/*
 * A design goes into effect client by client: a few at a time, each time in one transaction, with everything else in
 * between. What was done stays done, and it goes on with the next one after a stop of the program.
 */

/** From so many clients on it goes in steps; fewer are done at once, all or none. */
export const inStepsFrom = 50

/** Everything else waits no longer than this for one step, but for the last client of it. Real time. */
const stepMs = 8
const mostInStep = 50

/** What it does for one client, or that it would do something else than was announced. */
function forClient(
  application: Application,
  under: RolloutUnderWay,
  { clientId, announced }: RolloutClient,
): 'done' | 'other' {
  const { statements } = application.store
  const slice = application.readableSliceOf(
    clientId,
    readingFor(statements, clientId, under, application.settings.required()),
  )
  if (!slice) return 'other'
  const context = application.context(under.personId)
  const effects = rolledOut(slice, slice.settings, under.sequenceId, under.rollout, context)
  if (announced !== null) {
    const after: Slice = { settings: slice.settings, facts: withEffects(slice.facts, effects) }
    const changes = effects.length === 0 ? [] : settledDifference(slice, after, context.now)
    const present = changes.map((change) => announcedOf(change, slice.settings.letters))
    const driftMs = context.now - (under.announcedAt ?? context.now) + graceMs
    if (!isStillSo(announced, present, driftMs)) {
      // Changed settings are facts for everybody: what they do to somebody who has changed meanwhile is only noted.
      if (under.sequenceId === null) applyEffects(statements, effects)
      return 'other'
    }
  }
  applyEffects(statements, effects)
  return 'done'
}

function oneClient(
  application: Application,
  under: RolloutUnderWay,
  client: RolloutClient,
  onFault: (fault: unknown) => void,
) {
  const { store } = application
  const settled = (state: 'done' | 'other') =>
    void store.statements.run('setRolloutClient', { id: under.id, clientId: client.clientId, state })
  try {
    store.transaction(() => settled(forClient(application, under, client)))
  } catch (fault) {
    if (isOfStore(fault)) throw fault
    onFault(fault)
    settled('other')
  }
}

/** Ends a rollout, whether it went over everybody or was stopped. */
export function endedRollout(id: string, isStopped: boolean, context: EngineContext): readonly Effect[] {
  const sentence = isStopped
    ? 'Putting the changes into effect was stopped; who was still ahead keeps the version before.'
    : 'The changes are in effect for everybody they concern.'
  return [
    { kind: 'end rollout', id, at: context.now, isStopped },
    appendEvent(context, 'sequence changed', {}, sentence),
  ]
}

/** The next step of what is under way, as something that falls due; null: nothing is. */
export function rolloutDue({
  store,
  clock,
}: Application): { kind: 'rollout'; at: number; key: string } | null {
  const under = rolloutUnderWay(store.statements)
  if (!under) return null
  const [next] = nextOfRollout(store.statements, under.id, 1)
  // Another key each time: it gets further.
  return { kind: 'rollout', at: clock.now(), key: `${under.id}|${next?.clientId ?? ''}` }
}

/** Goes over the next few clients of what is under way. */
export function stepRollout(application: Application, onFault: (fault: unknown) => void) {
  const { store, changes } = application
  const under = rolloutUnderWay(store.statements)
  if (!under) return
  const clients = nextOfRollout(store.statements, under.id, mostInStep)
  if (clients.length === 0) {
    application.apply(endedRollout(under.id, false, application.context(under.personId)))
    return
  }
  const until = performance.now() + stepMs
  store.transaction(() => {
    for (const client of clients) {
      oneClient(application, under, client, onFault)
      if (performance.now() > until) return
    }
  })
  changes.publish(['sequences', 'sends'])
}
