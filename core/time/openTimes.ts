import type { OpeningHours } from '../model/business.ts'
import { epochDayOf, minuteOfDay, weekdayOf, type EpochDay, type MinuteOfDay } from './calendar.ts'
import { dayAt, instantAt, type Zone } from './zones.ts'

/** A stretch of time whose both ends count as open (epoch milliseconds). */
export interface OpenStretch {
  readonly from: number
  readonly to: number
}

/** When something is open, asked date by date. A date without stretches is closed. */
export interface OpenTimes {
  readonly zone: Zone
  stretchesOn(day: EpochDay): readonly OpenStretch[]
}

/** How many days a search for an open moment looks ahead or back before it gives up. */
export const openSearchDays = 60

/** The open times of a set of weekly hours with its holidays and closed dates. */
export function openTimesOf(
  hours: OpeningHours,
  zone: Zone,
  isHoliday: (day: EpochDay) => boolean,
): OpenTimes {
  const closedDays = new Set(hours.closedDates.map(epochDayOf))
  const weekly = hours.weekly.map((stretches) =>
    stretches
      .map(({ from, to }) => ({ from: minuteOfDay(from), to: minuteOfDay(to) }))
      .sort((one, other) => one.from - other.from),
  )
  return {
    zone,
    stretchesOn(day) {
      if (closedDays.has(day)) return []
      if (hours.holidays === 'closed' && isHoliday(day)) return []
      return (weekly[weekdayOf(day) - 1] ?? [])
        .map(({ from, to }) => ({ from: instantAt(zone, day, from), to: instantAt(zone, day, to) }))
        .filter(({ from, to }) => from < to)
    },
  }
}

export function isClosedOn(times: OpenTimes, day: EpochDay): boolean {
  return times.stretchesOn(day).length === 0
}

/** The last open moment not after an instant, or null when the search finds none. */
export function lastOpenUpTo(times: OpenTimes, instant: number): number | null {
  const day = dayAt(times.zone, instant)
  for (let back = 0; back <= openSearchDays; back += 1) {
    const open = times.stretchesOn(day - back).findLast(({ from }) => from <= instant)
    if (open) return Math.min(open.to, instant)
  }
  return null
}

/** The first open moment not before an instant, or null when the search finds none. */
export function firstOpenFrom(times: OpenTimes, instant: number): number | null {
  const day = dayAt(times.zone, instant)
  for (let ahead = 0; ahead <= openSearchDays; ahead += 1) {
    const open = times.stretchesOn(day + ahead).find(({ to }) => to >= instant)
    if (open) return Math.max(open.from, instant)
  }
  return null
}

/** The open moment of a date that lies nearest to a time of day; null on a closed date. The earlier of two equally near. */
export function nearestOpenOn(times: OpenTimes, day: EpochDay, minute: MinuteOfDay): number | null {
  const wished = instantAt(times.zone, day, minute)
  let best: number | null = null
  for (const { from, to } of times.stretchesOn(day)) {
    const candidate = Math.min(Math.max(wished, from), to)
    if (best === null || Math.abs(candidate - wished) < Math.abs(best - wished)) best = candidate
  }
  return best
}

/** The nearest open date on one side of a date, the date itself not counted; null when the search finds none. */
export function nearestOpenDay(times: OpenTimes, day: EpochDay, side: 'earlier' | 'later'): EpochDay | null {
  const stepOfDay = side === 'earlier' ? -1 : 1
  for (let distance = 1; distance <= openSearchDays; distance += 1) {
    const candidate = day + stepOfDay * distance
    if (!isClosedOn(times, candidate)) return candidate
  }
  return null
}
