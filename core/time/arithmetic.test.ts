import { describe, expect, test } from '@jest/globals'
import { Temporal as JsTemporal } from '@js-temporal/polyfill'
import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import type { OpeningHours } from '../model/openingHours.ts'
import { at } from '../rehearsal/exampleBusiness.ts'
import { addCalendar, addExact, addWorkingDays } from './arithmetic.ts'
import { epochDayOf, hourMs, isoDateOf, minuteMs } from './calendar.ts'
import { dateAndTime } from './format.ts'
import { firstOpenFrom, isOpenAt, lastOpenUpTo, openTimesOf, withinWakingHours } from './openTimes.ts'
import { realZones } from './realZones.ts'
import { nextYearlyDay, yearlyDay } from './yearly.ts'

const berlin = realZones.zone('Europe/Berlin')
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const hours = (from: string, to: string, days = 5): OpeningHours => ({
  weekly: Array.from({ length: 7 }, (_, day) => (day < days ? [{ from, to }] : [])),
  holidays: 'closed',
  closedDates: [],
})
const ascension = epochDayOf('2026-05-14')
const office = openTimesOf(hours('08:00', '17:00'), berlin, (day) => day === ascension)
const business = (from: string, amount: number) => {
  const instant = addExact(moment(from), amount, 'business hours', office)
  return instant === null ? null : dateAndTime(berlin, instant)
}

describe('business hours', () => {
  test('Friday 18:00 + 24 business hours, open Monday to Friday 8 to 17, is Wednesday 14:00', () => {
    // Common practice, no source: "24 business hours" is arithmetic in opening hours.
    expect(business('2026-05-15 18:00', 24)).toBe('Wed 20 May 2026, 14:00')
  })

  test('a sum that ends exactly at closing is closing time, a difference that ends at opening is opening', () => {
    expect(business('2026-05-18 08:00', 9)).toBe('Mon 18 May 2026, 17:00')
    expect(business('2026-05-18 17:00', -9)).toBe('Mon 18 May 2026, 08:00')
    expect(business('2026-05-19 09:00', -1)).toBe('Tue 19 May 2026, 08:00')
  })

  test('0 is the anchor itself, even at night', () => {
    expect(business('2026-05-16 03:00', 0)).toBe('Sat 16 May 2026, 03:00')
  })

  test('a holiday does not count', () => {
    expect(business('2026-05-13 16:00', 2)).toBe('Fri 15 May 2026, 09:00')
    expect(business('2026-05-15 09:00', -2)).toBe('Wed 13 May 2026, 16:00')
  })

  test('are elapsed time also on a day the clock changes', () => {
    const always = openTimesOf(hours('00:00', '24:00', 7), berlin, () => false)
    const from = moment('2026-03-29 00:00')
    expect(dateAndTime(berlin, addExact(from, 10, 'business hours', always) ?? 0)).toBe(
      'Sun 29 Mar 2026, 11:00',
    )
  })

  test('where the office never opens there is no answer', () => {
    const never = openTimesOf(hours('08:00', '17:00', 0), berlin, () => false)
    expect(addExact(moment('2026-05-13 16:00'), 1, 'business hours', never)).toBeNull()
    expect(addWorkingDays(never, ascension, 1, 'after')).toBeNull()
  })
})

describe('working days', () => {
  const days = (from: string, amount: number, side: 'after' | 'before') =>
    isoDateOf(addWorkingDays(office, epochDayOf(from), amount, side) ?? 0)

  test('pass over weekends and holidays', () => {
    expect(days('2026-05-13', 1, 'after')).toBe('2026-05-15')
    expect(days('2026-05-15', 2, 'after')).toBe('2026-05-19')
    expect(days('2026-05-18', 2, 'before')).toBe('2026-05-13')
    expect(days('2026-05-16', 1, 'after')).toBe('2026-05-18')
  })

  test('0 is the day itself if it is one, else the next on that side', () => {
    expect(days('2026-05-13', 0, 'after')).toBe('2026-05-13')
    expect(days('2026-05-16', 0, 'after')).toBe('2026-05-18')
    expect(days('2026-05-16', 0, 'before')).toBe('2026-05-15')
  })

  test('an after-step whose time of day falls before its anchor takes the next working day', () => {
    const from = moment('2026-05-15 18:00')
    const on = addCalendar(berlin, from, { amount: 0, unit: 'working days' }, 'after', 9 * 60, office)
    expect(dateAndTime(berlin, on ?? 0)).toBe('Mon 18 May 2026, 09:00')
  })
})

describe('yearly dates', () => {
  test('29 February in a common year, by the setting', () => {
    expect(isoDateOf(yearlyDay('02-29', 2027, '28 February'))).toBe('2027-02-28')
    expect(isoDateOf(yearlyDay('02-29', 2027, '1 March'))).toBe('2027-03-01')
    expect(isoDateOf(yearlyDay('02-29', 2028, '1 March'))).toBe('2028-02-29')
    expect(isoDateOf(yearlyDay('02-29', 1900, '1 March'))).toBe('1900-03-01')
  })

  test('the next one is not before the date it is asked from', () => {
    const next = (monthDay: string, from: string) =>
      isoDateOf(nextYearlyDay(monthDay, epochDayOf(from), '28 February'))
    expect(next('05-14', '2026-05-14')).toBe('2026-05-14')
    expect(next('05-13', '2026-05-14')).toBe('2027-05-13')
    expect(next('02-29', '2026-03-01')).toBe('2027-02-28')
  })
})

describe('somebody on another clock', () => {
  const sending = openTimesOf(hours('08:00', '20:00', 7), berlin, () => false)

  test('is not written to between 21:00 and 08:00 there', () => {
    const newYork = withinWakingHours(sending, realZones.zone('America/New_York'))
    // 08:00 in New York is 14:00 in Berlin.
    expect(firstOpenFrom(newYork, moment('2026-05-14 09:00'))).toBe(moment('2026-05-14 14:00'))
    expect(lastOpenUpTo(newYork, moment('2026-05-14 13:00'))).toBe(moment('2026-05-13 20:00'))
  })

  test('where the two leave less than an hour, that date has the other clock’s 08:00 to 21:00', () => {
    const auckland = realZones.zone('Pacific/Auckland')
    const early = openTimesOf(hours('11:30', '20:00', 7), berlin, () => false)
    const there = withinWakingHours(early, auckland)
    // 08:00 to 21:00 of 14 May in Auckland is 22:00 of 13 May to 11:00 of 14 May in Berlin.
    expect(there.stretchesOn(ascension)).toEqual([
      { from: moment('2026-05-13 22:00'), to: moment('2026-05-14 11:00') },
    ])
    expect(isOpenAt(there, moment('2026-05-13 23:00'))).toBe(true)
    expect(firstOpenFrom(there, moment('2026-05-13 23:00'))).toBe(moment('2026-05-13 23:00'))
    expect(lastOpenUpTo(there, moment('2026-05-14 15:00'))).toBe(moment('2026-05-14 11:00'))
  })

  test('a closed day stays closed', () => {
    const weekdays = openTimesOf(hours('11:30', '20:00', 5), berlin, () => false)
    const there = withinWakingHours(weekdays, realZones.zone('Pacific/Auckland'))
    expect(there.stretchesOn(epochDayOf('2026-05-16'))).toEqual([])
  })
})

describe('calendar arithmetic against two Temporal references', () => {
  // temporal-polyfill and @js-temporal/polyfill; 210,000 cases in the full run.
  const zoneNames = [
    'Europe/Berlin',
    'America/New_York',
    'Australia/Lord_Howe',
    'Africa/Casablanca',
    'America/Sao_Paulo',
    'Pacific/Auckland',
  ]
  const numRuns = process.env['VORFREUDE_FULL'] === 'yes' ? 35_000 : 300
  const first = Date.UTC(1996, 0, 1) / minuteMs
  const last = Date.UTC(2024, 0, 1) / minuteMs
  // The references use the host's tz data, which can be older than ours: they are asked about its past only.
  const hostKnowsUntil = Date.UTC(2025, 0, 1)
  const anyCase = fc.record({
    instant: fc.integer({ min: first, max: last }).map((minute) => minute * minuteMs),
    amount: fc.integer({ min: 0, max: 60 }),
    unit: fc.constantFrom('days', 'weeks', 'months'),
    side: fc.constantFrom('before', 'after'),
    atMinute: fc.option(fc.integer({ min: 0, max: 1439 })),
  })

  test.each(zoneNames)(
    'in %s',
    (name) => {
      const zone = realZones.zone(name)
      fc.assert(
        fc.property(anyCase, ({ instant, amount, unit, side, atMinute }) => {
          fc.pre(amount > 0)
          const ours = addCalendar(zone, instant, { amount, unit }, side, atMinute, office)
          fc.pre(ours !== null && ours < hostKnowsUntil)
          for (const Reference of [Temporal, JsTemporal]) {
            const from = Reference.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(name)
            const date = from.toPlainDate().add({ [unit]: side === 'before' ? -amount : amount })
            const time =
              atMinute === null
                ? from.toPlainTime()
                : { hour: Math.floor(atMinute / 60), minute: atMinute % 60 }
            const local = {
              year: date.year,
              month: date.month,
              day: date.day,
              hour: time.hour,
              minute: time.minute,
            }
            const expected = Reference.ZonedDateTime.from(
              { ...local, second: from.second, timeZone: name },
              { disambiguation: 'compatible' },
            )
            const seconds = atMinute === null ? 0 : from.second * 1000
            expect(ours).toBe(expected.epochMilliseconds - seconds)
          }
        }),
        { numRuns },
      )
    },
    600_000,
  )
})

describe('the hours of a span', () => {
  test('minutes and hours are exact', () => {
    expect(addExact(0, 90, 'minutes', office)).toBe(1.5 * hourMs)
    expect(addExact(0, -2, 'hours', office)).toBe(-2 * hourMs)
    expect(addExact(0, 49, 'hours', office)).toBe(49 * hourMs)
  })
})
