import { readFileSync } from 'node:fs'
import { expect, test } from '@jest/globals'
import { realZones } from '../time/realZones.ts'
import { statusTable } from './statusTable.ts'

const table = statusTable(realZones)
const rows = table
  .split('\n')
  .filter((line) => line.startsWith('| '))
  .map((line) => line.slice(2, -2).split(' | '))
const cells = (change: string, who: string) =>
  rows.find(([what, whom]) => what === change && whom === who)?.slice(2) ?? []

test('the document shows what the engine does', () => {
  const file = new URL('../../docs/formats/status-changes.md', import.meta.url)
  expect(readFileSync(file, 'utf8')).toBe(table)
})

// What must be so (common practice, no source).
const ahead = /See you soon|It is time|What to bring/
const afterwards = /Thank you for coming|How was/

test('left alone, the client is reminded before and asked afterwards', () => {
  const [early = '', , after = ''] = cells('nothing happens', 'nobody')
  expect(early).toMatch(/See you soon, Fri 15 May, 18:00/)
  expect(after).toMatch(afterwards)
})

test('after a cancellation or a miss no reminder comes and nobody is asked how it was, whoever did it', () => {
  for (const [change, who] of [
    ['cancelled', 'the business'],
    ['cancelled', 'the client'],
    ['a request is declined', 'the business'],
    ['a request is withdrawn', 'the client'],
    ['missed', 'the business'],
  ] as const) {
    const all = cells(change, who)
    expect(all).toHaveLength(3)
    for (const cell of all) expect([change, cell]).not.toEqual([change, expect.stringMatching(ahead)])
    for (const cell of all) expect([change, cell]).not.toEqual([change, expect.stringMatching(afterwards)])
  }
  expect(cells('cancelled', 'the business')[0]).toMatch(/^Your booking is cancelled, Fri 8 May, 12:02$/)
})

test('moved, it is told once, and everything is due again at its new time; the client alone only up to the deadline', () => {
  const [byBusiness = ''] = cells('moved to Monday', 'the business')
  expect(byBusiness.match(/Your booking has another time/g)).toHaveLength(1)
  const [early = '', late = '', after = ''] = cells('moved to Monday', 'the client')
  expect(early).toBe(byBusiness)
  expect(early).toMatch(/See you soon, Sun 17 May, 18:00/)
  expect(late).toContain('too late')
  expect(after).toContain('past')
})

test('a request gets no reminder before it is confirmed', () => {
  for (const cell of cells('a request is left alone', 'nobody')) expect(cell).not.toMatch(ahead)
})
