import { describe, expect, test } from '@jest/globals'
import type { Client } from '../model/client.ts'
import { realZones } from '../time/realZones.ts'
import { bringClientsIn, takeClientsBack, type ComingIn } from './bringIn.ts'
import { guessMatching, type Matching } from './clientFields.ts'
import { hasHeads } from './kinds.ts'
import { readClientRow, type RowReading } from './clientRows.ts'
import { dateOrderOf, readDate } from './dates.ts'
import { Known, mergedInto } from './doubles.ts'

const reading = (matching: Matching, part: Partial<RowReading> = {}): RowReading => ({
  matching,
  dateOrder: 'day first',
  zones: realZones,
  isRealMail: false,
  language: 'en',
  ...part,
})
const read = (cells: readonly string[], matching: Matching, part: Partial<RowReading> = {}) =>
  readClientRow({ line: 2, cells }, reading(matching, part))

let count = 0
const context = { now: 1000, personId: null, newId: (prefix: string) => `${prefix}_${(count += 1)}` }

describe('the columns of a table', () => {
  test.each([
    [
      ['Vorname', 'Nachname', 'E-Mail-Adresse', 'Telefon', 'Geburtsdatum'],
      ['firstName', 'lastName', 'email', 'phone', 'birthday'],
    ],
    [
      ['Given Name', 'Surname', 'E-mail', 'Mobile', 'Date of birth'],
      ['firstName', 'lastName', 'email', 'phone', 'birthday'],
    ],
    [
      ['Name', 'Name', 'Shoe size'],
      ['name', null, null],
    ],
    [
      ['KUNDE', 'Schuhgröße', 'Gruppen'],
      ['name', null, 'tags'],
    ],
  ])('%j are %j', (heads, fields) => {
    expect(guessMatching(heads, [])).toEqual(fields)
  })

  test('without words are known by what stands in them', () => {
    const rows = [
      ['Uma Sandlark', 'uma@sandlark.example', '+49 170 5550199', '2026-05-14', 'x'],
      ['Jo Reed', 'jo@reed.example', '030/5550111', '14.5.2026', ''],
    ]
    expect(guessMatching(['a', 'b', 'c', 'd', 'e'], rows)).toEqual([null, 'email', 'phone', null, null])
    expect(hasHeads(['Uma Sandlark', 'uma@sandlark.example'])).toBe(false)
    expect(hasHeads(['Who', 'Where'])).toBe(true)
    expect(hasHeads(['Name', 'uma@sandlark.example'])).toBe(true)
  })
})

describe('dates of tables', () => {
  test.each([
    ['2026-05-04', 'month first', '2026-05-04'],
    ['20260504', 'day first', '2026-05-04'],
    ['4.5.2026', 'month first', '2026-05-04'],
    ['04/05/2026', 'day first', '2026-05-04'],
    ['04/05/2026', 'month first', '2026-04-05'],
    ['4-5-2026', 'day first', '2026-05-04'],
    ['2026-05-04T00:00:00', 'day first', '2026-05-04'],
    ['29.2.2023', 'day first', null],
    ['13/13/2026', 'day first', null],
    ['4.5.26', 'day first', null],
    ['May 4th', 'day first', null],
  ] as const)('%s, %s: %s', (text, order, iso) => {
    expect(readDate(text, order)).toBe(iso)
  })

  test('say by themselves what comes first, where one of them can', () => {
    expect(dateOrderOf(['04/05/2026', '25/05/2026'])).toBe('day first')
    expect(dateOrderOf(['04/05/2026', '05/25/2026'])).toBe('month first')
    expect(dateOrderOf(['04/05/2026', '25.05.2026', ''])).toBeNull()
    expect(dateOrderOf(['25.05.2026', '2026-05-25', ''])).toBe('day first')
  })
})

describe('a row', () => {
  const whole: Matching = [
    'firstName',
    'lastName',
    'email',
    'phone',
    'birthday',
    'tags',
    'language',
    'zone',
    'takesPromotional',
  ]
  test('becomes a client', () => {
    const cells = [
      ' Uma ',
      'Sandlark',
      'uma@sandlark.example',
      '0170 5550199',
      '14.5.1992',
      'kites; pier',
      'Deutsch',
      'Europe/Berlin',
      'ja',
    ]
    expect(read(cells, whole).input).toEqual({
      name: 'Uma Sandlark',
      zone: 'Europe/Berlin',
      language: 'de',
      tags: ['kites', 'pier'],
      takesPromotional: true,
      isActive: true,
      contacts: [
        {
          id: null,
          firstName: 'Uma',
          lastName: 'Sandlark',
          email: 'uma@sandlark.example',
          phone: '0170 5550199',
          isPrimary: true,
        },
      ],
      namedDates: [{ label: 'Birthday', monthDay: '05-14', year: 1992 }],
    })
  })

  test('that says nothing of it takes no promotional mail, and is named by an address where there is no name', () => {
    const { input } = read(['uma@sandlark.example'], ['email'])
    expect([input?.name, input?.takesPromotional]).toEqual(['uma@sandlark.example', false])
  })

  test('says all that is wrong in it at once', () => {
    const cells = [
      'Uma',
      'Sandlark',
      'uma at sandlark',
      '',
      '31.2.1992',
      '',
      'Klingon',
      'Europe/Atlantis',
      'maybe',
    ]
    const { faults } = read(cells, whole)
    expect(faults.map(({ field }) => field).sort()).toEqual([
      'birthday',
      'email',
      'language',
      'takesPromotional',
      'zone',
    ])
    expect(faults.find(({ field }) => field === 'email')?.sentence).toBe(
      '“uma at sandlark” is not an e-mail address.',
    )
  })

  test.each([
    [['', ''], ['name', 'email'], 'neither a name nor an address'],
    [['x'.repeat(161)], ['name'], 'At most 160 characters'],
    [['Uma\u0007'], ['name'], 'control characters'],
    [['Uma', 'x'.repeat(41)], ['name', 'tags'], 'At most 40'],
  ] as const)('%j is refused', (cells, matching, sentence) => {
    const { input, faults } = read(cells, matching)
    expect(input).toBeNull()
    expect(faults.map((fault) => fault.sentence).join()).toContain(sentence)
  })

  test('with an address that reaches nobody is refused once messages are real', () => {
    expect(read(['uma@kites.example'], ['email'], { isRealMail: true }).faults[0]?.field).toBe('email')
  })
})

const client = (part: Partial<Client>): Client => ({
  id: 'cl_there',
  name: 'Uma Sandlark',
  zone: null,
  language: 'en',
  contacts: [
    { id: 'ct_1', firstName: 'Uma', lastName: '', email: 'uma@sandlark.example', phone: '', isPrimary: true },
  ],
  namedDates: [],
  tags: ['kites'],
  takesPromotional: true,
  isActive: true,
  isHeldBack: false,
  addedAt: 0,
  revision: 3,
  ...part,
})
const row = (cells: readonly string[], matching: Matching) => {
  const { input } = read(cells, matching)
  if (!input) throw new Error('no client')
  return input
}

describe('doubles', () => {
  const matching: Matching = ['name', 'email', 'phone', 'birthday']
  test.each([
    [['Another', 'UMA@sandlark.example', '', ''], 'address'],
    [['Another', '', '+49 (170) 555-0199', ''], 'telephone'],
    [['UMA SÁNDLARK', '', '', '1990-05-14'], 'name and date'],
    [['Uma Sandlark', '', '', ''], null],
    [['Another', '', '0199', ''], null],
  ])('%j: the same by %s', (cells, by) => {
    const known = new Known<string>()
    const dated = client({ namedDates: [{ label: 'Birthday', monthDay: '05-14', year: null }] })
    known.add({ ...dated, contacts: [...dated.contacts, { email: null, phone: '0170 5550199' }] }, 'there')
    expect(known.find(row(cells, matching))?.by ?? null).toBe(by)
  })

  test('merged take what they lack, and keep what they have', () => {
    const merged = mergedInto(
      client({}),
      row(['Mrs Other', 'uma@pier.example', '0170', '14.5.1992'], matching),
      context.newId,
    )
    expect(merged).toMatchObject({ name: 'Uma Sandlark', revision: 4, takesPromotional: true })
    expect(merged.contacts.map(({ email, phone, isPrimary }) => [email, phone, isPrimary])).toEqual([
      ['uma@sandlark.example', '0170', true],
      ['uma@pier.example', '0170', false],
    ])
    expect(merged.namedDates).toHaveLength(1)
  })

  test('who lacks nothing is not touched', () => {
    const there = client({})
    expect(mergedInto(there, row(['Uma', 'uma@sandlark.example', '', ''], matching), context.newId)).toBe(
      there,
    )
  })
})

describe('bringing in and taking back', () => {
  const there = client({})
  const coming: readonly ComingIn[] = [
    { input: row(['Jo Reed', 'jo@reed.example'], ['name', 'email']), into: null },
    { input: row(['Uma', '0170 1234567'], ['name', 'phone']), into: there },
    { input: row(['Uma', 'uma@pier.example'], ['name', 'email']), into: there },
  ]
  const { effects, brought } = bringClientsIn(coming, 'kunden.csv', context)
  const put = effects.flatMap((effect) => (effect.kind === 'put client' ? [effect.client] : []))

  test('starts nothing: there is no event of a client, and one who is merged twice is put once', () => {
    const events = effects.flatMap((effect) => (effect.kind === 'append event' ? [effect.event] : []))
    expect(events.map(({ clientId, sentence }) => [clientId, sentence])).toEqual([
      [null, '2 clients brought in from kunden.csv.'],
    ])
    expect(put.map(({ name }) => name)).toEqual(['Jo Reed', 'Uma Sandlark'])
    expect(put[1]?.contacts.map(({ email, phone }) => [email, phone])).toEqual([
      ['uma@sandlark.example', '0170 1234567'],
      ['uma@pier.example', ''],
    ])
  })

  test('taken back who was added goes and who was merged is as before', () => {
    const now = new Map(put.map((one) => [one.id, one]))
    const back = takeClientsBack(brought, (id) => ({ client: now.get(id) ?? null, isUsed: false }), context)
    expect(back.kept).toEqual([])
    expect(back.effects.slice(0, 2)).toEqual([
      { kind: 'remove client', id: put[0]?.id },
      { kind: 'put client', client: { ...there, revision: (put[1]?.revision ?? 0) + 1 } },
    ])
  })

  test('who was used or has changed since stays', () => {
    const now = new Map(put.map((one) => [one.id, { ...one, revision: one.revision + 1 }]))
    const changed = takeClientsBack(
      brought,
      (id) => ({ client: now.get(id) ?? null, isUsed: false }),
      context,
    )
    expect(changed.kept).toHaveLength(2)
    const asPut = new Map(put.map((one) => [one.id, one]))
    const used = takeClientsBack(brought, (id) => ({ client: asPut.get(id) ?? null, isUsed: true }), context)
    expect(used.kept.map(({ name }) => name)).toEqual(['Jo Reed'])
  })
})
