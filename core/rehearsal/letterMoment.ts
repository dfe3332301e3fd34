import { isMessage } from '../model/step.ts'
import { startTraits } from '../model/startEvent.ts'
import type { Sequence } from '../model/sequence.ts'
import { versionOf, type Slice } from '../planning/slice.ts'
import { letterIdsOf, plainSteps } from '../sequences/steps.ts'
import { previewOf } from './preview.ts'

/** The sequences that send a letter about bookings of a service, in the order in which they stand. */
function sendersOf(letterId: string, serviceId: string, { settings }: Slice): readonly Sequence[] {
  return settings.sequences.filter(({ id, currentVersion }) => {
    const { start, steps } = versionOf(settings, id, currentVersion)
    return (
      startTraits[start.on].subject === 'booking' &&
      (start.serviceIds.length === 0 || start.serviceIds.includes(serviceId)) &&
      plainSteps(steps).some((step) => isMessage(step) && letterIdsOf([step]).includes(letterId))
    )
  })
}

/**
 * When a letter goes for a booking: as it is planned or went; where nothing is planned, as a sequence that has it would
 * send it. Null: no sequence would.
 */
export function letterMoment(slice: Slice, letterId: string, bookingId: string, now: number): number | null {
  const { facts } = slice
  const booking = facts.bookings.find(({ id }) => id === bookingId)
  if (!booking) return null
  const planned = facts.sends
    .filter((send) => send.letterId === letterId && send.subject.id === bookingId)
    .map(({ sentAt, dueAt, wantedAt }) => sentAt ?? dueAt ?? wantedAt)
    .find((at) => at !== null)
  if (planned !== undefined) return planned
  const subject = { kind: 'booking', id: bookingId } as const
  for (const sequence of sendersOf(letterId, booking.serviceId, slice)) {
    const version = versionOf(slice.settings, sequence.id, sequence.currentVersion)
    const { sends } = previewOf({ sequence, version, slice, subject, hardCase: 'as it is', now })
    const found = sends.find(({ send, at }) => send.letterId === letterId && at !== null)
    if (found) return found.at
  }
  return null
}
