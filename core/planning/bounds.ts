import { isBefore, type Purpose, type Step } from '../model/sequence.ts'
import { writtenLengthMs } from '../sequences/span.ts'
import { hourMs } from '../time/calendar.ts'
import { anchorInstant, type StepFacts } from './stepFacts.ts'

/** The two bounds that stand from the start, in epoch milliseconds. */
export interface Bounds {
  readonly notBefore: number
  /** Null: no bound. Equal is allowed. */
  readonly notAfter: number | null
}

/** How long before its anchor a before-step must have gone. */
export function leadMs(step: Step): number {
  if (step.lead !== null) return writtenLengthMs(step.lead)
  return isBefore(step.timing) ? Math.min(hourMs, writtenLengthMs(step.timing) / 2) : hourMs
}

const endsWithTheBooking: readonly Purpose[] = ['confirmation', 'change']
const endsBeforeTheStart: readonly Purpose[] = ['reminder', 'preparation']

function latestMoment({ step, booking }: StepFacts): number | null {
  if (isBefore(step.timing)) {
    return anchorInstant(step.timing.anchor, booking) - leadMs(step)
  }
  if (endsBeforeTheStart.includes(step.purpose)) return booking.startAt - hourMs
  if (endsWithTheBooking.includes(step.purpose)) return booking.endAt
  return null
}

/** The moment from which the present facts hold: the run's start, or when the anchor got its value. */
export function boundsOf(facts: StepFacts): Bounds {
  const { step, run, booking } = facts
  const notBefore =
    step.timing.kind === 'at once' ? run.startedAt : Math.max(run.startedAt, booking.timesSetAt)
  return { notBefore, notAfter: latestMoment(facts) }
}
