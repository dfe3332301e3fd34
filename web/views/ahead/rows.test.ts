import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { pageSize, pagesFor, rowsOf, type DayCount } from './rows.ts'

const anyDays = fc.array(
  fc.integer({ min: 1, max: 700 }).map((count) => count),
  { minLength: 1, maxLength: 30 },
)
const daysOf = (counts: readonly number[]): DayCount[] =>
  counts.map((count, index) => ({ on: `2026-05-${String(index + 1).padStart(2, '0')}`, count }))

describe('the long list', () => {
  test('has a heading before each day and every place of it, in order', () => {
    fc.assert(
      fc.property(anyDays, (counts) => {
        const days = daysOf(counts)
        const rows = rowsOf(days)
        const expected = days.flatMap((day) => [
          day.on,
          ...Array.from({ length: day.count }, (_, place) => `${day.on} ${place}`),
        ])
        const seen = Array.from({ length: rows.count }, (_, index) => {
          const row = rows.at(index)
          return row.kind === 'day' ? row.day.on : `${row.day.on} ${row.place}`
        })
        expect(seen).toEqual(expected)
      }),
      { numRuns: 30 },
    )
  })

  test('asks for just the parts that hold what is wanted', () => {
    fc.assert(
      fc.property(anyDays, fc.nat(), fc.nat(), (counts, one, other) => {
        const rows = rowsOf(daysOf(counts))
        const [from, to] = [one % rows.count, other % rows.count].sort((a, b) => a - b) as [number, number]
        const pages = new Set(pagesFor(rows, from, to).map(({ on, offset }) => `${on} ${offset}`))
        const needed = new Set<string>()
        for (let index = from; index <= to; index += 1) {
          const row = rows.at(index)
          if (row.kind === 'send') needed.add(`${row.day.on} ${row.place - (row.place % pageSize)}`)
        }
        expect(pages).toEqual(needed)
      }),
      { numRuns: 60 },
    )
  })

  test('has nothing outside', () => {
    expect(() => rowsOf([]).at(0)).toThrow(RangeError)
    expect(pagesFor(rowsOf([]), 0, 10)).toEqual([])
  })
})
