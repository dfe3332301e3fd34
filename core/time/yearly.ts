import { epochDayOf, yearMonthDayOf, type EpochDay } from './calendar.ts'

/** Where a yearly 29 February falls in a common year. */
export type LeapDayRule = '28 February' | '1 March'

const isLeapYear = (year: number) => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0

/** The date of a yearly day (`MM-DD`) in a year. */
export function yearlyDay(monthDay: string, year: number, leapDay: LeapDayRule): EpochDay {
  const isMissing = monthDay === '02-29' && !isLeapYear(year)
  const day = isMissing ? (leapDay === '28 February' ? '02-28' : '03-01') : monthDay
  return epochDayOf(`${String(year).padStart(4, '0')}-${day}`)
}

/** The first occurrence of a yearly day that is not before a date. */
export function nextYearlyDay(monthDay: string, from: EpochDay, leapDay: LeapDayRule): EpochDay {
  const { year } = yearMonthDayOf(from)
  const thisYear = yearlyDay(monthDay, year, leapDay)
  return thisYear >= from ? thisYear : yearlyDay(monthDay, year + 1, leapDay)
}
