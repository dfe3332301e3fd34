import type { CalendarUnit, ExactUnit } from '../model/sequence.ts'
import { addMonths, hourMs, minuteMs, type EpochDay, type MinuteOfDay } from './calendar.ts'
import { instantAt, instantOf, wallAt, type Zone } from './zones.ts'

const exactUnitMs: Readonly<Record<ExactUnit, number>> = { minutes: minuteMs, hours: hourMs }

/** An instant some minutes or hours away: exact elapsed time, whatever the clocks do. Negative: before. */
export function addExact(instant: number, amount: number, unit: ExactUnit): number {
  return instant + amount * exactUnitMs[unit]
}

/** A date some days, weeks, months or years away; months and years clamp to the month's last day. */
export function addToDay(day: EpochDay, amount: number, unit: CalendarUnit): EpochDay {
  switch (unit) {
    case 'days':
      return day + amount
    case 'weeks':
      return day + 7 * amount
    case 'months':
      return addMonths(day, amount)
    case 'years':
      return addMonths(day, 12 * amount)
  }
}

/**
 * An instant some days or longer away, counted on the local clock: the same reading on another date,
 * or `atMinute` where a time of day is set. 0 days without a time of day is the instant itself.
 */
export function addCalendar(
  zone: Zone,
  instant: number,
  amount: number,
  unit: CalendarUnit,
  atMinute: MinuteOfDay | null,
): number {
  if (amount === 0 && atMinute === null) return instant
  const wall = wallAt(zone, instant)
  const day = addToDay(wall.day, amount, unit)
  return atMinute === null ? instantOf(zone, { day, msOfDay: wall.msOfDay }) : instantAt(zone, day, atMinute)
}
