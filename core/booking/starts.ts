import type { Service } from '../model/business.ts'
import type { Departure, Starts } from '../model/offer.ts'
import { placeZone, type Settings } from '../planning/slice.ts'
import {
  epochDayOf,
  isoDateOf,
  minuteMs,
  minuteOfDay,
  weekdayOf,
  type EpochDay,
  type MinuteOfDay,
} from '../time/calendar.ts'
import { weeklyStretches } from '../time/openTimes.ts'
import { dayAt, instantAt, wallAt, type Zone } from '../time/zones.ts'

/** Start and end of an appointment that could be booked, as instants. */
export interface Start {
  readonly startAt: number
  readonly endAt: number
}

interface Day {
  readonly zone: Zone
  readonly day: EpochDay
  readonly durationMs: number
}

/** Whether the clock shows a minute of a day at all: not where it is put forward over it. */
function isShown(zone: Zone, day: EpochDay, minute: MinuteOfDay): boolean {
  const wall = wallAt(zone, instantAt(zone, day, minute))
  return wall.day === day && wall.msOfDay === minute * minuteMs
}

/** Every so often from each opening on, as long as it ends by closing. A time the clock leaves out is none. */
function withinHours(
  { hours, everyMinutes }: Extract<Starts, { kind: 'hours' }>,
  { zone, day, durationMs }: Day,
): readonly Start[] {
  const stretches = weeklyStretches(hours)[weekdayOf(day) - 1] ?? []
  return stretches.flatMap(({ from, to }) => {
    const closesAt = instantAt(zone, day, to)
    const found: Start[] = []
    for (let minute = from; minute < to; minute += everyMinutes) {
      const startAt = instantAt(zone, day, minute)
      if (startAt + durationMs <= closesAt && isShown(zone, day, minute)) {
        found.push({ startAt, endAt: startAt + durationMs })
      }
    }
    return found
  })
}

const leavesOn = ({ weekdays, from, to }: Departure, day: EpochDay) =>
  weekdays.includes(weekdayOf(day)) && epochDayOf(from) <= day && day <= epochDayOf(to)

/** The departures of a day. One at a time the clock leaves out goes when it would have been (RFC 5545, 3.3.5). */
function departing(
  { departures }: Extract<Starts, { kind: 'departures' }>,
  { zone, day, durationMs }: Day,
): readonly Start[] {
  const all = departures
    .filter((departure) => leavesOn(departure, day))
    .map(({ at }) => instantAt(zone, day, minuteOfDay(at)))
  return [...new Set(all)]
    .sort((one, other) => one - other)
    .map((startAt) => ({ startAt, endAt: startAt + durationMs }))
}

/** Whether a service is not done on a date of the business's zone. */
export function isClosedFor({ offer }: Service, settings: Settings, day: EpochDay): boolean {
  const { holidays, closedDates } = offer.starts.kind === 'hours' ? offer.starts.hours : offer.starts
  return (
    (closedDates.length > 0 && closedDates.includes(isoDateOf(day))) ||
    (holidays === 'closed' && settings.isHoliday(day))
  )
}

/** When a service begins on a date of its place, in order, whatever has been booked. */
export function startsOn(settings: Settings, service: Service, day: EpochDay): readonly Start[] {
  const zone = placeZone(settings, service)
  const of = { zone, day, durationMs: service.durationMinutes * minuteMs }
  const { starts } = service.offer
  const all = starts.kind === 'hours' ? withinHours(starts, of) : departing(starts, of)
  const businessZone = settings.zones.zone(settings.business.zone)
  return all.filter(({ startAt }) => !isClosedFor(service, settings, dayAt(businessZone, startAt)))
}
