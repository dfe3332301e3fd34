import type { OpeningHours } from '../model/openingHours.ts'
import { epochDayOf, hourMs, minuteOfDay, weekdayOf, type EpochDay, type MinuteOfDay } from './calendar.ts'
import { dayAt, instantAt, type Zone } from './zones.ts'

/** A stretch of time whose both ends count as open (epoch milliseconds). */
export interface OpenStretch {
  readonly from: number
  readonly to: number
}

/** When something is open, asked date by date. A date without stretches is closed. */
export interface OpenTimes {
  readonly zone: Zone
  readonly stretchesOn: (day: EpochDay) => readonly OpenStretch[]
}

/** How many days a search for an open moment looks ahead or back before it gives up. */
export const openSearchDays = 60

/** A stretch of a day on its clock. */
export interface MinuteStretch {
  readonly from: MinuteOfDay
  readonly to: MinuteOfDay
}

/** Stretches in order, those that touch or overlap made one. */
function joined(stretches: readonly MinuteStretch[]): MinuteStretch[] {
  const result: MinuteStretch[] = []
  for (const next of stretches.toSorted((one, other) => one.from - other.from)) {
    const last = result.at(-1)
    if (last && next.from <= last.to)
      result[result.length - 1] = { from: last.from, to: Math.max(last.to, next.to) }
    else result.push(next)
  }
  return result
}

/** The stretches of each weekday, Monday first, in order and apart. */
export function weeklyStretches({ weekly }: OpeningHours): readonly (readonly MinuteStretch[])[] {
  return weekly.map((day) =>
    joined(day.map(({ from, to }) => ({ from: minuteOfDay(from), to: minuteOfDay(to) }))),
  )
}

/** How many dates' stretches are remembered before they are forgotten again. */
const rememberedDays = 5000

/** The open times of a set of weekly hours with its holidays and closed dates. */
export function openTimesOf(
  hours: OpeningHours,
  zone: Zone,
  isHoliday: (day: EpochDay) => boolean,
): OpenTimes {
  const closedDays = new Set(hours.closedDates.map(epochDayOf))
  const weekly = weeklyStretches(hours)
  const work = (day: EpochDay): readonly OpenStretch[] => {
    if (closedDays.has(day)) return []
    if (hours.holidays === 'closed' && isHoliday(day)) return []
    return (weekly[weekdayOf(day) - 1] ?? [])
      .map(({ from, to }) => ({ from: instantAt(zone, day, from), to: instantAt(zone, day, to) }))
      .filter(({ from, to }) => from < to)
  }
  return { zone, stretchesOn: remembered(work) }
}

function remembered(
  work: (day: EpochDay) => readonly OpenStretch[],
): (day: EpochDay) => readonly OpenStretch[] {
  const known = new Map<EpochDay, readonly OpenStretch[]>()
  return (day) => {
    const before = known.get(day)
    if (before) return before
    const stretches = work(day)
    if (known.size >= rememberedDays) known.clear()
    known.set(day, stretches)
    return stretches
  }
}

/** Local hours within which nobody is woken: 08:00 to 21:00. */
export const wakingHours = { from: 8 * 60, to: 21 * 60 } as const

/** The waking hours of a date in a zone. */
export function wakingStretch(zone: Zone, day: EpochDay): OpenStretch {
  return { from: instantAt(zone, day, wakingHours.from), to: instantAt(zone, day, wakingHours.to) }
}

function common(one: OpenStretch, other: OpenStretch): OpenStretch {
  return { from: Math.max(one.from, other.from), to: Math.min(one.to, other.to) }
}

/**
 * Sending hours for somebody whose clock is another one: 21:00 to 08:00 there is closed too. If the two leave less
 * than an hour on a day that has sending hours, that date has the other clock's 08:00 to 21:00.
 */
export function withinWakingHours(times: OpenTimes, zone: Zone): OpenTimes {
  const work = (day: EpochDay): readonly OpenStretch[] => {
    const own = times.stretchesOn(day)
    if (own.length === 0) return []
    const waking = [day - 1, day, day + 1].map((date) => wakingStretch(zone, date))
    const both = own
      .flatMap((stretch) => waking.map((there) => common(stretch, there)))
      .filter(({ from, to }) => from < to)
    const length = both.reduce((sum, { from, to }) => sum + to - from, 0)
    return length < hourMs ? [wakingStretch(zone, day)] : both
  }
  return { zone: times.zone, stretchesOn: remembered(work) }
}

/** Open at every moment. */
export function alwaysOpen(zone: Zone): OpenTimes {
  const work = (day: EpochDay) => [{ from: instantAt(zone, day, 0), to: instantAt(zone, day + 1, 0) }]
  return { zone, stretchesOn: remembered(work) }
}

/** The same open times on some days only: the others are closed. */
export function onlyOn(times: OpenTimes, isDay: (day: EpochDay) => boolean): OpenTimes {
  return { zone: times.zone, stretchesOn: (day) => (isDay(day) ? times.stretchesOn(day) : []) }
}

/** The waking hours of every day in a zone. */
export function wakingTimes(zone: Zone): OpenTimes {
  return { zone, stretchesOn: remembered((day) => [wakingStretch(zone, day)]) }
}

export function isClosedOn(times: OpenTimes, day: EpochDay): boolean {
  return times.stretchesOn(day).length === 0
}

export function isOpenAt(times: OpenTimes, instant: number): boolean {
  const day = dayAt(times.zone, instant)
  // A date's stretches can reach into its neighbours where another clock's waking hours stand in for them.
  return [day - 1, day, day + 1].some((date) =>
    times.stretchesOn(date).some(({ from, to }) => from <= instant && instant <= to),
  )
}

/** Whether it is open all the time from one moment to another. */
export function isOpenThrough(times: OpenTimes, from: number, to: number): boolean {
  let reached = from
  for (let day = dayAt(times.zone, from) - 1; day <= dayAt(times.zone, to) + 1; day += 1) {
    for (const stretch of times.stretchesOn(day)) {
      if (stretch.from <= reached) reached = Math.max(reached, stretch.to)
      if (reached >= to) return true
    }
  }
  return false
}

/** The last open moment not after an instant, or null when the search finds none. */
export function lastOpenUpTo(times: OpenTimes, instant: number): number | null {
  const day = dayAt(times.zone, instant)
  let best: number | null = null
  for (let back = -1; back <= openSearchDays; back += 1) {
    const before = best
    for (const { from, to } of times.stretchesOn(day - back)) {
      if (from <= instant) best = Math.max(best ?? -Infinity, Math.min(to, instant))
    }
    if (before !== null || best === instant) return best
  }
  return best
}

/** The first open moment not before an instant, or null when the search finds none. */
export function firstOpenFrom(times: OpenTimes, instant: number): number | null {
  const day = dayAt(times.zone, instant)
  let best: number | null = null
  for (let ahead = -1; ahead <= openSearchDays; ahead += 1) {
    const before = best
    for (const { from, to } of times.stretchesOn(day + ahead)) {
      if (to >= instant) best = Math.min(best ?? Infinity, Math.max(from, instant))
    }
    if (before !== null || best === instant) return best
  }
  return best
}

/** The moment of some stretches that lies nearest to a wished one; the earlier of two equally near; null: none. */
export function nearestIn(stretches: readonly OpenStretch[], wished: number): number | null {
  let best: number | null = null
  for (const { from, to } of stretches) {
    const candidate = Math.min(Math.max(wished, from), to)
    if (best === null || Math.abs(candidate - wished) < Math.abs(best - wished)) best = candidate
  }
  return best
}

/** The open moment of a date that lies nearest to a wished one; null on a closed date. */
export function nearestOpenOn(times: OpenTimes, day: EpochDay, wished: number): number | null {
  return nearestIn(times.stretchesOn(day), wished)
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
