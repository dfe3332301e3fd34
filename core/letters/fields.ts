import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import { fullName, type Client, type Contact } from '../model/client.ts'
import type { FieldName } from '../model/letter.ts'
import { clockTime, longDate, weekdayName } from '../time/format.ts'
import { dayAt, type Zone } from '../time/zones.ts'

/** Everything a letter's fields are filled from. */
export interface MergeFacts {
  readonly business: Business
  readonly client: Client
  readonly contact: Contact
  /** Null where the message is not about a booking. */
  readonly booking: Booking | null
  readonly service: Service | null
  readonly personInCharge: Person | null
  /** Zone of the place: dates and times of the booking are told in it. */
  readonly zone: Zone
  /** The moment of sending; words like "tomorrow" are counted from it. */
  readonly sendingAt: number
}

/** How far a day lies from the moment of sending, in words, by calendar day at the place. */
export function dayFromSending(zone: Zone, sendingAt: number, eventAt: number): string {
  const eventDay = dayAt(zone, eventAt)
  const distance = eventDay - dayAt(zone, sendingAt)
  if (distance === 0) return 'today'
  if (distance === 1) return 'tomorrow'
  if (distance > 1 && distance < 7) return `this ${weekdayName(eventDay)}`
  return `on ${longDate(eventDay)}`
}

type BookingFacts = MergeFacts & { readonly booking: Booking }

const ofBooking = (value: (facts: BookingFacts) => string) => (facts: MergeFacts) =>
  facts.booking === null ? '' : value({ ...facts, booking: facts.booking })

const values: Readonly<Record<FieldName, (facts: MergeFacts) => string>> = {
  'contact.firstName': ({ contact }) => contact.firstName,
  'contact.fullName': ({ client, contact }) => fullName(client, contact),
  'client.name': ({ client }) => client.name,
  'booking.service': ({ service }) => service?.name ?? '',
  'booking.place': ({ service }) => service?.place ?? '',
  'booking.date': ofBooking(({ zone, booking }) => longDate(dayAt(zone, booking.startAt))),
  'booking.time': ofBooking(({ zone, booking }) => clockTime(zone, booking.startAt)),
  'booking.endTime': ofBooking(({ zone, booking }) => clockTime(zone, booking.endAt)),
  'booking.partySize': ofBooking(({ booking }) => String(booking.partySize)),
  'booking.dayFromSending': ofBooking(({ zone, booking, sendingAt }) =>
    dayFromSending(zone, sendingAt, booking.startAt),
  ),
  'person.name': ({ personInCharge, business }) => personInCharge?.name ?? business.name,
  'business.name': ({ business }) => business.name,
  'business.phone': ({ business }) => business.phone,
  'business.postalAddress': ({ business }) => business.postalAddress,
}

/** The value of a field for one recipient; empty when there is none. */
export function fieldValue(field: FieldName, facts: MergeFacts): string {
  return values[field](facts).trim()
}
