import { describe, expect, test } from '@jest/globals'
import { stringify } from 'csv-stringify/sync'
import type { Client } from '#core/model/client.ts'
import { realZones } from '#core/time/realZones.ts'
import { guessMatching } from '#core/tables/clientFields.ts'
import { clientCells, clientHeads } from '#core/tables/clientTable.ts'
import { readClientRow } from '#core/tables/clientRows.ts'
import { chanceFrom } from '../testing/chance.ts'
import { cardMatching, readCards } from './readCards.ts'
import { readTable } from './readTable.ts'
import { cardOf } from './writeCards.ts'

/* Clients at random, out as a table or as cards and in again: the same, as far as the format has them. */

const words = [
  'Uma',
  'O’Neill',
  'Großmann',
  'de la “Cruz”',
  'Żaneta',
  '=1+2',
  '+49',
  '-x',
  '@home',
  'a;b',
  'a,b',
  "d'Arc",
  '李',
  'a\\b',
  '"q"',
]
const chance = chanceFrom(15)
const pick = <Item>(items: readonly Item[]): Item => items[Math.floor(chance() * items.length)] as Item
const some = (most: number) => Math.floor(chance() * (most + 1))

function anybody(index: number): Client {
  const word = () => [pick(words), pick(words)].slice(0, 1 + some(1)).join(' ')
  const email = (part: string) => (chance() < 0.8 ? `${part}${index}@round.example` : null)
  const first = email('a')
  const second = first === null ? null : email('b')
  const person = { firstName: chance() < 0.8 ? word() : '', lastName: chance() < 0.8 ? word() : '' }
  return {
    id: `cl_${index}`,
    name: word(),
    zone: chance() < 0.3 ? pick(['Europe/Berlin', 'America/New_York']) : null,
    language: pick(['en', 'de'] as const),
    contacts: [
      {
        ...person,
        id: 'ct_1',
        email: first,
        phone: chance() < 0.5 ? pick(['+49 170 5550101', '(030) 555', '0170/5550101']) : '',
        isPrimary: true,
      },
      ...(second === null ? [] : [{ ...person, id: 'ct_2', email: second, phone: '', isPrimary: false }]),
    ],
    namedDates:
      chance() < 0.5
        ? [
            {
              label: 'Birthday',
              monthDay: pick(['02-29', '12-31', '05-04']),
              year: chance() < 0.5 ? pick([1904, 1980, 2000]) : null,
            },
          ]
        : [],
    tags: [
      ...new Set(Array.from({ length: some(3) }, () => pick(['Stammgast', 'Presse', 'a b', "d'Arc", '=x']))),
    ],
    takesPromotional: chance() < 0.5,
    isActive: true,
    isHeldBack: false,
    addedAt: 0,
    revision: 1,
  }
}

/** What of a client a table or a card has. */
const asRead = (
  { name, zone, language, contacts, namedDates, tags, takesPromotional }: Client,
  hasPromotional: boolean,
) => ({
  name,
  zone,
  language,
  tags,
  takesPromotional: hasPromotional && takesPromotional,
  isActive: true,
  namedDates,
  contacts: contacts.map((contact) => ({ ...contact, id: null })),
})

const reading = {
  dateOrder: 'month first' as const,
  zones: realZones,
  isRealMail: false,
  language: 'en' as const,
}
const clients = Array.from({ length: 400 }, (_, index) => anybody(index))

describe('clients out and in again', () => {
  test('as a table, whatever stands between the cells', async () => {
    for (const delimiter of [',', ';', '\t']) {
      const text = stringify([[...clientHeads], ...clients.map(clientCells)], {
        escape_formulas: true,
        record_delimiter: 'windows',
        delimiter,
      })
      const cells = text.split('\r\n').flatMap((line) => line.split(delimiter))
      expect(cells.filter((cell) => /^"?[=+@-]/.test(cell))).toEqual([])
      const { heads, rows } = await readTable(Buffer.from(`\uFEFF${text}`))
      const matching = guessMatching(heads, [])
      expect(matching).not.toContain(null)
      const read = rows.map((row) => readClientRow(row, { ...reading, matching }))
      expect(read.flatMap(({ line, faults }) => faults.map((fault) => [line, fault]))).toEqual([])
      expect(read.map(({ input }) => input)).toEqual(clients.map((one) => asRead(one, true)))
    }
  })

  test('as cards', () => {
    const { rows } = readCards(Buffer.from(clients.map(cardOf).join('')))
    const read = rows.map((row) => readClientRow(row, { ...reading, matching: cardMatching }))
    expect(read.flatMap(({ line, faults }) => faults.map((fault) => [line, fault]))).toEqual([])
    expect(read.map(({ input }) => input)).toEqual(clients.map((one) => asRead(one, false)))
  })
})
