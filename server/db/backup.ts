import { closeSync, fsyncSync, openSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { basename, dirname } from 'node:path'
import Sqlite from 'better-sqlite3'

/*
 * Backups taken before data is brought up to date: `vorfreude.db.before-007.2` is the second one taken before the tables
 * got their seventh shape. One is written aside and gets its name only once it has been read back, so that what bears the
 * name is whole. None is ever overwritten.
 */

const namePattern = (file: string) =>
  new RegExp(`^${basename(file).replaceAll('.', '\\.')}\\.before-(\\d{3})\\.(\\d+)$`)

interface Backup {
  readonly name: string
  readonly version: number
  readonly number: number
}

/** The backups of a database file, the newest last. */
export function backupsOf(file: string): readonly Backup[] {
  return readdirSync(dirname(file))
    .flatMap((name): Backup[] => {
      const [, version, number] = namePattern(file).exec(name) ?? []
      return version === undefined ? [] : [{ name, version: Number(version), number: Number(number) }]
    })
    .sort((one, other) => one.version - other.version || one.number - other.number)
}

/** How many rows each table has. */
function counts(database: Sqlite.Database): Readonly<Record<string, number>> {
  const tables = database
    .prepare<[], { name: string }>("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name")
    .all()
  return Object.fromEntries(
    tables.map(({ name }) => [
      name,
      database.prepare(`SELECT count(*) FROM "${name}"`).pluck().get() as number,
    ]),
  )
}

/** Throws where a copy is not whole or does not hold what the original holds. */
function check(copy: string, original: Sqlite.Database) {
  const database = new Sqlite(copy, { readonly: true })
  try {
    const found = database.pragma('integrity_check', { simple: true })
    if (found !== 'ok') throw new Error(`the copy is damaged (${String(found)})`)
    if (JSON.stringify(counts(database)) !== JSON.stringify(counts(original))) {
      throw new Error('the copy does not hold everything')
    }
  } finally {
    database.close()
  }
}

function toDisk(path: string) {
  const descriptor = openSync(path, 'r')
  try {
    fsyncSync(descriptor)
  } finally {
    closeSync(descriptor)
  }
}

/** Backs a database up before its tables get the shape of a version. Throws where that cannot be done whole. */
export function backUp(database: Sqlite.Database, file: string, version: number) {
  const stem = `${file}.before-${String(version).padStart(3, '0')}`
  const aside = `${stem}.unfinished`
  // Left by an attempt that was ended in the middle.
  rmSync(aside, { force: true })
  try {
    database.prepare('VACUUM INTO ?').run(aside)
    check(aside, database)
    toDisk(aside)
    const last = backupsOf(file).findLast((taken) => taken.version === version)
    renameSync(aside, `${stem}.${(last?.number ?? 0) + 1}`)
    toDisk(dirname(file))
  } catch (fault) {
    rmSync(aside, { force: true })
    throw fault
  }
}
