import type { Booking } from '../model/booking.ts'
import type { Service } from '../model/business.ts'
import type { Language } from '../model/values.ts'
import { clockTime } from '../time/format.ts'
import { dayAt, offsetAt, type Zone } from '../time/zones.ts'
import { labels, longDateIn, peopleIn } from './language.ts'

/** Where a booking is, and where its reader is. */
export interface BookingZones {
  /** Zone of the place: dates and times of the booking are told in it. */
  readonly zone: Zone
  /** Null: nothing else is known than that the reader is where the place is. */
  readonly readerZone: Zone | null
}

/** `Europe/Berlin` as people say it. */
const cityOf = ({ name }: Zone) => (name.split('/').at(-1) ?? name).replaceAll('_', ' ')

/** Whose time it is, where the clocks of the reader show another one: ` (Berlin time)`; else empty. */
export function zoneWords({ zone, readerZone }: BookingZones, at: number, language: Language): string {
  if (readerZone === null || offsetAt(zone, at) === offsetAt(readerZone, at)) return ''
  return language === 'de' ? ` (Ortszeit ${cityOf(zone)})` : ` (${cityOf(zone)} time)`
}

/** A time of day at the place, and whose time it is where that is not the reader's: `05:20 (Berlin time)`. */
export function timeAtPlace(zones: BookingZones, at: number, language: Language): string {
  return clockTime(zones.zone, at) + zoneWords(zones, at, language)
}

/** A moment at the place, and whose time it is where that is not the reader's: `Saturday 16 May 2026, 05:20 (Berlin time)`. */
export function momentAtPlace(zones: BookingZones, at: number, language: Language): string {
  return `${longDateIn(language, dayAt(zones.zone, at))}, ${timeAtPlace(zones, at, language)}`
}

/** What, when, where and for how many, as rows; what is not known is left out. */
export function bookingRows(
  { startAt, endAt, partySize }: Pick<Booking, 'startAt' | 'endAt' | 'partySize'>,
  service: Pick<Service, 'name' | 'place'>,
  zones: BookingZones,
  language: Language,
): readonly { readonly label: string; readonly value: string }[] {
  const own = labels[language]
  const { zone } = zones
  const startDay = dayAt(zone, startAt)
  const endDay = dayAt(zone, endAt)
  // Over midnight the end says its own day.
  const endsOn = endDay === startDay ? '' : `${longDateIn(language, endDay)}, `
  const times = `${clockTime(zone, startAt)} ${own.to} ${endsOn}${timeAtPlace(zones, endAt, language)}`
  return [
    { label: own.what, value: service.name },
    { label: own.when, value: `${longDateIn(language, startDay)}, ${times}` },
    { label: own.where, value: service.place },
    { label: own.for, value: peopleIn(language, partySize) },
  ].filter(({ value }) => value !== '')
}
