import { describe, expect, test } from '@jest/globals'
import { examplePerson } from '../rehearsal/exampleBusiness.ts'
import type { Person } from '../model/business.ts'
import { thereOn, workOf } from './standIns.ts'

const person = (id: string, part: Partial<Person> = {}): Person => ({
  ...examplePerson,
  id,
  name: id,
  ...part,
})
const gone = (id: string, handedToId: string | null) => person(id, { isActive: false, handedToId })
const awayIn = (from: string, to: string, standInId: string | null) => ({ away: [{ from, to, standInId }] })

describe('whose work somebody’s is', () => {
  test('theirs while they are there; who has left has handed it on, through as many as have left; else it is nobody’s', () => {
    const people = [person('pe_a'), gone('pe_b', 'pe_c'), gone('pe_c', 'pe_a'), gone('pe_d', null)]
    const names = ['pe_a', 'pe_b', 'pe_c', 'pe_d', 'pe_none', null].map(
      (id) => workOf(people, id)?.id ?? null,
    )
    expect(names).toEqual(['pe_a', 'pe_a', 'pe_a', null, null, null])
  })

  test('handed round in a circle it is nobody’s, and is found out', () => {
    expect(workOf([gone('pe_a', 'pe_b'), gone('pe_b', 'pe_a')], 'pe_a')).toBeNull()
  })
})

describe('who is there for somebody', () => {
  const week = ['2026-05-04', '2026-05-08'] as const

  test('is the stand-in on the days between, both counted', () => {
    const people = [person('pe_a', awayIn(...week, 'pe_b')), person('pe_b')]
    const [a] = people
    if (!a) throw new Error('nobody')
    const on = (date: string) => thereOn(people, a, date).id
    expect(['2026-05-03', '2026-05-04', '2026-05-08', '2026-05-09'].map(on)).toEqual([
      'pe_a',
      'pe_b',
      'pe_b',
      'pe_a',
    ])
  })

  test('is the stand-in of the stand-in, or whoever took over theirs; where nobody is, it stays with them', () => {
    const start = person('pe_a', awayIn(...week, 'pe_b'))
    const on = (...others: Person[]) => thereOn([start, ...others], start, '2026-05-06').id
    expect(on(person('pe_b', awayIn(...week, 'pe_c')), person('pe_c'))).toBe('pe_c')
    expect(on(gone('pe_b', 'pe_c'), person('pe_c'))).toBe('pe_c')
    expect(on(person('pe_b', awayIn(...week, 'pe_a')))).toBe('pe_a')
    expect(on(person('pe_b', awayIn(...week, null)))).toBe('pe_a')
    expect(on(gone('pe_b', null))).toBe('pe_a')
  })
})
