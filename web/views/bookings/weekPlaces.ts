import type { TimetableDay, TimetableLine } from '#core/api/bookingEndpoints.ts'
import type { ManyBookingsAct, SeenBooking } from '#core/engine/commands/manyBookings.ts'
import { epochDayOf, isoDateOf, minuteMs, timeOfDayOf } from '#core/time/calendar.ts'
import { clockTime, shortDate } from '#core/time/format.ts'
import { realZones } from '#core/time/realZones.ts'
import { wallAt } from '#core/time/zones.ts'

/** A booking with where it stands in the timetable. */
export interface Placed extends SeenBooking {
  readonly clientName: string
  /** The date it stands under. */
  readonly on: string
  readonly line: TimetableLine
}

/** Where a booking can be put: another departure of its service, or another day at its own time. */
export type Place =
  | { readonly kind: 'line'; readonly on: string; readonly line: TimetableLine }
  | { readonly kind: 'day'; readonly on: string }

export const keyOf = (place: Place) =>
  place.kind === 'line' ? `line ${place.line.serviceId} ${place.line.startAt}` : `day ${place.on}`

/** All bookings of some days, by their ids. */
export function placedIn(days: readonly TimetableDay[]): ReadonlyMap<string, Placed> {
  return new Map(
    days.flatMap(({ on, lines }) =>
      lines.flatMap((line) =>
        line.bookings.map(({ id, revision, clientName }): [string, Placed] => [
          id,
          { id, revision, clientName, on, line },
        ]),
      ),
    ),
  )
}

/** The places a booking can be put to, in the order of time: each day, then its departures. */
export function placesFor({ line: own }: Placed, days: readonly TimetableDay[], now: number): Place[] {
  return days.flatMap(({ on, lines }): Place[] => {
    const open = lines.filter(
      ({ serviceId, startAt }) => serviceId === own.serviceId && startAt > now && startAt !== own.startAt,
    )
    return [{ kind: 'day', on }, ...open.map((line): Place => ({ kind: 'line', on, line }))]
  })
}

/** The time of day of a departure on the clock of its place, and its date there. */
export function placeTime({ startAt, placeZone }: TimetableLine) {
  const { day, msOfDay } = wallAt(realZones.zone(placeZone), startAt)
  return { on: isoDateOf(day), at: timeOfDayOf(Math.floor(msOfDay / minuteMs)) }
}

/** What putting a booking somewhere is as an act; null: it stands there already. */
export function moveTo({ on, line }: Placed, place: Place): ManyBookingsAct | null {
  if (place.kind === 'line') return { act: 'move', ...placeTime(place.line) }
  return place.on === on && placeTime(line).on === place.on ? null : { act: 'move', on: place.on, at: null }
}

/** A place as it is said. */
export function placeWords(place: Place, year: number): string {
  const day = shortDate(epochDayOf(place.on), year)
  if (place.kind === 'day') return `${day}, at its own time`
  const { startAt, placeZone, serviceName, seats, taken } = place.line
  const left = Math.max(0, seats - taken)
  return `${day}, ${clockTime(realZones.zone(placeZone), startAt)}, ${serviceName}, ${left} of ${seats} seats left`
}
