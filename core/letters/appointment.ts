import { domainOf } from '../model/values.ts'
import type { Booking } from '../model/booking.ts'
import type { MergeFacts } from './fields.ts'

/** A booking as an entry of somebody's calendar. */
export interface Appointment {
  /** The same for every message about this booking, so that a calendar replaces the entry (RFC 5545 3.8.4.7). */
  readonly uid: string
  /** Grows with every change of the booking (RFC 5545 3.8.7.4). */
  readonly sequence: number
  readonly startAt: number
  readonly endAt: number
  readonly summary: string
  readonly location: string
  /** What the entry says besides. */
  readonly description: string
  /** The page of the booking for its client; empty: none. */
  readonly url: string
  readonly organizer: { readonly name: string; readonly email: string }
  /** Zone of the place: its times stay right when the rules of that zone change (RFC 5545 3.2.19). */
  readonly zoneName: string
  /** A request is not sure yet. */
  readonly state: 'tentative' | 'confirmed' | 'cancelled'
}

function stateOf({ status }: Booking): Appointment['state'] {
  if (status === 'cancelled') return 'cancelled'
  return status === 'requested' ? 'tentative' : 'confirmed'
}

/** The appointment a message is about, or null where it is about none. */
export function appointmentOf({
  booking,
  service,
  business,
  bookingUrl,
  zone,
}: Pick<MergeFacts, 'booking' | 'service' | 'business' | 'bookingUrl' | 'zone'>): Appointment | null {
  if (booking === null || service === null) return null
  return {
    uid: `${booking.id}@${domainOf(business.senderAddress)}`,
    sequence: booking.revision,
    startAt: booking.startAt,
    endAt: booking.endAt,
    summary: `${service.name}, ${business.name}`,
    location: service.place,
    description: [business.name, business.phone, bookingUrl].filter(Boolean).join('\n'),
    url: bookingUrl,
    organizer: { name: business.name, email: business.senderAddress },
    zoneName: zone.name,
    state: stateOf(booking),
  }
}
