import { describe, expect, test } from '@jest/globals'
import { field, optional, words } from './authoring.ts'
import { sentencesOf } from './sentences.ts'

const place = optional('booking.place')
const date = field('booking.date')

const cut = (nodes: ReturnType<typeof words>, language = 'en') =>
  sentencesOf(nodes, language).map((sentence) =>
    sentence
      .map((node) => (node.kind === 'text' ? node.text : '#'))
      .join('')
      .trim(),
  )

describe('sentences, with fields whole', () => {
  test.each([
    ['a field at the end', words`We meet at ${place}. Bring a hat.`, ['We meet at #.', 'Bring a hat.']],
    ['a field at the beginning', words`We meet. ${place} is dry.`, ['We meet.', '# is dry.']],
    ['a field at both', words`We meet on ${date}. ${place} is dry.`, ['We meet on #.', '# is dry.']],
    ['a question and a shout', words`At ${place}? Yes! ${date} it is.`, ['At #?', 'Yes!', '# it is.']],
    ['an abbreviation before a field', words`It is approx. ${place} away.`, ['It is approx. # away.']],
    ['a number before a field', words`Room No. ${place} is ready.`, ['Room No. # is ready.']],
    ['a title before a field', words`Ask Dr. ${place} first.`, ['Ask Dr. # first.']],
    [
      'a lower-case word after an abbreviation',
      words`By boat, e.g. from ${place}.`,
      ['By boat, e.g. from #.'],
    ],
    ['one sentence over a bold word', words`Be at ${place} early.`, ['Be at # early.']],
  ])('%s', (_, nodes, expected) => {
    expect(cut(nodes)).toEqual(expected)
  })

  test('German abbreviations keep their sentence too', () => {
    expect(cut(words`Wir sind z. B. ${place} zu finden. Bis bald.`, 'de')).toEqual([
      'Wir sind z. B. # zu finden.',
      'Bis bald.',
    ])
  })

  test('nothing is lost in cutting', () => {
    const nodes = words`A ${place}. B ${date}! C. ${place}`
    expect(
      sentencesOf(nodes, 'en')
        .flat()
        .map((node) => (node.kind === 'text' ? node.text : '#'))
        .join(''),
    ).toBe('A #. B #! C. #')
  })
})
