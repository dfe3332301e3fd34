import { copyFileSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { openStore } from './database.ts'
import { readQueries } from './statements.ts'
import { testFolder, writeExampleBusiness } from '../testing/seed.ts'

function migrated(): Sqlite.Database {
  const folder = testFolder()
  openStore(folder).close()
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  database.pragma('foreign_keys = ON')
  return database
}

describe('the queries', () => {
  const database = migrated()
  const queries = readQueries()

  test('have names of their own', () => {
    expect(new Set(queries.map(({ name }) => name)).size).toBe(queries.length)
    expect(queries.length).toBeGreaterThan(50)
  })

  test.each(queries.map(({ name, sql }) => [name, sql]))('%s can be prepared', (_, sql) => {
    expect(() => database.prepare(sql)).not.toThrow()
  })

  test.each(queries.filter(({ isOften }) => isOften).map(({ name, sql }) => [name, sql]))(
    '%s runs often and scans no table',
    (_, sql) => {
      const names = [...sql.matchAll(/@(\w+)/g)].map(([, name]) => [name, null])
      const plan = database.prepare(`EXPLAIN QUERY PLAN ${sql}`).all(Object.fromEntries(names)) as {
        detail: string
      }[]
      const scans = plan.map(({ detail }) => detail).filter((detail) => /^SCAN (?!json_each)/.test(detail))
      // Walking a partial index in order, up to a limit, is what the due queries are for.
      expect(
        scans.filter((detail) => !/USING (COVERING )?INDEX sends_(due|in_trouble|claimed)/.test(detail)),
      ).toEqual([])
    },
  )
})

describe('the database', () => {
  test('keeps events for ever as they are', () => {
    const database = migrated()
    database.exec(
      "INSERT INTO events (id, at, kind, name, sentence) VALUES ('ev_1', 0, 'client added', '', 'x')",
    )
    expect(() => database.exec("UPDATE events SET sentence = 'y'")).toThrow('events are never changed')
    expect(() => database.exec('DELETE FROM events')).toThrow('events are never deleted')
  })

  test('takes no second send with one key, whatever the state of the first', () => {
    const database = migrated()
    database.pragma('foreign_keys = OFF')
    const insert = (id: string, state: string) =>
      database
        .prepare(
          `INSERT INTO sends (id, run_id, sequence_id, sequence_version, step_id, occurrence, anchor_value, contact_id,
            client_id, subject_kind, subject_id, letter_id, purpose, state, trace_json, message_id, attempts, state_since)
           VALUES (?, 'ru_1', 'sq_1', 1, 'st_1', 0, '5', 'ct_1', 'cl_1', 'booking', 'bk_1', 'lt_1', 'reminder', ?, '[]', 'm', 0, 0)`,
        )
        .run(id, state)
    insert('sd_1', 'cancelled')
    expect(() => insert('sd_2', 'ready')).toThrow('UNIQUE')
  })

  test('is opened by one process at a time', () => {
    const folder = testFolder()
    const store = openStore(folder)
    expect(() => openStore(folder)).toThrow('already running')
    store.close()
    openStore(folder).close()
  })

  test('knows when it is a copy', () => {
    const folder = testFolder()
    const original = openStore(folder)
    original.transaction(() => writeExampleBusiness(original.statements))
    expect(original.isCopy).toBe(false)
    original.close()
    const again = openStore(folder)
    expect(again.isCopy).toBe(false)
    again.close()
    const elsewhere = join(testFolder(), 'restored')
    mkdirSync(elsewhere)
    copyFileSync(join(folder, 'vorfreude.db'), join(elsewhere, 'vorfreude.db'))
    const copy = openStore(elsewhere)
    expect(copy.isCopy).toBe(true)
    copy.close()
  })

  test('of a newer version is refused', () => {
    const folder = testFolder()
    openStore(folder).close()
    const database = new Sqlite(join(folder, 'vorfreude.db'))
    database.pragma('user_version = 999')
    database.close()
    expect(() => openStore(folder)).toThrow('newer version')
  })

  test('cannot lie where a file is', () => {
    const file = join(testFolder(), 'file')
    writeFileSync(file, '')
    expect(() => openStore(join(file, 'data'))).toThrow('cannot be written to')
  })

  test('takes a whole transaction or nothing of it', () => {
    const store = openStore(testFolder())
    expect(() =>
      store.transaction(() => {
        store.statements.run('writeMeta', { key: 'half', value: 'written' })
        throw new Error('stop')
      }),
    ).toThrow('stop')
    expect(store.statements.one('readMeta', { key: 'half' })).toBeUndefined()
    store.close()
  })
})
