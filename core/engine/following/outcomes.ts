import type { Send } from '../../model/send.ts'
import type { PlainStep } from '../../model/step.ts'
import type { Slice } from '../../planning/slice.ts'
import type { Told } from '../atSending/checkAtSending.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { performStep } from './perform.ts'
import { conclude } from './react.ts'
import { isAwaited, replan } from './replan.ts'

/** The times the client has in hand now. */
export function notedTimes(told: Told | null): readonly Effect[] {
  if (!told?.booking) return []
  const { id, ...times } = told.booking
  return [{ kind: 'note told', bookingId: id, told: times }]
}

/** The checklist lines the client knows of now. */
function notedLines(told: Told | null, { facts }: Slice, now: number): readonly Effect[] {
  const lines = told?.lines
  const enquiry = lines && facts.enquiries.find(({ id }) => id === lines.enquiryId)
  if (!enquiry) return []
  const ticks = enquiry.ticks.map((tick) =>
    lines.lineIds.includes(tick.lineId) && tick.toldAt === null ? { ...tick, toldAt: now } : tick,
  )
  return [{ kind: 'put enquiry', enquiry: { ...enquiry, ticks } }]
}

/**
 * What follows once a message has gone or will not go: what the client has been told, and the steps and occurrences
 * that waited for it. `told` is null where nothing went.
 */
export function afterOutcome(
  send: Send,
  told: Told | null,
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  const effects = [...notedTimes(told), ...notedLines(told, slice, context.now)]
  if (send.state !== 'waiting' && !isAwaited(send, slice.settings)) return effects
  return [...effects, ...replan({ ...slice, facts: withEffects(slice.facts, effects) }, context)]
}

/** How a step that is no message ended. */
export type Performed =
  | { readonly done: true; readonly effects: readonly Effect[] }
  | { readonly done: false; readonly sentence: string }

/** Does a step that is no message, with all that follows from it. Its send counts as ended already in the slice. */
export function perform(step: PlainStep, send: Send, slice: Slice, context: EngineContext): Performed {
  const result = performStep(step, send, slice, context)
  if (!result.ok) return { done: false, sentence: result.problem.sentence }
  const { effects, manner } = result.value
  return { done: true, effects: conclude(slice, effects, context, manner) }
}
