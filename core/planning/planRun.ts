import { placeZone, sendingTimesOf, serviceOf, versionOf, type Slice } from './slice.ts'
import type { Contact } from '../model/client.ts'
import type { Run, Step } from '../model/sequence.ts'
import { recipientsOf } from '../sequences/recipients.ts'
import { planStep, type StepPlan } from './planStep.ts'

/** One message that a run wants to send, as the present facts have it. */
export interface PlannedSend extends StepPlan {
  readonly run: Run
  readonly step: Step
  readonly occurrence: number
  readonly contact: Contact
}

/** Everything a running run wants to send; a stopped one wants nothing. */
export function planRun(run: Run, { settings, facts }: Slice): readonly PlannedSend[] {
  const booking = facts.bookings.find((one) => one.id === run.bookingId)
  if (run.state !== 'running' || !booking) return []
  const service = serviceOf(settings, booking.serviceId)
  const shared = { run, booking, zone: placeZone(settings, service), sendingHours: sendingTimesOf(settings) }
  return versionOf(settings, run.sequenceId, run.version).steps.flatMap((step) =>
    recipientsOf(facts.client).map((contact) => ({
      ...planStep({ ...shared, step }),
      run,
      step,
      occurrence: 0,
      contact,
    })),
  )
}
