import { describe, expect, test } from '@jest/globals'
import type { OpeningHours } from '../model/openingHours.ts'
import { at } from '../rehearsal/exampleBusiness.ts'
import { epochDayOf } from './calendar.ts'
import {
  firstOpenFrom,
  isClosedOn,
  lastOpenUpTo,
  nearestOpenDay,
  nearestOpenOn,
  openTimesOf,
} from './openTimes.ts'
import { realZones } from './realZones.ts'

const zone = realZones.zone('Europe/Berlin')
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const ascension = epochDayOf('2026-05-14')

const office: OpeningHours = {
  weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '08:00', to: '17:00' }] : [])),
  holidays: 'closed',
  closedDates: ['2026-05-15'],
}
const times = openTimesOf(office, zone, (day) => day === ascension)

describe('open times', () => {
  test('both ends of an interval count as open', () => {
    expect(firstOpenFrom(times, moment('2026-05-13 08:00'))).toBe(moment('2026-05-13 08:00'))
    expect(lastOpenUpTo(times, moment('2026-05-13 17:00'))).toBe(moment('2026-05-13 17:00'))
    expect(firstOpenFrom(times, moment('2026-05-13 17:00'))).toBe(moment('2026-05-13 17:00'))
  })

  test('a holiday, a closed date and the weekend are passed over in both directions', () => {
    expect(firstOpenFrom(times, moment('2026-05-13 17:01'))).toBe(moment('2026-05-18 08:00'))
    expect(lastOpenUpTo(times, moment('2026-05-18 07:59'))).toBe(moment('2026-05-13 17:00'))
    expect(isClosedOn(times, ascension)).toBe(true)
  })

  test('holidays can be open', () => {
    const open = openTimesOf({ ...office, holidays: 'open' }, zone, (day) => day === ascension)
    expect(isClosedOn(open, ascension)).toBe(false)
  })

  test('a day with a break has two stretches', () => {
    const split = openTimesOf(
      {
        ...office,
        weekly: office.weekly.map(() => [
          { from: '13:00', to: '18:00' },
          { from: '08:00', to: '12:00' },
        ]),
      },
      zone,
      () => false,
    )
    expect(firstOpenFrom(split, moment('2026-05-13 12:30'))).toBe(moment('2026-05-13 13:00'))
    expect(lastOpenUpTo(split, moment('2026-05-13 12:30'))).toBe(moment('2026-05-13 12:00'))
    const day = epochDayOf('2026-05-13')
    expect(nearestOpenOn(split, day, moment('2026-05-13 12:20'))).toBe(moment('2026-05-13 12:00'))
    expect(nearestOpenOn(split, day, moment('2026-05-13 12:30'))).toBe(moment('2026-05-13 12:00'))
    expect(nearestOpenOn(split, day, moment('2026-05-13 19:00'))).toBe(moment('2026-05-13 18:00'))
  })

  test('the nearest open day lies on the side asked for', () => {
    expect(nearestOpenDay(times, ascension, 'earlier')).toBe(epochDayOf('2026-05-13'))
    expect(nearestOpenDay(times, ascension, 'later')).toBe(epochDayOf('2026-05-18'))
  })

  test('a search gives up after 60 days', () => {
    const never = openTimesOf({ ...office, weekly: office.weekly.map(() => []) }, zone, () => false)
    expect(firstOpenFrom(never, moment('2026-05-13 12:00'))).toBeNull()
    expect(lastOpenUpTo(never, moment('2026-05-13 12:00'))).toBeNull()
    expect(nearestOpenDay(never, ascension, 'later')).toBeNull()
    expect(nearestOpenOn(never, ascension, moment('2026-05-14 10:00'))).toBeNull()
  })

  test('an interval turned over by a clock gap is empty', () => {
    const nightOnly = openTimesOf(
      { ...office, weekly: office.weekly.map(() => [{ from: '02:10', to: '02:50' }]) },
      zone,
      () => false,
    )
    const gapDay = epochDayOf('2026-03-29')
    const [stretch] = nightOnly.stretchesOn(gapDay)
    expect(stretch).toEqual({ from: moment('2026-03-29 03:10'), to: moment('2026-03-29 03:50') })
    const turned = openTimesOf(
      { ...office, weekly: office.weekly.map(() => [{ from: '02:30', to: '03:10' }]) },
      zone,
      () => false,
    )
    expect(isClosedOn(turned, gapDay)).toBe(true)
  })
})
