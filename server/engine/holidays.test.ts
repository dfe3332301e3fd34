import { describe, expect, test } from '@jest/globals'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { holidaysOf } from './holidays.ts'

/** Gregorian Easter Sunday by the anonymous algorithm (J. Meeus, Astronomical Algorithms, chapter 8). */
function easterSunday(year: number): string {
  const a = year % 19
  const b = Math.floor(year / 100)
  const c = year % 100
  const d = Math.floor(b / 4)
  const e = b % 4
  const g = Math.floor((8 * b + 13) / 25)
  const h = (19 * a + b - d - g + 15) % 30
  const i = Math.floor(c / 4)
  const k = c % 4
  const l = (32 + 2 * e + 2 * i - h - k) % 7
  const m = Math.floor((a + 11 * h + 19 * l) / 433)
  const month = Math.floor((h + l - 7 * m + 90) / 25)
  const day = (h + l - 7 * m + 33 * month + 19) % 32
  return `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
}

const german = holidaysOf({ country: 'DE', subdivision: null })
const bavarian = holidaysOf({ country: 'DE', subdivision: 'BY' })

describe('public holidays of a region', () => {
  test('the algorithm gives known Easter dates', () => {
    // Published Easter dates.
    expect([2000, 2008, 2011, 2019, 2024, 2025, 2026, 2030].map(easterSunday)).toEqual([
      '2000-04-23',
      '2008-03-23',
      '2011-04-24',
      '2019-04-21',
      '2024-03-31',
      '2025-04-20',
      '2026-04-05',
      '2030-04-21',
    ])
  })

  test.each(Array.from({ length: 31 }, (_, index) => 2000 + index))(
    'Good Friday, Easter Monday, Ascension and Whit Monday of %i hang on that Easter',
    (year) => {
      const easter = epochDayOf(easterSunday(year))
      const names = [-2, 1, 39, 50].map((days) => german(easter + days))
      expect(names).toEqual(['Good Friday', 'Easter Monday', 'Ascension Day', 'Whit Monday'])
    },
  )

  test('14 May 2026 is Ascension Day; the day before is an ordinary one', () => {
    expect(german(epochDayOf('2026-05-14'))).toBe('Ascension Day')
    expect(german(epochDayOf('2026-05-13'))).toBeNull()
  })

  test('a subdivision has its own', () => {
    const corpusChristi = epochDayOf(easterSunday(2026)) + 60
    expect(isoDateOf(corpusChristi)).toBe('2026-06-04')
    expect(bavarian(corpusChristi)).toBe('Corpus Christi')
    expect(german(corpusChristi)).toBeNull()
  })
})
