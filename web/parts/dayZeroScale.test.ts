import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'
import { dayZeroScale, pinRows } from './dayZeroScale.ts'

const day0 = Date.UTC(2026, 4, 16, 3, 20)

describe('the scale around day 0', () => {
  test('keeps the order of moments, day 0 between before and after, everything within the line', () => {
    const moment = fc
      .integer({ min: -400 * 1440, max: 400 * 1440 })
      .map((minutes) => day0 + minutes * minuteMs)
    fc.assert(
      fc.property(fc.array(moment, { minLength: 2, maxLength: 12 }), (moments) => {
        const { place } = dayZeroScale(day0, moments)
        const sorted = moments.toSorted((one, other) => one - other)
        for (const [index, at] of sorted.entries()) {
          expect(place(at)).toBeGreaterThanOrEqual(0)
          expect(place(at)).toBeLessThanOrEqual(1)
          const next = sorted[index + 1]
          if (next !== undefined && next > at) expect(place(next)).toBeGreaterThan(place(at))
        }
      }),
    )
  })

  test('leaves a quarter of an hour as readable as a month', () => {
    const { place, ticks } = dayZeroScale(day0, [day0 - 30 * dayMs])
    const width = (from: number, to: number) => place(day0 - from) - place(day0 - to)
    expect(width(15 * minuteMs, hourMs)).toBeGreaterThan(0.05)
    expect(width(14 * dayMs, 30 * dayMs)).toBeGreaterThan(0.04)
    expect(ticks.map(({ label }) => label)).toContain('30 d')
    expect(ticks.map(({ label }) => label)).not.toContain('90 d')
  })
})

describe('pins', () => {
  test('never overlap within a row', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1200 }), { maxLength: 15 }), (centres) => {
        const rows = pinRows(centres, 100)
        centres.forEach((one, index) => {
          centres.slice(index + 1).forEach((other, offset) => {
            if (rows[index] === rows[index + 1 + offset])
              expect(Math.abs(one - other)).toBeGreaterThanOrEqual(100)
          })
        })
      }),
    )
  })

  test('take the lowest free row', () => {
    expect(pinRows([10, 500, 20], 100)).toEqual([0, 0, 1])
  })
})
