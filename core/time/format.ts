import {
  isoDateOf,
  minuteMs,
  timeOfDayOf,
  twoDigits,
  weekdayNames,
  weekdayOf,
  yearMonthDayOf,
  type EpochDay,
} from './calendar.ts'
import { dayAt, offsetAt, wallAt, type Zone } from './zones.ts'

const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const

export function weekdayName(day: EpochDay): string {
  return weekdayNames[weekdayOf(day) - 1] ?? ''
}

export function monthName(month: number): string {
  return monthNames[month - 1] ?? ''
}

/** `Saturday 16 May 2026` */
export function longDate(day: EpochDay): string {
  const { year, month, day: dayOfMonth } = yearMonthDayOf(day)
  return `${weekdayName(day)} ${dayOfMonth} ${monthName(month)} ${year}`
}

/** `Sat 16 May`, with the year where it is not the one given. */
export function shortDate(day: EpochDay, withoutYear: number | null = null): string {
  const { year, month, day: dayOfMonth } = yearMonthDayOf(day)
  const text = `${weekdayName(day).slice(0, 3)} ${dayOfMonth} ${monthName(month).slice(0, 3)}`
  return withoutYear === year ? text : `${text} ${year}`
}

/** `05:20`, the 24-hour clock of the zone. */
export function clockTime(zone: Zone, instant: number): string {
  return timeOfDayOf(Math.floor(wallAt(zone, instant).msOfDay / minuteMs))
}

/** Weekday, date and 24-hour time: `Sat 16 May 2026, 05:20`. */
export function dateAndTime(zone: Zone, instant: number, withoutYear: number | null = null): string {
  return `${shortDate(dayAt(zone, instant), withoutYear)}, ${clockTime(zone, instant)}`
}

/** ISO 8601 with the zone's offset: `2026-05-16T05:20:00+02:00`. */
export function isoWithOffset(zone: Zone, instant: number): string {
  const { day, msOfDay } = wallAt(zone, instant)
  const seconds = Math.floor(msOfDay / 1000)
  const offsetMinutes = Math.round(offsetAt(zone, instant) / minuteMs)
  const absolute = Math.abs(offsetMinutes)
  const clock = `${timeOfDayOf(Math.floor(seconds / 60))}:${twoDigits(seconds % 60)}`
  const offset = `${offsetMinutes < 0 ? '-' : '+'}${timeOfDayOf(absolute)}`
  return `${isoDateOf(day)}T${clock}${offset}`
}
