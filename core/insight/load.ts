import { dayMs, minuteMs, type EpochDay } from '../time/calendar.ts'
import { dayAt, type Zone } from '../time/zones.ts'

/** All zones in use differ from UTC by whole quarters of an hour (tz database), so a day is made of whole ones. */
export const quarterMs = 15 * minuteMs

/** How many of something fall into a quarter of an hour, counted from the epoch. */
export interface QuarterCount {
  readonly quarter: number
  readonly count: number
}

/** Counts by local day, in the order of the days. */
export function byLocalDay(quarters: readonly QuarterCount[], zone: Zone): ReadonlyMap<EpochDay, number> {
  const days = new Map<EpochDay, number>()
  for (const { quarter, count } of quarters) {
    const day = dayAt(zone, quarter * quarterMs)
    days.set(day, (days.get(day) ?? 0) + count)
  }
  return new Map([...days].sort(([one], [other]) => one - other))
}

/** A day counts as crowded from so many messages on, and where it has so many times those of an ordinary day. */
const crowdedFrom = 10
const crowdedTimes = 2

function medianOf(counts: readonly number[]): number {
  const sorted = counts.toSorted((one, other) => one - other)
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0
}

/** Days that bring at least twice what the ordinary one of those with messages brings, and no less than ten. */
export function crowdedDays(days: ReadonlyMap<EpochDay, number>): ReadonlySet<EpochDay> {
  const ordinary = medianOf([...days.values()].filter((count) => count > 0))
  const isCrowded = (count: number) => count >= crowdedFrom && count >= crowdedTimes * ordinary
  return new Set([...days].filter(([, count]) => isCrowded(count)).map(([day]) => day))
}

/** More messages than this within seven days are much for one client. */
export const muchInAWeek = 5
const weekMs = 7 * dayMs

/** The fullest seven days of a client: how many messages, from the first to the last of them. */
export interface FullestWeek {
  readonly messages: number
  readonly fromAt: number
  readonly toAt: number
}

/** The fullest seven days among moments of messages; null where there are none. The earliest of equally full ones. */
export function fullestWeek(moments: readonly number[]): FullestWeek | null {
  const sorted = moments.toSorted((one, other) => one - other)
  let fullest: FullestWeek | null = null
  let first = 0
  for (const [last, toAt] of sorted.entries()) {
    while (toAt - (sorted[first] ?? toAt) >= weekMs) first += 1
    const messages = last - first + 1
    if (!fullest || messages > fullest.messages) fullest = { messages, fromAt: sorted[first] ?? toAt, toAt }
  }
  return fullest
}
