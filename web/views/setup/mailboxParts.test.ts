import { expect, test } from '@jest/globals'
import { mailboxParts } from './mailboxParts.ts'

const message = (index: number) =>
  `From hello@kiteworks.example Mon May  4 05:06:07 2026\nMessage-ID: <sd_${index}@k.example>\n\nWörter ${'x'.repeat(index * 7)}\n\n`

async function partsOf(text: string, most: number) {
  const parts: string[] = []
  const done: number[] = []
  const bytes = Buffer.from(text)
  for await (const part of mailboxParts(new Blob([bytes]), most)) {
    parts.push(Buffer.from(part.bytes).toString())
    done.push(part.done)
  }
  expect(done.at(-1)).toBe(bytes.length)
  return parts
}

test('a mailbox goes in pieces that are cut before a message, and nothing is lost', async () => {
  const text = Array.from({ length: 30 }, (_, index) => message(index)).join('')
  for (const most of [300, 1000, 5000, 1_000_000]) {
    const parts = await partsOf(text, most)
    expect(parts.join('')).toBe(text)
    if (most >= 1000) expect(parts.every((part) => part.startsWith('From hello@'))).toBe(true)
  }
  expect(await partsOf(text, 1_000_000)).toHaveLength(1)
})

test('a message longer than a piece is cut, its header whole in the first', async () => {
  const text = message(1) + message(400) + message(2)
  const parts = await partsOf(text, 500)
  expect(parts.join('')).toBe(text)
  expect(parts.filter((part) => part.includes('Message-ID: <sd_400@k.example>'))).toHaveLength(1)
  expect(parts.some((part) => part.startsWith('From hello@') && part.includes('<sd_2@'))).toBe(true)
})
