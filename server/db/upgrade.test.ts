import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { copyFileSync, existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { afterAll, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { planAllAnew } from '../engine/commands/sequenceCommands.ts'
import { openExample, testFolder } from '../testing/seed.ts'
import { smallDisk } from '../testing/smallDisk.ts'
import { backUp, backupsOf } from './backup.ts'
import { openStore } from './database.ts'

/*
 * Databases as former versions of this program had written them, by six clients with bookings and some days of sending,
 * brought up to date while the process is killed.
 */

const landed = new URL('../testing/landed/', import.meta.url)
const fixtures = readdirSync(landed).sort()
const kills = process.env['VORFREUDE_FULL'] === 'yes' ? 60 : 20

function folderOf(fixture: string): string {
  const folder = testFolder()
  writeFileSync(join(folder, 'vorfreude.db'), gunzipSync(readFileSync(new URL(fixture, landed))))
  return folder
}

/** All rows of all tables, but for where the file lies and which key goes with it. */
function contentOf(file: string): Record<string, unknown[]> {
  const database = new Sqlite(file, { readonly: true })
  const tables = database
    .prepare<[], { name: string }>("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name")
    .all()
  const content = tables.map(({ name }): [string, unknown[]] => [
    name,
    database
      .prepare(`SELECT * FROM "${name}"${name === 'meta' ? " WHERE key NOT IN ('file', 'key')" : ''}`)
      .all(),
  ])
  const whole = database.pragma('integrity_check', { simple: true })
  database.close()
  expect(whole).toBe('ok')
  return Object.fromEntries(content)
}

const versionOf = (file: string) => {
  const database = new Sqlite(file, { readonly: true })
  const version = database.pragma('user_version', { simple: true })
  database.close()
  return version
}

/** Brings it up to date in a process of its own, killed at a step; how many steps there were if it was not. */
function openKilled(folder: string, killAt: number | null) {
  const stepsFile = join(folder, 'steps')
  const preload = ['--import', 'tsx', '--import', './server/testing/killAtStep.ts']
  const { signal } = spawnSync(process.execPath, [...preload, 'server/testing/openDatabase.ts', folder], {
    env: {
      ...process.env,
      VORFREUDE_STEPS_FILE: stepsFile,
      ...(killAt === null ? {} : { VORFREUDE_KILL_AT: String(killAt) }),
    },
  })
  return { wasKilled: signal === 'SIGKILL', steps: () => Number(readFileSync(stepsFile, 'utf8')) }
}

/** What is planned, planned anew. */
async function plannedAnew(folder: string) {
  const running = await openExample({ folder })
  const { application } = running
  const read = () =>
    application.store.statements
      .all('clientsWithPlanned', { sequenceId: null })
      .flatMap(({ id }) => application.sliceOf(String(id), 'everything')?.facts.sends ?? [])
  const before = read()
  planAllAnew(application)
  const after = read()
  await running.end()
  expect(after).toEqual(before)
  return after
}

test.each(fixtures)(
  `%s, killed ${kills} times on the way: afterwards it is whole, nothing is planned otherwise, and every backup restores`,
  async (fixture) => {
    const file = (folder: string) => join(folder, 'vorfreude.db')
    const undisturbed = folderOf(fixture)
    const before = contentOf(file(undisturbed))
    const version = Number(versionOf(file(undisturbed)))
    const steps = openKilled(undisturbed, null).steps()
    expect(steps).toBeGreaterThan(20)

    const folder = folderOf(fixture)
    let killed = 0
    for (let kill = 0; kill < kills; kill += 1) {
      // Each a little further on the whole way, which begins anew after each: it is all or nothing.
      if (openKilled(folder, Math.floor((kill * steps) / kills)).wasKilled) killed += 1
    }
    // Once it is done, fewer steps are left than it would be killed at.
    expect(killed).toBeGreaterThanOrEqual(kills / 2)
    openStore(folder).close()
    expect(contentOf(file(folder))).toEqual(contentOf(file(undisturbed)))
    const left = readdirSync(folder).filter((name) => name.includes('unfinished'))
    expect(left.length).toBeLessThanOrEqual(1)

    const backups = backupsOf(file(folder))
    expect(backups[0]?.name).toContain(`before-${String(version + 1).padStart(3, '0')}`)
    for (const { name } of [...backups.slice(0, 2), ...backups.slice(-1)]) {
      expect([name, versionOf(join(folder, name))]).toEqual([name, version])
      expect(contentOf(join(folder, name))).toEqual(before)
      const restored = testFolder()
      copyFileSync(join(folder, name), file(restored))
      openStore(restored).close()
      expect(contentOf(file(restored))).toEqual(contentOf(file(undisturbed)))
      // It is taken anew, and the one restored from stays as it is.
      expect(backupsOf(file(restored))).toHaveLength(1)
    }
    expect(await plannedAnew(folder)).toEqual(await plannedAnew(undisturbed))
  },
)

describe('a backup', () => {
  test('is taken for each attempt, and none is overwritten', () => {
    const folder = folderOf(fixtures[0] ?? '')
    const file = join(folder, 'vorfreude.db')
    const database = new Sqlite(file)
    backUp(database, file, 6)
    backUp(database, file, 6)
    backUp(database, file, 10)
    const names = () => backupsOf(file).map(({ name }) => name)
    expect(names()).toEqual([
      'vorfreude.db.before-006.1',
      'vorfreude.db.before-006.2',
      'vorfreude.db.before-010.1',
    ])
    // Somebody has taken the first away: the second stays what it is.
    rmSync(join(folder, 'vorfreude.db.before-006.1'))
    const kept = statSync(join(folder, 'vorfreude.db.before-006.2')).ino
    backUp(database, file, 6)
    database.close()
    expect(names().slice(0, 2)).toEqual(['vorfreude.db.before-006.2', 'vorfreude.db.before-006.3'])
    expect(statSync(join(folder, 'vorfreude.db.before-006.2')).ino).toBe(kept)
  })

  const disk = testFolder()
  const small = smallDisk(disk, '600k')
  const whereThereIsOne = small ? test : test.skip
  afterAll(() => small?.unmount())
  whereThereIsOne('that has no room on the disk is said, and nothing is changed', () => {
    const file = join(disk, 'vorfreude.db')
    const fixture = fixtures[0] ?? ''
    writeFileSync(file, gunzipSync(readFileSync(new URL(fixture, landed))))
    const before = versionOf(file)
    expect(() => openStore(disk)).toThrow(/could not be backed up.*nothing was changed.*Make room/s)
    expect(versionOf(file)).toBe(before)
    expect(readdirSync(disk).filter((name) => name.includes('before-'))).toEqual([])
  })
})

test.each(fixtures)(
  '%s, and a migration on the way fails: the data is as it was before, and the start says why',
  (fixture) => {
    const folder = folderOf(fixture)
    const file = join(folder, 'vorfreude.db')
    const database = new Sqlite(file)
    // What the newest of them makes is there already.
    database.exec('CREATE TABLE client_merges (own TEXT) STRICT')
    database.close()
    const before = contentOf(file)
    const version = versionOf(file)
    expect(() => openStore(folder)).toThrow(
      /could not be brought up to date, and is as it was before \(026_client_merges\.sql: table client_merges already exists\)\. Start the version before/,
    )
    expect(contentOf(file)).toEqual(before)
    expect(versionOf(file)).toBe(version)
    expect(backupsOf(file)).toHaveLength(1)
  },
)

test('a migration that has been committed is never changed', () => {
  const folder = new URL('./migrations/', import.meta.url)
  const known = readFileSync(new URL('checksums.txt', folder), 'utf8').trim().split('\n')
  const present = readdirSync(folder)
    .filter((name) => name.endsWith('.sql'))
    .sort()
    .map((name) => {
      const sum = createHash('sha256').update(readFileSync(new URL(name, folder)))
      return `${sum.digest('hex')}  ${name}`
    })
  expect(present).toEqual(known)
  expect(existsSync(new URL('001_start.sql', folder))).toBe(true)
})
