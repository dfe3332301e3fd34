import { describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import fc from 'fast-check'
import { messagesOfMbox, mboxOf } from './mbox.ts'

/** Reads an mbox file as RFC 4155 says: separator lines after an empty line or at the start, one quote taken off. */
function readMbox(file: string): { line: string; source: string }[] {
  const parts = `\n\n${file}`.split(/\n\n(?=From \S+ \w{3} \w{3} [ \d]\d \d\d:\d\d:\d\d \d{4}\n)/).slice(1)
  return parts.map((part) => {
    const end = part.indexOf('\n')
    return { line: part.slice(0, end), source: part.slice(end + 1).replace(/^>(>*From )/gm, '$1') }
  })
}

const message = (subject: string, text: string) =>
  Buffer.from(
    `Subject: ${subject}\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\n${text}\r\n`,
  )

describe('an mbox file', () => {
  const at = Date.UTC(2026, 4, 4, 5, 6, 7)
  const texts = [
    'Hello Jürgen,\r\n\r\nFrom here on it is flat.',
    'Two\r\n\r\n>From the hill\r\n>>From afar',
    'Three',
  ]
  const file = mboxOf(
    texts.map((text, index) => ({
      from: 'hello@kiteworks.example',
      at,
      source: message(`No. ${index}`, text),
    })),
  )

  test('has a separator line with the envelope sender and the time of asctime in UTC', () => {
    expect(readMbox(file).map(({ line }) => line)).toEqual(
      Array(3).fill('From hello@kiteworks.example Mon May  4 05:06:07 2026'),
    )
  })

  test('gives every message back as it was, lines that begin like a separator included', async () => {
    const read = readMbox(file)
    expect(read).toHaveLength(3)
    for (const [index, { source }] of read.entries()) {
      const parsed = await simpleParser(Buffer.from(source, 'latin1'))
      expect(parsed.subject).toBe(`No. ${index}`)
      expect(parsed.text?.trim()).toBe(texts[index]?.replace(/\r\n/g, '\n'))
    }
  })

  test('is read back as the messages it was made of, whatever their lines begin with', () => {
    const line = fc.oneof(
      fc.constantFrom(
        '',
        'From ',
        'From the hill',
        '>From 12:30 to 2026',
        'From a@b.example Mon May  4 05:06:07 2026',
      ),
      fc.string({ unit: 'grapheme-ascii', maxLength: 30 }),
    )
    const source = fc
      .array(line, { minLength: 1, maxLength: 8 })
      .map((lines) => `Subject: x\n\n${lines.join('\n')}\n`)
    fc.assert(
      fc.property(fc.array(source, { minLength: 1, maxLength: 5 }), (sources) => {
        const file = mboxOf(
          sources.map((one) => ({ from: 'hello@kiteworks.example', at, source: Buffer.from(one, 'latin1') })),
        )
        expect(messagesOfMbox(file)).toEqual(sources)
      }),
    )
  })

  test('is told from a single message, which has no such line', () => {
    expect(messagesOfMbox('Subject: x\r\n\r\nFrom here on\r\n')).toEqual(['Subject: x\n\nFrom here on\n'])
  })

  test('of nothing is empty', () => expect(mboxOf([])).toBe(''))
})
