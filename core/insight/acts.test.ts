import { describe, expect, test } from '@jest/globals'
import { changedFacts } from './acts.ts'

describe('what an act has changed', () => {
  test('is said fact by fact, with its path', () => {
    const before = { name: 'Uma', offer: { seats: 2, places: ['Dune', 'Pier'] }, revision: 3 }
    const after = { name: 'Uma', offer: { seats: 4, places: ['Dune'] }, phone: '0170', revision: 4 }
    expect(changedFacts(before, after)).toEqual([
      { path: 'offer.seats', before: '2', after: '4' },
      { path: 'offer.places.1', before: 'Pier', after: null },
      { path: 'phone', before: null, after: '0170' },
    ])
  })

  test('of something new or removed is all of it; of nothing, empty or unchanged is nothing', () => {
    expect(changedFacts(undefined, { name: 'Uma', hours: null })).toEqual([
      { path: 'name', before: null, after: 'Uma' },
    ])
    expect(changedFacts({ isActive: false }, undefined)).toEqual([
      { path: 'isActive', before: 'false', after: null },
    ])
    expect(changedFacts({ a: { b: '' } }, { a: null })).toEqual([])
    expect(changedFacts(undefined, undefined)).toEqual([])
  })

  test('is cut where it is endless', () => {
    const many = Object.fromEntries(
      Array.from({ length: 500 }, (_, index) => [`f${index}`, 'x'.repeat(5000)]),
    )
    const facts = changedFacts({}, many)
    expect(facts).toHaveLength(40)
    expect(facts.every(({ after }) => (after ?? '').length < 310)).toBe(true)
  })
})
