import type Sqlite from 'better-sqlite3'
import { folded } from '#core/model/folded.ts'

/** Teaches a connection the function by which texts are compared with what is typed: indexes are made with it. */
export function knowFolding(database: Sqlite.Database) {
  database.function('folded', { deterministic: true }, (text) => folded(String(text)))
}
