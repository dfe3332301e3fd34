import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import type { Answer } from '../testing/answer.ts'
import { openExample } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { createApp } from './app.ts'

/* A table from whatever program wrote it: read, looked at line by line, brought in all or none, taken back. */

let running: RunningApplication
let app: Express
let own: { cookie: string; csrf: string }
beforeAll(async () => {
  running = await openExample()
  addEda(running.application)
  app = createApp(running, pino({ level: 'silent' }))
  own = await signInEda(app)
})
afterAll(() => running.end())

let count = 0
const ask = async (method: 'get' | 'post', path: string, body?: object) => {
  const answer = await request(app)
    [method](path)
    .set('Host', '127.0.0.1')
    .set('Cookie', own.cookie)
    .set('X-CSRF-Token', own.csrf)
    .send(body)
  return { status: answer.status, body: answer.body as Record<string, unknown> }
}
const command = (body: object = {}) => ({ commandId: `table-command-${(count += 1)}`, ...body })
const open = async (bytes: Buffer | string, fileName = 'kunden.csv') => {
  const { status, body } = await ask('post', '/api/tables', {
    fileName,
    base64: Buffer.from(bytes).toString('base64'),
  })
  return { status, detail: body['detail'], ...(body as unknown as Answer<'openTable'>) }
}
const look = async (table: Pick<Answer<'openTable'>, 'id' | 'columns'>, dateOrder = 'day first') => {
  const matching = table.columns.map(({ field }) => field)
  const { body } = await ask('post', `/api/tables/${table.id}/look`, { matching, dateOrder })
  return body as unknown as Answer<'lookAtTable'>
}
const bring = (tableId: string, lookId: string, doubles: string, others: object[] = []) =>
  ask('post', `/api/tables/${tableId}/clients`, command({ lookId, doubles, others }))
const clientsNamed = async (words: string) =>
  (await ask('get', `/api/clients?words=${encodeURIComponent(words)}`)).body['lines'] as {
    id: string
    name: string
  }[]

const plain = 'Vorname,Nachname,E-Mail,Geburtstag\r\nJürgen,Großmann,juergen@grossmann.example,4.5.1980\r\n'
const utf16 = (text: string, mark: string) => Buffer.from(mark + text, 'utf16le')
const bigEndian = (bytes: Buffer) => Buffer.from(bytes).swap16()

describe('a table is read in whatever it was written', () => {
  test.each([
    ['UTF-8', Buffer.from(plain), 'UTF-8'],
    ['UTF-8 with a byte order mark', Buffer.from(`\uFEFF${plain}`), 'UTF-8'],
    ['UTF-16 with a mark', utf16(plain, '\uFEFF'), 'UTF-16'],
    ['UTF-16 without', utf16(plain, ''), 'UTF-16'],
    ['UTF-16, the other way round', bigEndian(utf16(plain, '\uFEFF')), 'UTF-16'],
    ['Latin-1', Buffer.from(plain, 'latin1'), 'Windows-1252'],
    ['semicolons', Buffer.from(plain.replaceAll(',', ';')), 'UTF-8'],
    ['tabs', Buffer.from(plain.replaceAll(',', '\t')), 'UTF-8'],
    ['lines of Unix', Buffer.from(plain.replaceAll('\r\n', '\n')), 'UTF-8'],
    [
      'quotation marks',
      Buffer.from(
        'Vorname,Nachname,E-Mail,Geburtstag\n"Jürgen","Großmann","juergen@grossmann.example","4.5.1980"',
      ),
      'UTF-8',
    ],
  ])('%s', async (_, bytes, encoding) => {
    const table = await open(bytes)
    expect([table.status, table.encoding, table.rows]).toEqual([200, encoding, 1])
    const { fresh, counts } = await look(table)
    expect(counts).toEqual({ new: 1, double: 0, faulty: 0 })
    expect(fresh[0]).toMatchObject({
      line: 2,
      name: 'Jürgen Großmann',
      email: 'juergen@grossmann.example',
      dates: '1980-05-04',
    })
  })

  test.each([
    ['an empty file', Buffer.from(''), 'The file is empty.'],
    ['a workbook', Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 0, 0, 1, 2, 3, 200]), 'This is no table'],
    [
      'a quotation mark that is never closed',
      'Name,E-Mail\n"Uma,uma@a.example\nJo,jo@a.example',
      'never closed',
    ],
    [
      'a quotation mark within a cell',
      'Name,E-Mail\n"U"ma,uma@a.example',
      'Line 2: there is a quotation mark in the middle',
    ],
    ['200,000 lines', `Name\n${'Uma\n'.repeat(200_000)}`, 'more than 50,000 rows'],
  ])('%s is refused with a sentence', async (_, bytes, sentence) => {
    const { status, detail } = await open(bytes)
    expect([status, detail]).toEqual([422, expect.stringContaining(sentence)])
  })

  test('cells of several lines keep the count of lines right; faults are told by line', async () => {
    const table = await open('Name,E-Mail\n"Uma\nSandlark",uma@a.example\nJo,nonsense\n\nLu,lu@a.example\n')
    const { faulty, fresh } = await look(table)
    expect(fresh.map(({ line, name }) => [line, name])).toEqual([
      [2, 'Uma Sandlark'],
      [6, 'Lu'],
    ])
    expect(faulty).toEqual([
      { line: 4, faults: [{ field: 'email', sentence: '“nonsense” is not an e-mail address.' }] },
    ])
  })

  test('two columns that are matched to one field are refused', async () => {
    const { id } = await open('a;b\n1;2\n')
    const { status, body } = await ask('post', `/api/tables/${id}/look`, {
      matching: ['name', 'name'],
      dateOrder: 'day first',
    })
    expect([status, body['detail']]).toEqual([422, 'Two columns are the same. Leave one of them out.'])
  })
})

describe('cards', () => {
  const cards = [
    'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Oona Siltanen\r\nN:Siltanen;Oona;;;\r\nEMAIL:oona@card.example\r\nEMAIL:oona2@card.example\r\nTEL;VALUE=uri:tel:+49-170-5550123\r\nBDAY:--0229\r\nCATEGORIES:kites,pier\r\nEND:VCARD',
    'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Żaneta Quendel\r\nN:Quendel;Żaneta\r\nEMAIL;TYPE=INTERNET:zaneta@card.example\r\nBDAY:1980-05-04\r\nEND:VCARD',
  ].join('\r\n')

  test('of versions 4.0 and 3.0 are read', async () => {
    const table = await open(cards, 'people.vcf')
    expect(table.rows).toBe(2)
    const found = await look(table)
    expect(found.fresh.map(({ name, email, phone, dates }) => [name, email, phone, dates])).toEqual([
      ['Oona Siltanen', 'oona@card.example', '+49-170-5550123', '--02-29'],
      ['Żaneta Quendel', 'zaneta@card.example', '', '1980-05-04'],
    ])
    const { body } = await bring(table.id, found.id, 'skip')
    expect(body).toMatchObject({ added: 2 })
    const [oona] = await clientsNamed('siltanen')
    const view = (await ask('get', `/api/clients/${oona?.id ?? ''}`)).body as unknown as Answer<'client'>
    expect(view.client.contacts.map(({ email }) => email)).toEqual([
      'oona@card.example',
      'oona2@card.example',
    ])
    expect(view.client.tags).toEqual(['kites', 'pier'])
  })

  test('one that is broken is told by its line', async () => {
    const { status, detail } = await open(
      'BEGIN:VCARD\r\nVERSION:4.0\r\nthis is no line\r\nEND:VCARD',
      'x.vcf',
    )
    expect([status, detail]).toEqual([422, expect.stringContaining('The card at line 1 cannot be read')])
    expect((await open('BEGIN:VCARD\r\nFN:half', 'x.vcf')).detail).toContain('no whole card')
  })
})

test('a large body of somebody who is not signed in is not read', async () => {
  const large = { fileName: 'x.csv', base64: 'A'.repeat(3_000_000) }
  const answer = await request(app).post('/api/tables').set('Host', '127.0.0.1').send(large)
  expect(answer.status).toBe(413)
})

describe('brought in and taken back', () => {
  const table =
    'Name,E-Mail,Telefon\nUma Sandlark,uma@twice.example,\nUma again,UMA@twice.example,\nJo Reed,jo@twice.example,0170 5550177\n'

  test('all of it, doubles as it was said, remembered, and once however often it is pressed', async () => {
    const first = await open(table)
    const found = await look(first)
    expect(found.counts).toEqual({ new: 2, double: 1, faulty: 0 })
    expect(found.doubles[0]).toMatchObject({
      line: 3,
      by: 'address',
      clientId: null,
      of: 'line 2: Uma Sandlark',
    })
    const body = command({ lookId: found.id, doubles: 'skip', others: [] })
    const [one, two] = await Promise.all(
      [1, 2].map(() => ask('post', `/api/tables/${first.id}/clients`, body)),
    )
    expect(one?.body).toEqual(two?.body)
    expect(one?.body).toMatchObject({ added: 2, merged: 0, left: 1 })
    expect(await clientsNamed('twice.example')).toHaveLength(2)

    const again = await open(
      'Name,E-Mail,Telefon\nJo Reed,jo@twice.example,\nUma,uma@twice.example,0170 5550155\n',
    )
    expect(again.isRemembered).toBe(true)
    const later = await look(again)
    expect(later.doubles.map(({ of }) => of)).toEqual(['Jo Reed', 'Uma Sandlark'])
    const merged = await bring(again.id, later.id, 'skip', [{ line: 3, act: 'merge' }])
    expect(merged.body).toMatchObject({ added: 0, merged: 1, left: 1 })
    const none = await look(await open('Name,E-Mail\nJo,jo@twice.example\n'))
    expect(none.counts.double).toBe(1)

    const { imports } = (await ask('get', '/api/client-imports')).body as unknown as Answer<'clientImports'>
    expect(imports.slice(0, 2).map(({ clients, fileName }) => [clients, fileName])).toEqual([
      [1, 'kunden.csv'],
      [2, 'kunden.csv'],
    ])
    const back = await ask('post', `/api/client-imports/${imports[0]?.id ?? ''}/take-back`, command())
    expect(back.body).toEqual({ taken: 1, kept: [] })
    const other = await ask('post', `/api/client-imports/${imports[1]?.id ?? ''}/take-back`, command())
    // Uma has changed since, although it was taken back.
    expect(other.body).toMatchObject({ taken: 1, kept: [{ name: 'Uma Sandlark' }] })
    const twice = await ask('post', `/api/client-imports/${imports[1]?.id ?? ''}/take-back`, command())
    expect([twice.status, twice.body['detail']]).toEqual([409, 'This was taken back already.'])
    expect(await clientsNamed('jo@twice.example')).toEqual([])
  })

  test('nothing of it where one row cannot be written, and what was looked at is what comes in', async () => {
    const opened = await open('Name,E-Mail\nLast One,last@none.example\n')
    const before = await look(opened)
    const after = await look(opened)
    const stale = await bring(opened.id, before.id, 'add')
    expect([stale.status, stale.body['detail']]).toEqual([
      409,
      expect.stringContaining('looked at anew since'),
    ])
    const { store } = running.application
    const run = store.statements.run.bind(store.statements)
    const failing = (...asked: Parameters<typeof run>) => {
      if (asked[0] === 'insertImportedClient') throw new Error('disk')
      return run(...asked)
    }
    Object.assign(store.statements, { run: failing })
    expect((await bring(opened.id, after.id, 'add')).status).toBe(500)
    Object.assign(store.statements, { run })
    expect(await clientsNamed('last@none.example')).toEqual([])
    expect((await bring(opened.id, after.id, 'add')).body).toMatchObject({ added: 1 })
    const gone = await ask('post', '/api/tables/6f1c2c52-7e0c-4f0e-9f0e-0d7c0a1b2c3d/look', {
      matching: [],
      dateOrder: 'day first',
    })
    expect([gone.status, gone.body['detail']]).toEqual([
      404,
      'This file is not open any more. Choose it once more.',
    ])
  })
})
