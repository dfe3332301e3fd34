import { describe, expect, test } from '@jest/globals'
import type { Letter, LetterVariant, Section } from '../model/letter.ts'
import { words, writtenLetter } from './authoring.ts'
import { letterFor } from './variants.ts'
import { withOwnSection, withOwnSubject, withoutScope, withScope } from './variantWords.ts'

const forService = { of: 'service', serviceId: 'sv_kite' } as const
const forClient = { of: 'client', clientId: 'cl_enno' } as const

const text = (id: string, word: string): Section => ({
  id,
  kind: 'text',
  paragraphs: [[{ kind: 'text', text: word }]],
})

const letter = (variants: LetterVariant[]): Letter => ({
  ...writtenLetter({ id: 'lt_1', name: 'x', moment: 'before', subject: words`all`, sections: [] }),
  sections: [text('a', 'all a'), text('b', 'all b'), text('c', 'all c')],
  variants,
})

const wordsOf = ({ sections, subject }: Letter) =>
  [subject, ...sections.flatMap((one) => (one.kind === 'text' ? one.paragraphs : []))]
    .map((line) => line.map((node) => (node.kind === 'text' ? node.text : '')).join(''))
    .join(', ')

const both: LetterVariant[] = [
  { scope: forService, subject: words`kite`, sections: [text('a', 'kite a'), text('b', 'kite b')] },
  { scope: forClient, subject: null, sections: [text('b', 'Enno b')] },
]

describe('words for a service or a client', () => {
  test.each([
    ['sv_other', 'cl_other', 'all, all a, all b, all c'],
    ['sv_kite', 'cl_other', 'kite, kite a, kite b, all c'],
    ['sv_other', 'cl_enno', 'all, all a, Enno b, all c'],
    ['sv_kite', 'cl_enno', 'kite, kite a, Enno b, all c'],
    [null, null, 'all, all a, all b, all c'],
  ])('%s, %s: each section once, the most specific', (serviceId, clientId, expected) => {
    expect(wordsOf(letterFor(letter(both), serviceId, clientId))).toBe(expected)
  })

  test('are made ready once', () => {
    const one = letter(both)
    expect(letterFor(one, 'sv_kite', 'cl_x')).toBe(letterFor(one, 'sv_kite', 'cl_y'))
    expect(letterFor(one, 'sv_other', 'cl_x')).toBe(one)
  })

  test('a section left out leaves no gap for others', () => {
    const out = { id: 'b', kind: 'text', paragraphs: [] } as const
    const variants = withOwnSection(withScope([], forService), forService, 'b', { ...out, paragraphs: [] })
    expect(wordsOf(letterFor(letter(variants), 'sv_kite', null))).toBe('all, all a, all c')
  })
})

describe('writing them', () => {
  test('a scope is there once; its words come and go', () => {
    const once = withScope(withScope([], forService), forService)
    expect(once).toEqual([{ scope: forService, subject: null, sections: [] }])
    const written = withOwnSection(
      withOwnSubject(once, forService, words`kite`),
      forService,
      'a',
      text('x', 'kite a'),
    )
    expect(written).toEqual([{ scope: forService, subject: words`kite`, sections: [text('a', 'kite a')] }])
    const again = withOwnSubject(withOwnSection(written, forService, 'a', null), forService, null)
    expect(again).toEqual(once)
    expect(withoutScope([...once, ...withScope([], forClient)], forService)).toEqual(withScope([], forClient))
  })

  test('another’s words are not touched', () => {
    const changed = withOwnSection(both, forClient, 'a', text('a', 'Enno a'))
    expect(changed[0]).toBe(both[0])
  })
})
