import { describe, expect, test } from '@jest/globals'
import { differingParagraphs } from './alike.ts'

const base = { subject: 'See you', text: 'Hello Enno,\n\nwe meet at 19:00.\n\nBring a hat.\n' }

describe('alike messages', () => {
  test('show only the paragraphs that differ, in their order', () => {
    const other = { subject: 'See you', text: 'Hello Oona,\n\nwe meet at 20:00.\n\nBring a hat.\n' }
    expect(differingParagraphs(base, other)).toEqual(['Hello Oona,', 'we meet at 20:00.'])
  })

  test('a paragraph more is shown, one less is not', () => {
    const more = { ...base, text: `${base.text}\nAnd gloves.\n` }
    expect(differingParagraphs(base, more)).toEqual(['And gloves.'])
    expect(differingParagraphs(more, base)).toEqual([])
  })

  test('another subject counts; other line breaks do not', () => {
    const other = { subject: 'Soon', text: base.text.replace('we meet', 'we\nmeet') }
    expect(differingParagraphs(base, other)).toEqual(['Soon'])
    expect(differingParagraphs(base, base)).toEqual([])
  })
})
