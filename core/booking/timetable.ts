import { seatStatuses, type Booking } from '../model/booking.ts'
import type { Service } from '../model/business.ts'
import { placeZone, serviceOf, type Settings } from '../planning/slice.ts'
import type { EpochDay } from '../time/calendar.ts'
import { dayAt } from '../time/zones.ts'
import { startsOn } from './starts.ts'

type Booked = Pick<Booking, 'serviceId' | 'startAt' | 'endAt' | 'partySize' | 'status'>

/** One start of a service, with all who have booked it; with nobody where it is only offered. */
export interface Line<One extends Booked> {
  readonly serviceId: string
  readonly startAt: number
  readonly endAt: number
  /** Zone of the place. */
  readonly placeZone: string
  readonly seats: number
  readonly taken: number
  readonly bookings: readonly One[]
}

/** A date of the business's zone. */
export interface TimetableDay<One extends Booked> {
  readonly day: EpochDay
  readonly lines: readonly Line<One>[]
}

/** The starts still ahead of services that leave at fixed times, whether or not somebody has booked them. */
function departuresAhead(settings: Settings, fromDay: EpochDay, toDay: EpochDay, now: number) {
  const fixed = settings.services.filter(
    ({ isActive, offer }) => isActive && offer.starts.kind === 'departures',
  )
  return fixed.flatMap((service) => {
    const found = []
    // A date at the place may be another one at the business.
    for (let day = fromDay - 1; day <= toDay + 1; day += 1) found.push(...startsOn(settings, service, day))
    return found
      .filter(({ startAt }) => startAt > now)
      .map((start): { service: Service; startAt: number; endAt: number } => ({ service, ...start }))
  })
}

/** What is booked and what leaves at fixed times, day by day and in the order of time. */
export function timetable<One extends Booked>(
  settings: Settings,
  bookings: readonly One[],
  { fromDay, toDay, now }: { readonly fromDay: EpochDay; readonly toDay: EpochDay; readonly now: number },
): readonly TimetableDay<One>[] {
  const zone = settings.zones.zone(settings.business.zone)
  const lines = new Map<string, Line<One>>()
  const keyOf = (serviceId: string, startAt: number) => `${serviceId} ${startAt}`
  const open = (service: Service, startAt: number, endAt: number): Line<One> => {
    const { name } = placeZone(settings, service)
    const { id: serviceId, seats } = service
    return { serviceId, startAt, endAt, placeZone: name, seats, taken: 0, bookings: [] }
  }
  for (const { service, startAt, endAt } of departuresAhead(settings, fromDay, toDay, now)) {
    lines.set(keyOf(service.id, startAt), open(service, startAt, endAt))
  }
  for (const one of bookings) {
    const key = keyOf(one.serviceId, one.startAt)
    const line = lines.get(key) ?? open(serviceOf(settings, one.serviceId), one.startAt, one.endAt)
    lines.set(key, {
      ...line,
      endAt: Math.max(line.endAt, one.endAt),
      taken: line.taken + (seatStatuses.includes(one.status) ? one.partySize : 0),
      bookings: [...line.bookings, one],
    })
  }
  const inOrder = [...lines.values()].sort(
    (one, other) => one.startAt - other.startAt || one.serviceId.localeCompare(other.serviceId),
  )
  return Array.from({ length: toDay - fromDay + 1 }, (_, index) => {
    const day = fromDay + index
    return { day, lines: inOrder.filter(({ startAt }) => dayAt(zone, startAt) === day) }
  })
}
