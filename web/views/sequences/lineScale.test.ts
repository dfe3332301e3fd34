import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import type { Pin } from '#core/sequences/dayZero.ts'
import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'
import { lineScale } from './lineScale.ts'

const pin = (offsetMs: number, lane = 'event'): Pin => ({
  stepId: `st_${offsetMs}`,
  lane,
  offsetMs,
  hangsFrom: null,
  repeatsMs: [],
  arm: null,
  isBranch: false,
})
const offset = fc.integer({ min: -700 * 24 * 60, max: 700 * 24 * 60 }).map((minutes) => minutes * minuteMs)

describe('the scale of a sequence', () => {
  test('keeps order, stays on the line, and leads back to the offset', () => {
    fc.assert(
      fc.property(fc.array(offset, { minLength: 1, maxLength: 12 }), (offsets) => {
        const pins = offsets.map((one) => pin(one))
        const { place, offsetAt } = lineScale(pins, true)
        const sorted = offsets.toSorted((one, other) => one - other)
        const places = sorted.map((one) => place('event', one))
        expect(places.every((at) => at > 0 && at < 1)).toBe(true)
        expect(places.every((at, index) => index === 0 || at >= (places[index - 1] ?? 0))).toBe(true)
        for (const one of sorted) {
          // To the pixel of a wide screen.
          const there = place('event', one)
          expect(Math.abs(place('event', offsetAt('event', there)) - there)).toBeLessThan(1 / 4000)
        }
      }),
    )
  })

  test('tells a quarter of an hour and a year apart, on both sides of day 0', () => {
    const { place, zeroPlace } = lineScale([pin(-365 * dayMs), pin(365 * dayMs)], true)
    const zero = zeroPlace ?? 0
    for (const sign of [-1, 1]) {
      const at = (ms: number) => Math.abs(place('event', sign * ms) - zero)
      // On a line 1,200 pixels wide: never closer than 20 pixels.
      const steps = [15 * minuteMs, hourMs, 3 * hourMs, dayMs, 7 * dayMs, 30 * dayMs, 365 * dayMs].map(at)
      expect(steps.every((one, index) => one - (steps[index - 1] ?? 0) > 20 / 1200)).toBe(true)
    }
  })

  test('has day 0 in the middle of what is left beside the beginning, and none without an event', () => {
    expect(lineScale([pin(-dayMs)], true).zeroPlace).toBeCloseTo((0.03 + 0.06 + 0.035 + 0.985) / 2, 5)
    expect(lineScale([pin(dayMs, 'start')], false).zeroPlace).toBeNull()
  })

  test('its marks do not stand on each other', () => {
    const { ticks } = lineScale([pin(-365 * dayMs), pin(90 * dayMs), pin(7 * dayMs, 'start')], true)
    const places = ticks.map(({ place }) => place).toSorted((one, other) => one - other)
    expect(places.length).toBeGreaterThan(8)
    expect(places.every((at, index) => index === 0 || at - (places[index - 1] ?? 0) > 0.015)).toBe(true)
  })
})
