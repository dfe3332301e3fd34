import { readdirSync, statSync } from 'node:fs'
import { basename, dirname } from 'node:path'
import Sqlite from 'better-sqlite3'
import { writeAside } from './writeAside.ts'
import { knowFolding } from './folding.ts'

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

/** Reads a copy back; throws where it is damaged. */
export function readBack<Found>(copy: string, read: (database: Sqlite.Database) => Found): Found {
  const database = new Sqlite(copy, { readonly: true, fileMustExist: true })
  try {
    const found = database.pragma('integrity_check', { simple: true })
    if (found !== 'ok') throw new Error(`the copy is damaged (${String(found)})`)
    return read(database)
  } finally {
    database.close()
  }
}

/** Throws where a copy is not whole or does not hold what the original holds. */
function check(copy: string, original: Sqlite.Database) {
  if (JSON.stringify(readBack(copy, counts)) !== JSON.stringify(counts(original))) {
    throw new Error('the copy does not hold everything')
  }
}

/** Backs a database up before its tables get the shape of a version. Throws where that cannot be done whole. */
export function backUp(database: Sqlite.Database, file: string, version: number) {
  const stem = `${file}.before-${String(version).padStart(3, '0')}`
  const write = (aside: string) => {
    database.prepare('VACUUM INTO ?').run(aside)
    check(aside, database)
  }
  const last = () => backupsOf(file).findLast((taken) => taken.version === version)
  writeAside(stem, write, () => `${stem}.${(last()?.number ?? 0) + 1}`)
}

/** Tables that only grow: what they hold in a copy lies between what they held before and after it was made. */
const growing = ['bookings', 'clients', 'events', 'sends'] as const

const sizesOf = (database: Sqlite.Database) =>
  growing.map((name) => database.prepare(`SELECT count(*) FROM ${name}`).pluck().get() as number)

/**
 * Copies a database that is at work into a file of its own: one moment of it, whatever is written meanwhile. Returns how
 * large the copy is, in bytes. Throws where it cannot be done whole.
 */
export function copyWhileAtWork(file: string, to: string): number {
  const original = new Sqlite(file, { readonly: true })
  knowFolding(original)
  try {
    const before = sizesOf(original)
    const write = (aside: string) => {
      original.prepare('VACUUM INTO ?').run(aside)
      const after = sizesOf(original)
      const found = readBack(aside, sizesOf)
      const isBetween = found.every(
        (size, index) => size >= (before[index] ?? 0) && size <= (after[index] ?? 0),
      )
      if (!isBetween) throw new Error('the copy does not hold everything')
    }
    writeAside(to, write)
    return statSync(to).size
  } finally {
    original.close()
  }
}
