import { describe, expect, test } from '@jest/globals'
import type { Letter, LetterVariant, Passage, Section } from '../model/letter.ts'
import { words, writtenLetter } from './authoring.ts'
import { translationsOf, missingLanguages } from './translations.ts'
import { letterFor } from './variants.ts'
import { withOwnSection, withOwnLine, withoutScope, withScope } from './variantWords.ts'

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

const reader = (serviceId: string | null, id: string | null, language: 'en' | 'de' = 'en') => ({
  serviceId,
  client: id === null ? null : { id, language },
})

const wordsOf = ({ sections, subject }: Letter) =>
  [subject, ...sections.flatMap((one) => (one.kind === 'text' ? one.paragraphs : []))]
    .map((line) => line.map((node) => (node.kind === 'text' ? node.text : '')).join(''))
    .join(', ')

const both: LetterVariant[] = [
  {
    scope: forService,
    subject: words`kite`,
    preheader: null,
    sections: [text('a', 'kite a'), text('b', 'kite b')],
  },
  { scope: forClient, subject: null, preheader: null, sections: [text('b', 'Enno b')] },
]

describe('words for a service or a client', () => {
  test.each([
    ['sv_other', 'cl_other', 'all, all a, all b, all c'],
    ['sv_kite', 'cl_other', 'kite, kite a, kite b, all c'],
    ['sv_other', 'cl_enno', 'all, all a, Enno b, all c'],
    ['sv_kite', 'cl_enno', 'kite, kite a, Enno b, all c'],
    [null, null, 'all, all a, all b, all c'],
  ])('%s, %s: each section once, the most specific', (serviceId, clientId, expected) => {
    expect(wordsOf(letterFor(letter(both), reader(serviceId, clientId)))).toBe(expected)
  })

  test('are made ready once', () => {
    const one = letter(both)
    expect(letterFor(one, reader('sv_kite', 'cl_x'))).toBe(letterFor(one, reader('sv_kite', 'cl_y')))
    expect(letterFor(one, reader('sv_other', 'cl_x'))).toBe(one)
  })

  test('a section left out leaves no gap for others', () => {
    const out = { id: 'b', kind: 'text', paragraphs: [] } as const
    const variants = withOwnSection(withScope([], forService), forService, 'b', { ...out, paragraphs: [] })
    expect(wordsOf(letterFor(letter(variants), reader('sv_kite', null)))).toBe('all, all a, all c')
  })
})

describe('writing them', () => {
  test('a scope is there once; its words come and go', () => {
    const once = withScope(withScope([], forService), forService)
    expect(once).toEqual([{ scope: forService, subject: null, preheader: null, sections: [] }])
    const written = withOwnSection(
      withOwnLine(once, forService, 'subject', words`kite`),
      forService,
      'a',
      text('x', 'kite a'),
    )
    expect(written).toEqual([
      { scope: forService, subject: words`kite`, preheader: null, sections: [text('a', 'kite a')] },
    ])
    const again = withOwnLine(withOwnSection(written, forService, 'a', null), forService, 'subject', null)
    expect(again).toEqual(once)
    expect(withoutScope([...once, ...withScope([], forClient)], forService)).toEqual(withScope([], forClient))
  })

  test('another’s words are not touched', () => {
    const changed = withOwnSection(both, forClient, 'a', text('a', 'Enno a'))
    expect(changed[0]).toBe(both[0])
  })
})

describe('a letter in the language of its reader', () => {
  const german = { of: 'language', language: 'de' } as const
  const translated: LetterVariant[] = [
    { scope: german, subject: words`alle`, preheader: null, sections: [text('a', 'alle a')] },
    {
      scope: forService,
      subject: null,
      preheader: null,
      sections: [text('a', 'kite a'), text('b', 'kite b')],
    },
    {
      scope: { ...forService, language: 'de' },
      subject: null,
      preheader: null,
      sections: [text('a', 'Drachen a')],
    },
  ]

  test.each([
    ['sv_other', 'en', translated, 'en', 'all, all a, all b, all c'],
    ['sv_other', 'de', translated, 'de', 'alle, alle a, all b, all c'],
    ['sv_kite', 'en', translated, 'en', 'all, kite a, kite b, all c'],
    ['sv_kite', 'de', translated, 'de', 'alle, Drachen a, all b, all c'],
    // What is special to a service matters more than its language.
    ['sv_kite', 'de', translated.slice(0, 2), 'de', 'alle, kite a, kite b, all c'],
    ['sv_kite', 'de', translated.slice(1), 'en', 'all, kite a, kite b, all c'],
    ['sv_other', 'de', [], 'en', 'all, all a, all b, all c'],
  ] as const)('%s for a reader of %s', (serviceId, language, variants, chosen, expected) => {
    const own = letterFor(letter([...variants]), reader(serviceId, 'cl_enno', language))
    expect(wordsOf(own)).toBe(expected)
    expect(own.language).toBe(chosen)
  })

  test('what a translation lacks is known, part by part', () => {
    const passage = { id: 'p', kind: 'passage', passageId: 'ps_1' } as const
    const one = letter(translated)
    const content = { ...one, preheader: words`soon`, sections: [...one.sections, passage] }
    const terms = { id: 'ps_1', name: 'Terms', paragraphs: [words`terms`], translations: [], version: 1 }
    const inGerman = [{ language: 'de' as const, paragraphs: [words`Bedingungen`] }]
    const gaps = (passages: readonly Passage[]) =>
      translationsOf(content, passages).map((found) =>
        found.gaps.map((place) => (place.in === 'section' ? place.id : place.in)),
      )
    expect(gaps([terms])).toEqual([['preheader', 'b', 'c', 'p']])
    expect(gaps([{ ...terms, translations: inGerman }])).toEqual([['preheader', 'b', 'c']])
  })

  test('so is what a service says otherwise and a language has no words for', () => {
    const serviceGaps = (variants: readonly LetterVariant[]) =>
      translationsOf(letter([...variants]), []).flatMap((found) =>
        found.serviceGaps.map((place) => (place.in === 'section' ? place.id : place.in)),
      )
    const leftOut = text('b', '')
    const [whole, service, partly] = translated as [LetterVariant, LetterVariant, LetterVariant]
    expect(serviceGaps([whole, service])).toEqual(['a', 'b'])
    expect(serviceGaps([whole, service, partly])).toEqual(['b'])
    expect(serviceGaps([whole])).toEqual([])
    // Leaving a part out needs no words, until the service has some in that language.
    const withoutB = { ...service, sections: [text('a', 'kite a'), leftOut] }
    expect(serviceGaps([whole, withoutB])).toEqual(['a'])
    expect(serviceGaps([whole, withoutB, partly])).toEqual(['b'])
    expect(
      serviceGaps([whole, withoutB, { ...partly, sections: [text('a', 'Drachen a'), leftOut] }]),
    ).toEqual([])
  })

  test('a language of clients that it does not have is missing', () => {
    expect(missingLanguages(letter(translated), ['en', 'de'])).toEqual([])
    expect(missingLanguages(letter(both), ['en', 'de'])).toEqual(['de'])
    expect(missingLanguages({ ...letter(both), language: 'de' }, ['de'])).toEqual([])
  })
})
