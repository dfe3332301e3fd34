import type { StartRule } from '../model/sequence.ts'
import type { Anchor, Purpose, Timing } from '../model/timing.ts'
import { eventAnchor } from './dayZero.ts'
import { usualTime } from './usualTime.ts'

const anchorOf = (of: Anchor['of']): Anchor => ({ of }) as Anchor

function aroundTheEvent(
  start: StartRule,
  amount: number,
  unit: 'days' | 'weeks' | 'months',
  direction: 'before' | 'after',
  atTime: string,
): Timing {
  const event = eventAnchor(start)
  if (event === null) return { kind: 'after previous', amount, unit, atTime }
  const of = event === 'booking start' && direction === 'after' ? 'booking end' : event
  return { kind: 'calendar', amount, unit, direction, anchor: anchorOf(of), atTime }
}

/** When a new step of a purpose goes, to begin with. */
export function usualTiming(purpose: Purpose, start: StartRule): Timing {
  const hasBooking = eventAnchor(start) === 'booking start'
  switch (purpose) {
    case 'confirmation':
    case 'change':
    case 'cancellation':
    case 'internal':
      return { kind: 'at once' }
    case 'reminder':
      return aroundTheEvent(start, 1, 'days', 'before', usualTime.before)
    case 'preparation':
      return aroundTheEvent(start, 3, 'days', 'before', usualTime.before)
    case 'payment':
      return aroundTheEvent(start, hasBooking ? 2 : 1, 'weeks', 'before', usualTime.early)
    case 'follow-up':
      return hasBooking
        ? aroundTheEvent(start, 2, 'days', 'after', usualTime.after)
        : { kind: 'after previous', amount: 3, unit: 'days', atTime: usualTime.after }
    case 'occasion':
      return {
        kind: 'yearly',
        label: start.name ?? 'birthday',
        daysBefore: 0,
        offset: null,
        atTime: usualTime.early,
      }
    case 'promotional':
      return hasBooking
        ? aroundTheEvent(start, 3, 'months', 'after', usualTime.after)
        : { kind: 'after previous', amount: 3, unit: 'months', atTime: usualTime.after }
  }
}
