import { describe, expect, test } from '@jest/globals'
import { shownUrl, visitsOfPersons, type Visit } from './visits.ts'

/* Who asked for the links of a message. That scanners ask for many at once, before anybody reads, and by HEAD: common practice, no source. */

let nextId = 0
const visit = (seenAt: number, more: Partial<Visit> = {}): Visit => {
  nextId += 1
  return { id: nextId, linkKey: 'a', seenAt, isHead: false, ...more }
}
const persons = (visits: readonly Visit[], handedOverAt: number | null = null) => {
  const own = visitsOfPersons(visits, handedOverAt)
  return visits.map(({ id }) => own.has(id))
}

describe('a visit', () => {
  test('of one link alone is a person’s, and so are two with time between them', () => {
    expect(persons([visit(10_000)])).toEqual([true])
    expect(persons([visit(10_000), visit(60_000, { linkKey: 'b' })])).toEqual([true, true])
  })

  test('of the same link again and again is a person’s', () => {
    expect(persons([visit(0), visit(500), visit(1000), visit(1500)])).toEqual([true, true, true, true])
  })

  test('of many links in seconds is a program’s, in whatever order they came', () => {
    const links = ['a', 'b', 'c'].map((linkKey, index) => visit(1000 * index, { linkKey }))
    expect(persons(links)).toEqual([false, false, false])
    expect(persons(links.toReversed())).toEqual([false, false, false])
  })

  test('of many links in minutes is a person’s', () => {
    expect(persons(['a', 'b', 'c'].map((linkKey, index) => visit(60_000 * index, { linkKey })))).toEqual([
      true,
      true,
      true,
    ])
  })

  test('that only asks whether the link is there is a program’s, with what it asks for next', () => {
    expect(persons([visit(0, { isHead: true }), visit(1000), visit(90_000)])).toEqual([false, false, true])
  })

  test('before anybody can have read the message is a program’s', () => {
    expect(persons([visit(2000), visit(30_000)], 0)).toEqual([false, true])
    expect(persons([visit(2000, { linkKey: null })], 0)).toEqual([false])
  })

  test('of the picture counts no links: opening and following at once is what people do', () => {
    expect(persons([visit(0, { linkKey: null }), visit(900), visit(1800, { linkKey: 'b' })])).toEqual([
      true,
      true,
      true,
    ])
  })
})

test('a link is shown without what opens a page of the house, and without what only programs read', () => {
  expect(shownUrl('/yours/bk_1.aSignature-nobody-else-has/cancel')).toBe('/yours/…/cancel')
  expect(shownUrl('/pay/in_1.aSignature')).toBe('/pay/…')
  expect(shownUrl('https://wind.example/kites?who=me#top')).toBe('wind.example/kites')
})
