import { describe, expect, test } from '@jest/globals'
import { epochDayOf, isoDateOf } from '../time/calendar.ts'
import { answersAfter, answersBefore, type ExampleAnswer } from './exampleAnswers.ts'
import { datesInWords, easterOf } from './datesInWords.ts'
import { firstDayMeant, readAnswer } from './readAnswer.ts'

const today = epochDayOf('2026-05-14')

function readOf({ text }: Pick<ExampleAnswer, 'text'>) {
  const read = readAnswer(text, today, 'en')
  const day = firstDayMeant(read)
  return { intent: read.intent, day: day === null ? null : isoDateOf(day) }
}

describe('answers the rules were made by', () => {
  test.each(answersBefore)('$text', (example) => {
    const { intent, day } = example
    expect(readOf(example)).toEqual({ intent, day })
  })
})

describe('answers written after the rules', () => {
  test('are read as what they want nine times of ten, and else nothing is proposed', () => {
    const read = answersAfter.map((one) => ({ ...one, got: readOf(one) }))
    const wrong = read.filter(({ intent, got }) => got.intent !== intent)
    expect(wrong.length / read.length).toBeLessThanOrEqual(0.1)
    expect(wrong.filter(({ got }) => got.intent !== 'unknown' && got.intent !== 'asks')).toEqual([])
    expect(read.filter(({ day, got }) => got.day === day).length).toBeGreaterThanOrEqual(38)
  })
})

describe('what was read', () => {
  test('is marked by its words and its date', () => {
    const text = 'Dear all,\n\nplease call me next week.\n\nBest, Enno'
    const { marks } = readAnswer(text, today, 'en')
    expect(marks.map(({ from, to }) => text.slice(from, to))).toEqual(['please call', 'next week'])
  })

  test('leaves out what is quoted and the signature', () => {
    const text =
      'Yes, that works.\n\n-- \nEnno\n\nOn Thu, 14 May 2026 Kiteworks wrote:\n> Please cancel if you cannot come.'
    expect(readAnswer(text, today, 'en')).toMatchObject({ text: 'Yes, that works.', intent: 'agrees' })
  })

  test('says that it says something else as well', () => {
    expect(readAnswer('Yes, gladly. But please cancel the other one.', today, 'en').also).toEqual(['agrees'])
  })
})

describe('dates in words', () => {
  // Published dates of Easter Sunday, from memory; the algorithm is the one in Meeus.
  test.each([
    [2000, '2000-04-23'],
    [2011, '2011-04-24'],
    [2024, '2024-03-31'],
    [2025, '2025-04-20'],
    [2026, '2026-04-05'],
    [2030, '2030-04-21'],
  ])('Easter %i is %s', (year, day) => {
    expect(isoDateOf(easterOf(year))).toBe(day)
  })

  test.each([
    ['in June', '2026-06-01', '2026-06-30'],
    ['im Juni', '2026-06-01', '2026-06-30'],
    ['12.6.', '2026-06-12', '2026-06-12'],
    ['nach Pfingsten', '2026-05-24', '2026-05-25'],
    ['this weekend', '2026-05-16', '2026-05-17'],
    ['in zwei Wochen', '2026-05-28', '2026-05-28'],
    ['in April', '2027-04-01', '2027-04-30'],
    ['im Winter', '2026-12-01', '2027-02-28'],
  ])('%s: %s to %s', (text, from, to) => {
    const [date] = datesInWords(text, today, /im|nach|zwei|\d\./.test(text) ? 'de' : 'en')
    expect(date && [isoDateOf(date.from), isoDateOf(date.to)]).toEqual([from, to])
  })

  test('words that are none', () => {
    expect(datesInWords('we may come, 12345 or at 5', today, 'en')).toEqual([])
  })
})
