import { accessSync, constants, mkdirSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { backUp, backupsOf } from './backup.ts'
import { knowFolding } from './folding.ts'
import { projectFolder } from '../place.ts'
import { openKeys, type Keys } from '../mail/keys.ts'
import { readIndexes } from './queryFiles.ts'
import { thrownIn } from './thrown.ts'
import { prepareStatements, type Statements } from './statements.ts'

export interface Store {
  readonly statements: Statements
  /** Where the database lies. */
  readonly file: string
  /** Runs some writing as one transaction: all of it or nothing. */
  readonly transaction: <Value>(write: () => Value) => Value
  /** What links and web calls are signed with. */
  readonly keys: Keys
  /** True when this file was found at another place than where it was last used: a copy or a restored backup. */
  readonly isCopy: boolean
  close(): void
}

/** The place cannot be used, with a sentence for the person who starts the program. */
export class DataFolderError extends Error {}

const migrations = join(projectFolder, 'server/db/migrations')

function migrationFiles(): readonly string[] {
  return readdirSync(migrations)
    .filter((file) => /^\d{3}_.+\.sql$/.test(file))
    .sort()
}

/** A numbered file gives the tables their next shape. */
function bringTo(database: Sqlite.Database, name: string, version: number) {
  database.exec(readFileSync(join(migrations, name), 'utf8'))
  const [broken] = database.pragma('foreign_key_check') as unknown[]
  if (broken !== undefined) throw new Error('it leaves a reference to nothing')
  database.pragma(`user_version = ${version}`)
}

/** Why data could not be brought up to date; it is as it was before. */
function notBroughtUp(name: string, fault: unknown): DataFolderError {
  const why = thrownIn(fault).message
  return new DataFolderError(
    `The data could not be brought up to date, and is as it was before (${name}: ${why}). Start the version before this one, which goes on with it; a backup lies beside it.`,
  )
}

/**
 * Brings the tables up to date, or to a schema of some number, by numbered files, after a backup of it all. It is one
 * transaction: where one of them fails everything is as it was.
 */
export function migrate(database: Sqlite.Database, file: string, upTo: number | null = null) {
  knowFolding(database)
  const present = database.pragma('user_version', { simple: true }) as number
  const all = migrationFiles()
  const files = all.slice(0, upTo ?? all.length)
  if (present > files.length || (upTo ?? 0) > all.length) {
    throw new DataFolderError(
      'This data was written by a newer version of Vorfreude. Start that version instead.',
    )
  }
  if (present > 0 && present < files.length) backUpOrStop(database, file, present + 1)
  // A migration may change what the schema says of a table without making the table anew.
  database.unsafeMode(true)
  database.transaction(() => {
    files.slice(present).forEach((name, index) => {
      try {
        bringTo(database, name, present + index + 1)
      } catch (fault) {
        throw present === 0 ? fault : notBroughtUp(name, fault)
      }
    })
  })()
  database.unsafeMode(false)
  // Indexes are of the newest tables.
  if (files.length === all.length) keepIndexes(database)
}

/** Makes anew the indexes whose group of states is another than when they were made. */
function keepIndexes(database: Sqlite.Database) {
  const present = new Map(
    database
      .prepare<[], { name: string; sql: string | null }>(
        "SELECT name, sql FROM sqlite_schema WHERE type = 'index'",
      )
      .all()
      .map(({ name, sql }) => [name, sql] as const),
  )
  const other = readIndexes().filter(({ name, sql }) => present.get(name) !== sql.replace(/;$/, ''))
  if (other.length === 0) return
  database.transaction(() => {
    other.forEach(({ name, sql }) => database.exec(`DROP INDEX IF EXISTS ${name}; ${sql}`))
  })()
}

function backUpOrStop(database: Sqlite.Database, file: string, version: number) {
  try {
    backUp(database, file, version)
  } catch (fault) {
    const why = thrownIn(fault).message
    const sentence = `The data could not be backed up before it is brought up to date, so nothing was changed: ${why}.`
    throw new DataFolderError(`${sentence} Make room on the disk of ${file}, then start again.`)
  }
}

function prepareFolder(folder: string) {
  try {
    mkdirSync(folder, { recursive: true })
    accessSync(folder, constants.W_OK)
  } catch {
    throw new DataFolderError(
      `The data folder ${folder} cannot be written to. Choose another one with --data.`,
    )
  }
}

/** One process per database: the lock is the operating system's, so it ends with the process, however that ends. */
function lock(folder: string): Sqlite.Database {
  const guard = new Sqlite(join(folder, 'lock.db'), { timeout: 0 })
  try {
    guard.pragma('locking_mode = EXCLUSIVE')
    guard.exec('BEGIN EXCLUSIVE; CREATE TABLE IF NOT EXISTS held (only_one INTEGER); COMMIT')
    return guard
  } catch {
    guard.close()
    throw new DataFolderError(`Another Vorfreude is already running on ${folder}. Stop that one first.`)
  }
}

/** Empties a data folder, unless a running process holds it. */
export function clearStore(folder: string) {
  prepareFolder(folder)
  const guard = lock(folder)
  for (const file of ['vorfreude.db', 'postoffice.db']) {
    for (const ending of ['', '-wal', '-shm']) rmSync(join(folder, file + ending), { force: true })
  }
  guard.close()
}

function noticeCopy(statements: Statements, file: string): boolean {
  const { dev, ino } = statSync(file)
  const here = `${dev}:${ino}`
  const known = statements.one('readMeta', { key: 'file' })?.['value']
  if (known !== here) statements.run('writeMeta', { key: 'file', value: here })
  return known !== undefined && known !== here
}

/**
 * How long a statement waits where another process has locked the database, in milliseconds: everything else stands still
 * meanwhile, and pages are answered within a second.
 */
const lockedMs = 150

/** Opens the database of a data folder, making it where there is none. Throws a DataFolderError. */
export function openStore(folder: string): Store {
  prepareFolder(folder)
  const guard = lock(folder)
  const file = join(folder, 'vorfreude.db')
  const database = new Sqlite(file, { timeout: lockedMs })
  try {
    return openDatabase(database, file, guard)
  } catch (fault) {
    database.close()
    guard.close()
    throw isDamaged(fault) ? new DataFolderError(damagedSentence(file)) : fault
  }
}

const isDamaged = (fault: unknown) =>
  fault instanceof Sqlite.SqliteError && /^SQLITE_(CORRUPT|NOTADB)/.test(fault.code)

function damagedSentence(file: string): string {
  const newest = backupsOf(file).at(-1)
  const restore =
    newest === undefined
      ? 'Put a backup in its place.'
      : `Put a backup in its place; the newest beside it is ${newest.name}.`
  return `The database ${file} is damaged and cannot be read. Nothing was changed. Keep the damaged file. ${restore}`
}

function openDatabase(database: Sqlite.Database, file: string, guard: Sqlite.Database): Store {
  database.pragma('journal_mode = WAL')
  database.pragma('synchronous = FULL')
  // A table made anew must not take what refers to it along: the references are checked when all is done.
  database.pragma('foreign_keys = OFF')
  migrate(database, file)
  database.pragma('foreign_keys = ON')
  const statements = prepareStatements(database)
  return {
    statements,
    file,
    transaction: (write) => database.transaction(write).immediate(),
    keys: openKeys(dirname(file), statements),
    isCopy: noticeCopy(statements, file),
    close() {
      database.close()
      guard.close()
    },
  }
}
