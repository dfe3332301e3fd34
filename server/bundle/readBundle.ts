import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs'
import { basename, join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { businessBundle, type BundledValue, type BusinessBundle } from '#core/model/businessBundle.ts'
import { migrate } from '../db/database.ts'
import { thrownIn } from '../db/thrown.ts'
import { bundledTables } from './bundledTables.ts'

/** A file of a whole business that cannot be read, with a sentence for whoever asked. */
export class BusinessBundleFault extends Error {}

/** What a file says it is; null: it is no whole business. */
export function asBusinessBundle(value: unknown): BusinessBundle {
  const parsed = businessBundle.safeParse(value)
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  throw new BusinessBundleFault(
    `${issue?.path.join('.') || '(the file)'}: ${issue?.message ?? 'It does not fit.'}`,
  )
}

const valueOf = (value: BundledValue | undefined) =>
  typeof value === 'object' && value !== null ? Buffer.from(value.base64, 'base64') : (value ?? null)

function insertAll(database: Sqlite.Database, { tables, schema }: BusinessBundle) {
  const known = new Map(bundledTables(database).map(({ name, columns }) => [name, columns]))
  for (const [name, rows] of Object.entries(tables)) {
    const columns = known.get(name)
    if (!columns) throw new BusinessBundleFault(`tables.${name}: Schema ${schema} has no such table.`)
    // What the tables begin with is in the file as well.
    database.exec(`DELETE FROM "${name}"`)
    const insert = database.prepare(
      `INSERT INTO "${name}" (${columns.map((column) => `"${column}"`).join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
    )
    rows.forEach((row, index) => {
      const stray = Object.keys(row).find((column) => !columns.includes(column))
      if (stray !== undefined) {
        throw new BusinessBundleFault(
          `tables.${name}.${index}.${stray}: Schema ${schema} has no such column.`,
        )
      }
      try {
        insert.run(columns.map((column) => valueOf(row[column])))
      } catch (fault) {
        throw new BusinessBundleFault(`tables.${name}.${index}: ${thrownIn(fault).message}.`)
      }
    })
  }
  const [broken] = database.pragma('foreign_key_check') as { table: string; rowid: number }[]
  if (broken) {
    throw new BusinessBundleFault(`tables.${broken.table}: a row names something that is not in the file.`)
  }
}

/**
 * Writes a whole business into a new data folder, brought up to date, with sending held back. What goes wrong leaves
 * nothing there. Throws a BusinessBundleFault.
 */
export function readBundleInto(bundle: BusinessBundle, folder: string) {
  if (existsSync(folder) && readdirSync(folder).length > 0) {
    throw new BusinessBundleFault(
      `${folder} is not empty. Read it into a new folder: what is there stays as it is.`,
    )
  }
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const aside = join(folder, 'vorfreude.db.unfinished')
  const database = new Sqlite(aside)
  try {
    database.pragma('foreign_keys = OFF')
    migrate(database, aside, bundle.schema)
    database.transaction(() => insertAll(database, bundle))()
    migrate(database, aside)
    database.exec('UPDATE business SET is_sending_on = 0')
    database.close()
    // What was backed up on the way was only the file itself.
    for (const name of readdirSync(folder)) if (name !== basename(aside)) rmSync(join(folder, name))
    renameSync(aside, join(folder, 'vorfreude.db'))
  } catch (fault) {
    database.close()
    for (const name of readdirSync(folder)) rmSync(join(folder, name))
    throw fault
  }
}
