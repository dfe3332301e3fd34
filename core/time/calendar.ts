/**
 * Calendar arithmetic without any zone. A date is a count of days since 1970-01-01 (an epoch day):
 * adding days is adding numbers, and no host setting can disturb it.
 */
export type EpochDay = number

/** Minutes since local midnight, 0 to 1440. */
export type MinuteOfDay = number

export const minuteMs = 60_000
export const hourMs = 60 * minuteMs
export const dayMs = 24 * hourMs

/** Epoch day of an ISO 8601 date. Throws a RangeError for text that is no date. */
export function epochDayOf(isoDate: string): EpochDay {
  const parsed = Date.parse(`${isoDate}T00:00:00Z`)
  if (Number.isNaN(parsed)) throw new RangeError(`${isoDate} is not a date`)
  return parsed / dayMs
}

/** ISO 8601 date of an epoch day. */
export function isoDateOf(day: EpochDay): string {
  return new Date(day * dayMs).toISOString().slice(0, 10)
}

/** ISO 8601 weekday: 1 is Monday, 7 is Sunday. */
export function weekdayOf(day: EpochDay): number {
  return ((((day + 3) % 7) + 7) % 7) + 1
}

/** The Monday of the week that a day lies in. */
export const mondayOf = (day: EpochDay): EpochDay => day - (weekdayOf(day) - 1)

/** ISO 8601 weekdays by their names: Monday is 1. */
export const weekdayNames = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const

export interface YearMonthDay {
  readonly year: number
  /** 1 to 12 */
  readonly month: number
  readonly day: number
}

/**
 * Year, month and day of an epoch day, in whole numbers: years counted from 1 March, so that a leap day comes last
 * (the algorithm known as civil_from_days, from memory).
 */
export function yearMonthDayOf(day: EpochDay): YearMonthDay {
  const shifted = day + 719_468
  const era = Math.floor(shifted / 146_097)
  const dayOfEra = shifted - era * 146_097
  const yearOfEra = Math.floor(
    (dayOfEra -
      Math.floor(dayOfEra / 1460) +
      Math.floor(dayOfEra / 36_524) -
      Math.floor(dayOfEra / 146_096)) /
      365,
  )
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const marchMonth = Math.floor((5 * dayOfYear + 2) / 153)
  const month = marchMonth < 10 ? marchMonth + 3 : marchMonth - 9
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0)
  return { year, month, day: dayOfYear - Math.floor((153 * marchMonth + 2) / 5) + 1 }
}

function epochDayFrom({ year, month, day }: YearMonthDay): EpochDay {
  return Date.UTC(year, month - 1, day) / dayMs
}

function daysInMonth(year: number, month: number): number {
  return new Date(Date.UTC(year, month, 0)).getUTCDate()
}

/** A number of months later (or earlier). A day that does not exist there becomes the month's last day. */
export function addMonths(day: EpochDay, months: number): EpochDay {
  const from = yearMonthDayOf(day)
  const monthIndex = from.year * 12 + (from.month - 1) + months
  const year = Math.floor(monthIndex / 12)
  const month = monthIndex - year * 12 + 1
  return epochDayFrom({ year, month, day: Math.min(from.day, daysInMonth(year, month)) })
}

/** Minute of the day of `HH:MM`; `24:00` is the end of the day. */
export function minuteOfDay(timeOfDay: string): MinuteOfDay {
  return Number(timeOfDay.slice(0, 2)) * 60 + Number(timeOfDay.slice(3, 5))
}

/** A part of a time of day or date with two digits at least: `07`. */
export function twoDigits(part: number): string {
  return part < 10 ? `0${part}` : String(part)
}

/** `HH:MM` of a minute of the day. */
export function timeOfDayOf(minute: MinuteOfDay): string {
  return `${twoDigits(Math.floor(minute / 60))}:${twoDigits(minute % 60)}`
}
