import { expect, test } from '@jest/globals'
import { minutesFor } from './pace.ts'

test.each([
  [7, [], null],
  [7, [30_000, 40_000, 600], 4],
  [1, [2_000], 1],
  [40, [15_000, 15_000, 170_000], 10],
])('%i decisions, measured %j: %s minutes', (count, measured, minutes) => {
  expect(minutesFor(count, measured)).toBe(minutes)
})
