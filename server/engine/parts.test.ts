import { describe, expect, test } from '@jest/globals'
import { openStore } from '../db/database.ts'
import { testFolder } from '../testing/seed.ts'
import { createChanges, type Topic } from './changes.ts'
import { createDemoClock, realClock } from './clock.ts'
import { newId } from './ids.ts'

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

describe('ids', () => {
  test('carry their prefix, differ, and sort in the order they were made', () => {
    const ids = Array.from({ length: 2000 }, () => newId('bk'))
    expect(ids.every((id) => /^bk_[a-z0-9]{10,20}$/.test(id))).toBe(true)
    expect(new Set(ids).size).toBe(ids.length)
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

  test('the real one cannot be moved', () => {
    realClock.reach(5)
    expect(Math.abs(realClock.now() - Date.now())).toBeLessThan(1000)
  })
})
