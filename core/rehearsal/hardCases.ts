import { freshHistory, type Booking } from '../model/booking.ts'
import { placeZone, serviceOf, type ClientFacts, type Settings } from '../planning/slice.ts'
import { dayMs, hourMs, weekdayOf } from '../time/calendar.ts'
import { dayAt, instantOf, offsetAt, wallAt, type Zone } from '../time/zones.ts'

/** Ways in which a real booking is bent to see what a sequence makes of it. */
export const hardCases = [
  'as it is',
  'booked the evening before',
  'booked an hour before',
  'on a Sunday',
  'in the night',
  'over the clock change',
  'living elsewhere',
  'moved there and back',
] as const
export type HardCase = (typeof hardCases)[number]

const elsewhere = 'America/New_York'

/** The next day after a moment on which a zone's clock is changed; null: none within a year. */
function nextClockChange(zone: Zone, from: number): number | null {
  for (let at = from; at < from + 366 * dayMs; at += dayMs) {
    if (offsetAt(zone, at) !== offsetAt(zone, at + dayMs)) return at + dayMs
  }
  return null
}

/** A booking at another start, everything with it. */
function startingAt(booking: Booking, startAt: number): Booking {
  const by = startAt - booking.startAt
  const told = { ...booking.told, startAt, endAt: booking.endAt + by }
  return {
    ...booking,
    startAt,
    endAt: booking.endAt + by,
    told,
    sessions: booking.sessions.map((one) => ({ startAt: one.startAt + by, endAt: one.endAt + by })),
  }
}

const madeAt = (booking: Booking, at: number): Booking => ({
  ...booking,
  madeAt: at,
  timesSetAt: at,
  history: freshHistory(booking.status, at),
  statusAt: { [booking.status]: at },
})

/** The same time of day on another day, by the clock of the place. */
function onDay(zone: Zone, at: number, day: number): number {
  return instantOf(zone, { day, msOfDay: wallAt(zone, at).msOfDay })
}

function bent(booking: Booking, hardCase: HardCase, zone: Zone): Booking {
  const { startAt } = booking
  const day = dayAt(zone, startAt)
  switch (hardCase) {
    case 'booked the evening before':
      return madeAt(booking, instantOf(zone, { day: day - 1, msOfDay: 21.5 * hourMs }))
    case 'booked an hour before':
      return madeAt(booking, startAt - hourMs)
    case 'on a Sunday':
      return startingAt(booking, onDay(zone, startAt, day + 7 - weekdayOf(day)))
    case 'in the night':
      return startingAt(booking, instantOf(zone, { day, msOfDay: 3 * hourMs }))
    case 'over the clock change': {
      const change = nextClockChange(zone, startAt)
      return change === null ? booking : startingAt(booking, onDay(zone, startAt, dayAt(zone, change)))
    }
    default:
      return booking
  }
}

/** A client's facts with one booking bent to a hard case. Other subjects stay as they are. */
export function withHardCase(
  facts: ClientFacts,
  bookingId: string | null,
  hardCase: HardCase,
  settings: Settings,
): ClientFacts {
  const client =
    hardCase === 'living elsewhere' && facts.client.zone !== elsewhere
      ? { ...facts.client, zone: elsewhere }
      : facts.client
  const bookings = facts.bookings.map((one) =>
    one.id === bookingId ? bent(one, hardCase, placeZone(settings, serviceOf(settings, one.serviceId))) : one,
  )
  return { ...facts, client, bookings }
}
