import { describe, expect, test, jest } from '@jest/globals'
import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'
import { openStore } from '../db/database.ts'
import { idOf } from '#core/model/values.ts'
import { testFolder } from '../testing/seed.ts'
import { createChanges, type Topic } from './changes.ts'
import { createDemoClock, createRealClock } from './loop/clock.ts'
import { newId } from './ids.ts'

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

describe('ids', () => {
  test('carry their prefix, differ, and sort in the order they were made', () => {
    const ids = Array.from({ length: 2000 }, () => newId('bk'))
    expect(ids.every((id) => idOf('bk').safeParse(id).success)).toBe(true)
    expect(new Set(ids).size).toBe(ids.length)
    expect(ids.toSorted()).toEqual(ids)
  })

  test('go on sorting while the clock stands an hour back', () => {
    const before = newId('bk')
    const now = jest.spyOn(Date, 'now').mockReturnValue(Date.now() - 3_600_000)
    const during = [newId('bk'), newId('bk')]
    now.mockRestore()
    const ids = [before, ...during, newId('bk')]
    expect(ids.toSorted()).toEqual(ids)
  })
})

describe('changes', () => {
  test('of one moment are one notice, each topic once', async () => {
    const changes = createChanges(5)
    const heard: (readonly Topic[])[] = []
    const stop = changes.subscribe((topics) => heard.push(topics))
    changes.publish(['sends', 'clock'])
    changes.publish(['sends'])
    await wait(20)
    expect(heard).toEqual([['sends', 'clock']])
    stop()
    changes.publish(['mail'])
    await wait(20)
    expect(heard).toHaveLength(1)
  })
})

describe('clocks', () => {
  test('the demo’s stands, moves forward only, and remembers where it stands', () => {
    const store = openStore(testFolder())
    const clock = createDemoClock(store.statements, 1000)
    expect(clock.now()).toBe(1000)
    clock.reach(5000)
    clock.reach(2000)
    expect(clock.now()).toBe(5000)
    expect(createDemoClock(store.statements, 1000).now()).toBe(5000)
    store.close()
  })

  /** A machine whose clock, whose steady clock and whose time since it was started are set by hand. */
  function machine() {
    const at = { machine: Date.UTC(2026, 4, 14), steady: 1000, sinceBoot: 50_000 }
    const clock = createRealClock({
      machine: () => at.machine,
      steady: () => at.steady,
      sinceBoot: () => at.sinceBoot,
    })
    const goOn = (ms: number) => {
      at.machine += ms
      at.steady += ms
      at.sinceBoot += ms
    }
    return { at, clock, goOn }
  }

  test('the real one cannot be moved', () => {
    const clock = createRealClock()
    clock.reach(5)
    expect(Math.abs(clock.now() - Date.now())).toBeLessThan(1000)
    expect(clock.jump()).toBeNull()
  })

  test.each([2 * dayMs, -2 * dayMs, 4 * minuteMs])(
    'the real one, set by %s ms: time goes on as it was, until it is set back',
    (by) => {
      const { at, clock, goOn } = machine()
      const before = clock.now()
      at.machine += by
      goOn(5000)
      expect(clock.now()).toBe(before + 5000)
      expect(clock.jump()).toEqual({ heldAt: before + 5000, machineAt: before + by + 5000 })
      at.machine -= by
      expect(clock.jump()).toBeNull()
      expect(clock.now()).toBe(before + 5000)
    },
  )

  test('the real one, set, and somebody says that it is right', () => {
    const { at, clock, goOn } = machine()
    at.machine += 2 * dayMs
    clock.trustMachine()
    goOn(1000)
    expect(clock.jump()).toBeNull()
    expect(clock.now()).toBe(at.machine)
  })

  test('the real one of a machine that slept for a night has not jumped', () => {
    const { at, clock } = machine()
    at.machine += 8 * hourMs
    at.sinceBoot += 8 * hourMs
    expect(clock.jump()).toBeNull()
    expect(clock.now()).toBe(at.machine)
  })

  test('the real one, corrected by a second an hour for a year, has not jumped', () => {
    const { at, clock, goOn } = machine()
    for (let hour = 0; hour < 365 * 24; hour += 1) {
      goOn(hourMs)
      at.machine += 1000
      expect(clock.jump()).toBeNull()
    }
  })
})
