import { domainOf } from '../model/values.ts'
import type { BookingStatus } from '../model/booking.ts'
import type { Appointment } from '../letters/appointment.ts'
import { placeZone, serviceOf, type Settings } from '../planning/slice.ts'

/** A booking as the team's calendar shows it. */
export interface TeamBooking {
  readonly id: string
  readonly serviceId: string
  readonly status: BookingStatus
  readonly ownStatus: string | null
  readonly startAt: number
  readonly endAt: number
  readonly partySize: number
  readonly revision: number
  readonly clientName: string
  readonly email: string | null
  readonly phone: string | null
}

/** An entry of the team's calendar: who comes, for what, and how to reach them. `pageUrl`: the booking, signed in. */
export function teamEntry(settings: Settings, booking: TeamBooking, pageUrl: string): Appointment {
  const { business } = settings
  const service = serviceOf(settings, booking.serviceId)
  const { clientName, partySize, email, phone, ownStatus, status } = booking
  const people = partySize === 1 ? '1 person' : `${partySize} people`
  return {
    // Beside the appointment its client has: somebody of the team can be a client, too.
    uid: `team-${booking.id}@${domainOf(business.senderAddress)}`,
    sequence: booking.revision,
    startAt: booking.startAt,
    endAt: booking.endAt,
    summary: `${clientName} · ${service.name} (${people})`,
    location: service.place,
    description: [ownStatus ?? status, phone, email, pageUrl].filter(Boolean).join('\n'),
    url: pageUrl,
    organizer: { name: business.name, email: business.senderAddress },
    zoneName: placeZone(settings, service).name,
    state: status === 'requested' ? 'tentative' : 'confirmed',
  }
}
