import type { Booking } from '../model/booking.ts'
import type { Anchor, Run, Step } from '../model/sequence.ts'
import type { OpenTimes } from '../time/openTimes.ts'
import type { Zone } from '../time/zones.ts'

/** All that the rules of time need to know to plan one step of one run. */
export interface StepFacts {
  readonly step: Step
  readonly run: Run
  readonly booking: Booking
  /** Zone of event times, offsets and times of day: the place's, else the business's. */
  readonly zone: Zone
  readonly sendingHours: OpenTimes
}

/** The instant an anchor stands for. */
export function anchorInstant(anchor: Anchor, booking: Booking): number {
  return anchor === 'booking start' ? booking.startAt : booking.endAt
}

export const anchorWords: Readonly<Record<Anchor, string>> = {
  'booking start': 'the start of the booking',
  'booking end': 'the end of the booking',
}
