import type { Slice } from '../../planning/slice.ts'
import { completeBooking } from '../commands/bookingCommands.ts'
import type { EngineContext } from '../context.ts'
import type { DueMoment, Effect } from '../effects.ts'
import { endOwnSettling, ownStatusComes } from './ownStatus.ts'
import { replan } from './replan.ts'
import { goStale } from '../commands/sendCommands.ts'
import { endSettling } from './bookingSettling.ts'
import { endTagSettling, tagOfSettling } from './tagSettling.ts'

type Handler = (slice: Slice, key: string, context: EngineContext) => readonly Effect[]

/** A moment whose coming planning has to know of: an event is over, a branch or a condition is decided. */
const plansAnew =
  (kind: DueMoment['kind']): Handler =>
  (slice, key, context) => [{ kind: 'clear due moment', moment: { kind, key } }, ...replan(slice, context)]

const settleEnds: Handler = (slice, key, context) =>
  tagOfSettling(key) === null ? endSettling(slice, key, context) : endTagSettling(slice, key, context)

const handlers: Readonly<Record<DueMoment['kind'], Handler>> = {
  'settle ends': settleEnds,
  'event over': plansAnew('event over'),
  'branch decides': plansAnew('branch decides'),
  'condition decides': plansAnew('condition decides'),
  'own status settles': endOwnSettling,
  'own status comes': ownStatusComes,
  'goes stale': goStale,
  'booking completes': completeBooking,
}

/**
 * At one instant facts come before what follows from them: settle times end, messages go stale, events are over,
 * branches are decided, bookings complete, conditions are asked a last time.
 */
export const dueMomentOrder: readonly DueMoment['kind'][] = [
  'settle ends',
  'own status settles',
  'own status comes',
  'goes stale',
  'event over',
  'branch decides',
  'booking completes',
  'condition decides',
]

/** What a due moment brings about. It is cleared, or set anew, by what comes back. */
export function handleDueMoment(
  { kind, key }: Pick<DueMoment, 'kind' | 'key'>,
  slice: Slice,
  context: EngineContext,
) {
  return handlers[kind](slice, key, context)
}
