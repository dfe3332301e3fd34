import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { BusinessBundle } from '#core/model/businessBundle.ts'
import { migrate } from '../db/database.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { restoreCommand } from '../headless/restore.ts'
import { hashPassword } from '../session/password.ts'
import { addBookedClient, call, openExample, testFolder } from '../testing/seed.ts'
import { bundledTables } from './bundledTables.ts'
import { planOfBundle, toCome } from './planOfBundle.ts'
import { asBusinessBundle, readBundleInto } from './readBundle.ts'
import { writeBundle } from './writeBundle.ts'

/* A whole business out and back: every row, the same plan, no password; and nothing left where it cannot be read. */

let running: RunningApplication
const password = 'Zauberwürfel am Deich 4711'
const textOf = (file: string) => [...writeBundle(file, new Date(0))].join('')
const bundleOf = (file: string) => asBusinessBundle(JSON.parse(textOf(file)))

beforeAll(async () => {
  running = await openExample()
  const { application, commands } = running
  for (let index = 0; index < 12; index += 1) {
    const id = addBookedClient(
      application,
      commands,
      `Client ${index}`,
      index % 5 === 4 ? null : `c${index}@mail.example`,
      index + 2,
    )
    if (index % 4 === 3) {
      commands.cancelBooking(call('cancelBooking'), id, 1)
    }
  }
  application.store.statements.run('setPassword', {
    personId: 'pe_1',
    passwordHash: await hashPassword(password),
  })
  application.store.statements.run('putFile', {
    id: 'fl_1',
    name: 'map.pdf',
    type: 'application/pdf',
    bytes: Buffer.from([0, 255, 1, 254, 10, 13]),
  })
})
afterAll(() => running.end())

const rowsOf = (file: string) => {
  const database = new Sqlite(file, { readonly: true })
  const rows = bundledTables(database).map(({ name, columns }) => [
    name,
    database
      .prepare(`SELECT ${columns.map((one) => `"${one}"`).join(', ')} FROM "${name}"`)
      .all()
      .filter((row) => !['file', 'key'].includes(String((row as { key?: unknown }).key))),
  ])
  database.close()
  return rows
}

describe('a whole business', () => {
  test('out and back is the same, row by row, held back and without its passwords', () => {
    const { file } = running.application.store
    const bundle = bundleOf(file)
    expect(bundle.tables['clients']).toHaveLength(12)
    expect(bundle.tables['sends']?.length).toBeGreaterThan(10)
    const text = textOf(file)
    for (const secret of ['scrypt$', 'password_hash', 'sealed_password', 'token_hash'])
      expect(text).not.toContain(secret)
    const folder = testFolder()
    readBundleInto(bundle, folder)
    expect(readdirSync(folder)).toEqual(['vorfreude.db'])
    const database = new Sqlite(join(folder, 'vorfreude.db'))
    expect(database.prepare('SELECT is_sending_on FROM business').pluck().get()).toBe(0)
    database.exec('UPDATE business SET is_sending_on = 1')
    database.close()
    expect(rowsOf(join(folder, 'vorfreude.db'))).toEqual(rowsOf(file))
  })

  test('has the same plan, send by send, when everything is planned anew', async () => {
    const { application } = running
    const plan = await planOfBundle(bundleOf(application.store.file))
    expect(plan.length).toBeGreaterThan(10)
    expect(plan.map(({ state }) => state)).toContain('ready')
    expect(plan).toEqual(toCome(running))
  })

  test('of an older Vorfreude is brought up to date', () => {
    const older = join(testFolder(), 'older.db')
    const database = new Sqlite(older)
    migrate(database, older, 20)
    database.exec(
      "INSERT INTO clients (id, name, language, takes_promotional, is_active, added_at, revision, found_by) VALUES ('cl_1', 'Uma', 'en', 1, 1, 0, 1, 'uma')",
    )
    database.close()
    const bundle = bundleOf(older)
    expect(bundle.schema).toBe(20)
    const folder = testFolder()
    readBundleInto(bundle, folder)
    expect(readdirSync(folder)).toEqual(['vorfreude.db'])
    const read = new Sqlite(join(folder, 'vorfreude.db'))
    expect(read.pragma('user_version', { simple: true })).toBeGreaterThan(24)
    expect(read.prepare('SELECT name FROM clients').pluck().all()).toEqual(['Uma'])
    read.close()
  })
})

describe('what cannot be read leaves nothing', () => {
  const spoilt = (change: (bundle: BusinessBundle) => unknown) =>
    change(bundleOf(running.application.store.file))
  test.each<[string, (bundle: BusinessBundle) => unknown, string]>([
    ['another format', (one) => ({ ...one, format: 'vorfreude-sequence-1' }), 'format'],
    ['a newer one', (one) => ({ ...one, schema: 9999 }), 'newer version of Vorfreude'],
    [
      'a table nobody knows',
      (one) => ({ ...one, tables: { ...one.tables, secrets: [] } }),
      'tables.secrets: Schema',
    ],
    [
      'a column nobody knows',
      (one) => ({ ...one, tables: { ...one.tables, clients: [{ id: 'cl_x', shoe: 44 }] } }),
      'tables.clients.0.shoe: Schema',
    ],
    [
      'a value that cannot be',
      (one) => ({ ...one, tables: { ...one.tables, clients: [{ id: 'cl_x' }] } }),
      'tables.clients.0: NOT NULL constraint failed',
    ],
    [
      'a name of nothing',
      (one) => ({ ...one, tables: { ...one.tables, clients: [] } }),
      'names something that is not in the file',
    ],
    [
      'a value of no kind',
      (one) => ({ ...one, tables: { meta: [{ key: 'x', value: { a: 1 } }] } }),
      'tables.meta.0.value',
    ],
  ])('%s', (_, change, sentence) => {
    const folder = testFolder()
    expect(() => readBundleInto(asBusinessBundle(spoilt(change)), folder)).toThrow(sentence)
    expect(readdirSync(folder)).toEqual([])
  })

  test('nor does anything happen to a folder in which there is something', () => {
    const folder = testFolder()
    writeFileSync(join(folder, 'mine.txt'), 'mine')
    expect(() => readBundleInto(bundleOf(running.application.store.file), folder)).toThrow('is not empty')
    expect(readFileSync(join(folder, 'mine.txt'), 'utf8')).toBe('mine')
  })
})

describe('./run restore with such a file', () => {
  test('says what was read and how the owner comes in; a half file is refused', () => {
    const folder = testFolder()
    const file = join(folder, 'business.json')
    const text = textOf(running.application.store.file)
    const said: string[] = []
    writeFileSync(file, text.slice(0, text.length / 2))
    const target = join(folder, 'new')
    expect(restoreCommand([file, '--data', target], (sentence) => void said.push(sentence))).toBe(1)
    expect(said.join()).toContain('is no JSON, or only a part of it')
    expect(existsSync(target)).toBe(false)
    writeFileSync(file, text)
    expect(restoreCommand([file, '--data', target], (sentence) => void said.push(sentence))).toBe(0)
    expect(said.join('\n')).toMatch(
      /12 clients, 12 bookings[\s\S]*\/come-in#[\w-]{20,}[\s\S]*starts held back/,
    )
  })
})
