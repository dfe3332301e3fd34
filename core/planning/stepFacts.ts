import type { Booking } from '../model/booking.ts'
import type { Anchor, Run, Step } from '../model/sequence.ts'
import { clockTime, dateAndTime } from '../time/format.ts'
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

/** How traces name a time: on the clock of the business, and that of the place where it shows another time. */
export function inWords({ zone, sendingHours }: StepFacts, at: number): string {
  const there = clockTime(zone, at)
  const words = dateAndTime(sendingHours.zone, at)
  return there === clockTime(sendingHours.zone, at) ? words : `${words} (${there} at the place)`
}

/** The instant an anchor stands for. */
export function anchorInstant(anchor: Anchor, booking: Booking): number {
  return anchor === 'booking start' ? booking.startAt : booking.endAt
}

export const anchorWords: Readonly<Record<Anchor, string>> = {
  'booking start': 'the start of the booking',
  'booking end': 'the end of the booking',
}
