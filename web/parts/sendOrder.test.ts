import { expect, test } from '@jest/globals'
import { sendStates } from '#core/model/sendState.ts'
import { sendOrder } from './sendOrder.ts'

const lines = sendStates.flatMap((state, index) => [
  { state, shownAt: index, hasTime: true, name: `${state} 1` },
  { state, shownAt: 100 - index, hasTime: true, name: `${state} 2` },
])

test('what has no time yet stands after what has one', () => {
  const named = (name: string, shownAt: number, hasTime: boolean) =>
    ({ state: 'expected', shownAt, hasTime, name }) as const
  const { coming } = sendOrder([named('later', 1, false), named('soon', 900, true)])
  expect(coming.map(({ name }) => name)).toEqual(['soon', 'later'])
})

test('every message stands in one of the three, the next of those to come first, the latest of the others', () => {
  const { coming, gone, leftOut } = sendOrder(lines)
  expect([...coming, ...gone, ...leftOut].map(({ name }) => name).toSorted()).toEqual(
    lines.map(({ name }) => name).toSorted(),
  )
  const times = (some: typeof coming) => some.map(({ shownAt }) => shownAt)
  expect(times(coming)).toEqual(times(coming).toSorted((one, other) => one - other))
  for (const some of [gone, leftOut]) {
    expect(times(some)).toEqual(times(some).toSorted((one, other) => other - one))
  }
  expect(new Set(gone.map(({ state }) => state))).toEqual(new Set(['sent', 'bounced']))
  expect(new Set(leftOut.map(({ state }) => state))).toEqual(new Set(['skipped', 'dropped', 'cancelled']))
})
