import type Sqlite from 'better-sqlite3'

/** What lets people in, and what only this database is about, goes into no file. */
const tablesLeftOut: readonly string[] = [
  'api_keys',
  'commands',
  'recovery_words',
  'second_factors',
  'sessions',
  'ways_in',
]
const columnsLeftOut: readonly string[] = [
  'people.password_hash',
  'mail_account.sealed_password',
  'further_accounts.sealed_password',
]
/** Which file and key a database belongs to. */
export const metaLeftOut: readonly string[] = ['file', 'key', 'web call secret']

export interface BundledTable {
  readonly name: string
  readonly columns: readonly string[]
}

/** The tables of a business with those of their columns that are written, in the order of their names. */
export function bundledTables(database: Sqlite.Database): readonly BundledTable[] {
  return database
    .prepare<[], string>(
      "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY name",
    )
    .pluck()
    .all()
    .filter((name) => !tablesLeftOut.includes(name))
    .map((name) => ({
      name,
      columns: database
        .prepare<[string], string>('SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0 ORDER BY cid')
        .pluck()
        .all(name)
        .filter((column) => !columnsLeftOut.includes(`${name}.${column}`)),
    }))
}
