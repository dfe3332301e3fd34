import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { allowanceLeft, windowsAt } from '../engine/atSending/allowance.ts'
import { noAllowance } from '../model/allowance.ts'
import { at } from '../rehearsal/exampleBusiness.ts'
import { dayMs, hourMs, minuteMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { forecastDelays, surelyFits } from './forecast.ts'
import { quarterMs } from './load.ts'

const zone = realZones.zone('Europe/Berlin')
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const none = noAllowance
const nothingSent = () => 0
const coming = (id: string, local: string, isPromotional = false) => ({
  id,
  dueAt: moment(local),
  isPromotional,
})

describe('the allowance of a mail account', () => {
  test('counts by the hour, the day and the month of the business’s clock', () => {
    const all = { ...none, perHour: 1, perDay: 2, perMonth: 3 }
    // The day of the clock change has 23 hours.
    expect(
      windowsAt(all, zone, moment('2026-03-29 12:30')).map(({ from, to }) => (to - from) / hourMs),
    ).toEqual([1, 23, 31 * 24 - 1])
  })

  test('is what the tightest of them leaves', () => {
    const sent = [moment('2026-05-14 09:05'), moment('2026-05-14 08:10'), moment('2026-05-02 08:00')]
    const since = (from: number) => sent.filter((one) => one >= from).length
    const now = moment('2026-05-14 09:30')
    expect(allowanceLeft({ ...none, perHour: 2 }, zone, now, since)).toEqual({
      left: 1,
      freeAt: moment('2026-05-14 10:00'),
    })
    expect(allowanceLeft({ ...none, perHour: 2, perDay: 2 }, zone, now, since)).toEqual({
      left: 0,
      freeAt: moment('2026-05-15 00:00'),
    })
    expect(allowanceLeft({ ...none, perMonth: 3 }, zone, now, since)).toEqual({
      left: 0,
      freeAt: moment('2026-06-01 00:00'),
    })
    expect(allowanceLeft(none, zone, now, since)).toEqual({ left: Infinity, freeAt: null })
  })
})

describe('the forecast', () => {
  test('service messages first, the rest when the account takes more', () => {
    const queue = [
      coming('news1', '2026-05-14 09:00', true),
      coming('news2', '2026-05-14 09:00', true),
      coming('eve', '2026-05-14 09:00'),
    ]
    expect(
      forecastDelays({ ...none, perDay: 2 }, zone, moment('2026-05-14 08:00'), queue, nothingSent),
    ).toEqual([{ id: 'news2', dueAt: moment('2026-05-14 09:00'), at: moment('2026-05-15 00:00') }])
  })

  test('counts what has gone already, and says nothing without a limit', () => {
    const queue = [coming('eve', '2026-05-14 09:00')]
    const now = moment('2026-05-14 08:00')
    const today = (from: number) => (from <= now ? 3 : 0)
    expect(forecastDelays({ ...none, perDay: 3 }, zone, now, queue, today)).toEqual([
      { id: 'eve', dueAt: moment('2026-05-14 09:00'), at: moment('2026-05-15 00:00') },
    ])
    expect(forecastDelays(none, zone, now, queue, today)).toEqual([])
  })

  test('never lets more go in an hour or a day than the account takes, and delays nothing for nothing', () => {
    const some = fc.array(
      fc.record({
        id: fc.uuid(),
        dueAt: fc
          .integer({ min: 0, max: 5 * 24 * 60 })
          .map((minutes) => moment('2026-05-14 08:00') + minutes * minuteMs),
        isPromotional: fc.boolean(),
      }),
      { maxLength: 60 },
    )
    fc.assert(
      fc.property(
        some,
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 2, max: 12 }),
        (queue, perHour, perDay) => {
          const allowance = { ...none, perHour, perDay }
          const now = moment('2026-05-14 08:00')
          const delays = new Map(
            forecastDelays(allowance, zone, now, queue, nothingSent).map((one) => [one.id, one.at]),
          )
          const went = queue.map(({ id, dueAt }) => delays.get(id) ?? dueAt)
          const most = (length: number, offset: number) => {
            const counts = new Map<number, number>()
            for (const one of went) {
              const key = Math.floor((one + offset) / length)
              counts.set(key, (counts.get(key) ?? 0) + 1)
            }
            return Math.max(0, ...counts.values())
          }
          expect(most(hourMs, 0)).toBeLessThanOrEqual(perHour)
          expect(most(dayMs, 2 * hourMs)).toBeLessThanOrEqual(perDay)
          for (const { id, dueAt } of queue) expect(delays.get(id) ?? dueAt).toBeGreaterThanOrEqual(dueAt)
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('whether everything surely fits', () => {
  const now = moment('2026-05-14 09:00')
  const quartersOf = (moments: readonly number[]) =>
    moments.map((one) => ({ quarter: Math.floor(one / quarterMs), count: 1 }))

  test('what it says so of waits nowhere, and where it does not, something may', () => {
    const counted = { fits: 0, tight: 0 }
    const limits = fc.record({
      perMinute: fc.constant(null),
      perHour: fc.option(fc.integer({ min: 1, max: 4 })),
      perDay: fc.option(fc.integer({ min: 1, max: 8 })),
      perMonth: fc.option(fc.integer({ min: 1, max: 12 })),
    })
    const due = fc.array(fc.integer({ min: -120, max: 60 * 24 * 40 }), { maxLength: 12 })
    fc.assert(
      fc.property(limits, due, fc.integer({ min: 0, max: 2 }), (allowance, minutes, sent) => {
        const moments = minutes.map((one) => now + one * minuteMs)
        const messages = moments.map((dueAt, index) => ({
          id: `sd_${index}`,
          dueAt,
          isPromotional: index % 3 === 0,
        }))
        const sentSince = (from: number) => (from <= now ? sent : 0)
        const fits = surelyFits(allowance, zone, now, quartersOf(moments), sentSince)
        const delays = forecastDelays(allowance, zone, now, messages, sentSince)
        counted[fits ? 'fits' : 'tight'] += 1
        if (fits) expect(delays).toEqual([])
        else expect(delays).not.toEqual([])
      }),
      { numRuns: 500 },
    )
    expect(Math.min(counted.fits, counted.tight)).toBeGreaterThan(50)
  })
})
