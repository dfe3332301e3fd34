import { completeBooking, endSettling } from './bookingCommands.ts'
import type { EngineContext } from './context.ts'
import type { DueMoment, Effect } from './effects.ts'
import { goStale } from './sendCommands.ts'
import type { Slice } from '../planning/slice.ts'

type Handler = (slice: Slice, key: string, context: EngineContext) => readonly Effect[]

const handlers: Readonly<Record<DueMoment['kind'], Handler>> = {
  'settle ends': endSettling,
  'booking completes': completeBooking,
  'goes stale': goStale,
}

/** At one instant facts come before what follows from them: settle times end, then messages go stale, then bookings complete. */
export const dueMomentOrder: readonly DueMoment['kind'][] = ['settle ends', 'goes stale', 'booking completes']

/** What a due moment brings about. It is cleared, or set anew, by what comes back. */
export function handleDueMoment(
  { kind, key }: Pick<DueMoment, 'kind' | 'key'>,
  slice: Slice,
  context: EngineContext,
) {
  return handlers[kind](slice, key, context)
}
