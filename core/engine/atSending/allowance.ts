import type { Allowance } from '../../model/allowance.ts'
import type { TraceLine } from '../../model/send.ts'
import { whyThen } from '../../planning/reasons.ts'
import { addMonths, hourMs, yearMonthDayOf } from '../../time/calendar.ts'
import { instantAt, wallAt, type Zone } from '../../time/zones.ts'

/** A stretch of time in which the mail account takes only so many messages. */
interface Window {
  readonly limit: number | null
  readonly from: number
  readonly to: number
}

/** The hour, day and month an instant lies in, on the clock of the business. */
export function windowsAt(allowance: Allowance, zone: Zone, now: number): readonly Window[] {
  const { day, msOfDay } = wallAt(zone, now)
  const hour = now - (msOfDay % hourMs)
  const firstOfMonth = day - (yearMonthDayOf(day).day - 1)
  return [
    { limit: allowance.perHour, from: hour, to: hour + hourMs },
    { limit: allowance.perDay, from: instantAt(zone, day, 0), to: instantAt(zone, day + 1, 0) },
    {
      limit: allowance.perMonth,
      from: instantAt(zone, firstOfMonth, 0),
      to: instantAt(zone, addMonths(firstOfMonth, 1), 0),
    },
  ].filter(({ limit }) => limit !== null)
}

/** How many messages the account still takes, and when it takes more. */
export interface AllowanceLeft {
  /** Infinity: there is no limit. */
  readonly left: number
  /** The end of the stretch that is used up first; null: there is no limit. */
  readonly freeAt: number | null
}

/** What is left of the allowance. `sentSince` counts the messages that went since a moment. */
export function allowanceLeft(
  allowance: Allowance,
  zone: Zone,
  now: number,
  sentSince: (from: number) => number,
): AllowanceLeft {
  const rests = windowsAt(allowance, zone, now).map(({ limit, from, to }) => ({
    left: Math.max(0, (limit ?? Infinity) - sentSince(from)),
    to,
  }))
  const left = Math.min(Infinity, ...rests.map((rest) => rest.left))
  const ends = rests.filter((rest) => rest.left === left).map(({ to }) => to)
  return { left, freeAt: ends.length === 0 ? null : Math.max(...ends) }
}

/** A message as far as the allowance goes. */
export interface Claimant {
  readonly id: string
  readonly dueAt: number
  readonly isPromotional: boolean
}

/** Service messages go first, then by their moments. */
export function inAllowanceOrder(one: Claimant, other: Claimant): number {
  return (
    Number(one.isPromotional) - Number(other.isPromotional) ||
    one.dueAt - other.dueAt ||
    (one.id < other.id ? -1 : 1)
  )
}

/** The line of trace of a message that has to wait for the account. */
export function allowanceLine(before: number, after: number, words: string): TraceLine {
  return { rule: 'allowance', before, after, ...whyThen.allowance(words) }
}
