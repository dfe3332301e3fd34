import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { at } from '../rehearsal/exampleBusiness.ts'
import { dayMs, hourMs, isoDateOf } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { dayAt } from '../time/zones.ts'
import { byLocalDay, crowdedDays, fullestWeek, quarterMs } from './load.ts'

const quarterOf = (zone: string, local: string) => Math.floor(at(realZones, zone, local) / quarterMs)

describe('counts by local day', () => {
  test('a quarter before midnight belongs to the day before, also where clocks are 45 minutes off', () => {
    for (const zone of ['Europe/Berlin', 'Asia/Kathmandu', 'America/St_Johns']) {
      const quarters = ['2026-05-14 23:45', '2026-05-15 00:00', '2026-05-14 00:00'].map((local) => ({
        quarter: quarterOf(zone, local),
        count: 1,
      }))
      const days = [...byLocalDay(quarters, realZones.zone(zone))].map(([day, count]) => [
        isoDateOf(day),
        count,
      ])
      expect(days).toEqual([
        ['2026-05-14', 2],
        ['2026-05-15', 1],
      ])
    }
  })

  test('all zones that are in use change their day at a whole quarter of an hour', () => {
    const from = Date.UTC(2026, 0, 1)
    for (const name of realZones.names()) {
      const zone = realZones.zone(name)
      for (let at = from; at < from + dayMs; at += hourMs) {
        const begins = Math.floor(at / quarterMs) * quarterMs
        expect(dayAt(zone, begins + quarterMs - 1)).toBe(dayAt(zone, begins))
      }
    }
  })
})

describe('crowded', () => {
  test('is a day with at least ten messages and twice the ordinary', () => {
    const days = new Map([
      [1, 4],
      [2, 5],
      [3, 9],
      [4, 10],
      [5, 0],
    ])
    expect([...crowdedDays(days)]).toEqual([4])
    expect([
      ...crowdedDays(
        new Map([
          [1, 30],
          [2, 31],
          [3, 40],
        ]),
      ),
    ]).toEqual([])
  })

  test('the fullest week of a client is found', () => {
    const days = [0, 1, 6, 7.5, 8, 9, 30]
    expect(fullestWeek(days.map((day) => day * dayMs))).toEqual({
      messages: 4,
      fromAt: 6 * dayMs,
      toAt: 9 * dayMs,
    })
    expect(fullestWeek([])).toBeNull()
  })

  test('no seven days hold more than the fullest ones', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 * 24 }), { minLength: 1, maxLength: 40 }),
        (hours) => {
          const moments = hours.map((hour) => hour * hourMs)
          const counts = moments.map(
            (from) => moments.filter((one) => one >= from && one < from + 7 * dayMs).length,
          )
          expect(fullestWeek(moments)?.messages).toBe(Math.max(...counts))
        },
      ),
    )
  })
})
