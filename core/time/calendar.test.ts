import { describe, expect, test } from '@jest/globals'
import type { CalendarUnit } from '../model/timing.ts'
import { addCalendar, addExact, addToDay } from './arithmetic.ts'
import {
  addMonths,
  epochDayOf,
  isoDateOf,
  minuteOfDay,
  timeOfDayOf,
  weekdayOf,
  yearMonthDayOf,
} from './calendar.ts'
import { clockTime, dateAndTime, isoWithOffset, longDate, shortDate } from './format.ts'
import { exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { calendarsOf } from '../planning/slice.ts'
import { realZones } from './realZones.ts'

const berlin = realZones.zone('Europe/Berlin')
const office = calendarsOf(exampleSettings(realZones)).office
const utc = (text: string) => Date.parse(text)
const later = (date: string, amount: number, unit: CalendarUnit, side: 'after' | 'before') => {
  const day = addToDay(epochDayOf(date), amount, unit, side, office)
  return day === null ? null : isoDateOf(day)
}
const calendar = (
  instant: number,
  amount: number,
  unit: CalendarUnit,
  side: 'after' | 'before',
  atTime?: string,
) =>
  addCalendar(
    berlin,
    instant,
    { amount, unit },
    side,
    atTime === undefined ? null : minuteOfDay(atTime),
    office,
  ) ?? 0
const monthsLater = (date: string, months: number) => isoDateOf(addMonths(epochDayOf(date), months))

describe('dates', () => {
  test('weekdays run from Monday, 1, to Sunday, 7', () => {
    // ISO 8601; 1970-01-01 was a Thursday and 2000-01-01 a Saturday.
    expect(weekdayOf(0)).toBe(4)
    expect(weekdayOf(epochDayOf('2000-01-01'))).toBe(6)
    expect(weekdayOf(epochDayOf('1969-12-28'))).toBe(7)
  })

  test('year, month and day agree with the host over four thousand years', () => {
    for (let day = epochDayOf('0400-01-01'); day < epochDayOf('4400-01-01'); day += 97) {
      const host = new Date(day * 86_400_000)
      const expected = { year: host.getUTCFullYear(), month: host.getUTCMonth() + 1, day: host.getUTCDate() }
      expect(yearMonthDayOf(day)).toEqual(expected)
    }
  })

  test('a month later clamps to the last day of the month', () => {
    expect(monthsLater('2026-01-31', 1)).toBe('2026-02-28')
    expect(monthsLater('2024-01-31', 1)).toBe('2024-02-29')
    expect(monthsLater('2024-02-29', 12)).toBe('2025-02-28')
    expect(monthsLater('2026-03-31', -1)).toBe('2026-02-28')
    expect(monthsLater('2025-11-30', 3)).toBe('2026-02-28')
    expect(monthsLater('2026-01-15', -13)).toBe('2024-12-15')
  })

  test('the century rule of leap years holds', () => {
    expect(monthsLater('1900-01-31', 1)).toBe('1900-02-28')
    expect(monthsLater('2000-01-31', 1)).toBe('2000-02-29')
  })

  test('weeks and years are days and months', () => {
    expect(later('2026-05-14', 2, 'weeks', 'after')).toBe('2026-05-28')
    expect(later('2026-05-14', 1, 'years', 'before')).toBe('2025-05-14')
  })

  test('times of day are read and written', () => {
    expect(minuteOfDay('18:05')).toBe(1085)
    expect(minuteOfDay('24:00')).toBe(1440)
    expect(timeOfDayOf(65)).toBe('01:05')
  })

  test('text that is no date is refused', () => {
    expect(() => epochDayOf('soon')).toThrow(RangeError)
  })
})

describe('arithmetic on the local clock', () => {
  test('1 day before Sunday 05:30 is Saturday 05:30 on the wall, across the change of 29 March 2026', () => {
    const sunday = utc('2026-03-29T03:30:00Z')
    expect(dateAndTime(berlin, sunday)).toBe('Sun 29 Mar 2026, 05:30')
    const before = calendar(sunday, 1, 'days', 'before')
    expect(dateAndTime(berlin, before)).toBe('Sat 28 Mar 2026, 05:30')
    expect(sunday - before).toBe(23 * 3_600_000)
  })

  test('24 hours before it are exact: Saturday 04:30', () => {
    expect(dateAndTime(berlin, addExact(utc('2026-03-29T03:30:00Z'), -24, 'hours', office) ?? 0)).toBe(
      'Sat 28 Mar 2026, 04:30',
    )
  })

  test('0 days from an instant is that instant, also within an hour that occurs twice', () => {
    const second = utc('2026-10-25T01:30:00Z')
    expect(clockTime(berlin, second)).toBe('02:30')
    expect(calendar(second, 0, 'days', 'after')).toBe(second)
  })

  test('a set time of day replaces the reading', () => {
    const instant = calendar(utc('2026-05-16T03:20:00Z'), 1, 'days', 'before', '18:00')
    expect(dateAndTime(berlin, instant)).toBe('Fri 15 May 2026, 18:00')
  })
})

describe('words for times', () => {
  test('weekday, date and 24-hour time; the year only where it is another', () => {
    const instant = utc('2026-05-16T03:20:00Z')
    expect(longDate(epochDayOf('2026-05-16'))).toBe('Saturday 16 May 2026')
    expect(shortDate(epochDayOf('2026-05-16'), 2026)).toBe('Sat 16 May')
    expect(shortDate(epochDayOf('2027-05-16'), 2026)).toBe('Sun 16 May 2027')
    expect(dateAndTime(berlin, instant, 2026)).toBe('Sat 16 May, 05:20')
  })

  test('ISO 8601 with the offset of the zone', () => {
    expect(isoWithOffset(berlin, utc('2026-05-16T03:20:00Z'))).toBe('2026-05-16T05:20:00+02:00')
    const stJohns = realZones.zone('America/St_Johns')
    expect(isoWithOffset(stJohns, utc('2026-01-16T03:20:07Z'))).toBe('2026-01-15T23:50:07-03:30')
  })
})
