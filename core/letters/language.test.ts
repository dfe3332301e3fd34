import { describe, expect, test } from '@jest/globals'
import { epochDayOf } from '../time/calendar.ts'
import { distanceWords, longDateIn, moneyIn, peopleIn, shortDateIn, weekdayIn } from './language.ts'

const days = Array.from({ length: 400 }, (_, index) => epochDayOf('2026-01-01') + index)
const asDate = (day: number) => new Date(day * 86_400_000)

describe('dates in both languages', () => {
  // Source: Unicode CLDR month and weekday names, as the runtime's ICU has them.
  test.each(['en', 'de'] as const)('have the names of CLDR, %s', (language) => {
    const weekday = new Intl.DateTimeFormat(language, { weekday: 'long', timeZone: 'UTC' })
    const month = new Intl.DateTimeFormat(language, { month: 'long', timeZone: 'UTC' })
    for (const day of days) {
      expect(weekdayIn(language, day)).toBe(weekday.format(asDate(day)))
      expect(longDateIn(language, day)).toContain(month.format(asDate(day)))
      expect(shortDateIn(language, day)).toContain(month.format(asDate(day)))
    }
  })

  test('German dates are those of CLDR whole', () => {
    const full = new Intl.DateTimeFormat('de', { dateStyle: 'full', timeZone: 'UTC' })
    for (const day of days) expect(longDateIn('de', day)).toBe(full.format(asDate(day)))
  })
})

describe('how long it still is', () => {
  const sending = epochDayOf('2026-05-01')
  test.each([
    [0, 'today', 'heute'],
    [1, 'tomorrow', 'morgen'],
    [-1, 'yesterday', 'gestern'],
    [2, 'in 2 days', 'in 2 Tagen'],
    [13, 'in 13 days', 'in 13 Tagen'],
    [14, 'in 2 weeks', 'in 2 Wochen'],
    [21, 'in 3 weeks', 'in 3 Wochen'],
    [25, 'in 25 days', 'in 25 Tagen'],
    [92, 'in 3 months', 'in 3 Monaten'],
    [-21, '3 weeks ago', 'vor 3 Wochen'],
  ])('%i days: %s, %s', (distance, english, german) => {
    expect(distanceWords('en', sending, sending + distance)).toBe(english)
    expect(distanceWords('de', sending, sending + distance)).toBe(german)
  })
})

test('money and numbers of people', () => {
  expect(moneyIn('en', 123_456_789)).toBe('€1,234,567.89')
  expect(moneyIn('de', 123_456_789)).toBe('1.234.567,89 €')
  expect(moneyIn('en', 5)).toBe('€0.05')
  expect([peopleIn('en', 1), peopleIn('en', 2)]).toEqual(['1 person', '2 people'])
  expect([peopleIn('de', 1), peopleIn('de', 2)]).toEqual(['1 Person', '2 Personen'])
})
