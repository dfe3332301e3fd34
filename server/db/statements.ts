import type Database from 'better-sqlite3'
import { readQueries } from './queryFiles.ts'
import type { Unreadable } from './unreadable.ts'

export type Parameters = Readonly<Record<string, string | number | bigint | Buffer | null>>

export interface Statements {
  one(name: string, parameters?: Parameters): Record<string, unknown> | undefined
  all(name: string, parameters?: Parameters): Record<string, unknown>[]
  /** Returns how many rows changed. */
  run(name: string, parameters?: Parameters): number
  /** Rows that were met and could not be read, until they can be. */
  readonly unreadable: Map<string, Unreadable>
}

/** The query files as prepared statements of one open database. */
export function prepareStatements(database: Database.Database): Statements {
  const sql = new Map(readQueries().map((query) => [query.name, query.sql]))
  const prepared = new Map<string, Database.Statement<[Parameters], Record<string, unknown>>>()
  const statement = (name: string) => {
    const known = prepared.get(name)
    if (known) return known
    const text = sql.get(name)
    if (text === undefined) throw new Error(`No query named ${name}`)
    const made = database.prepare<[Parameters], Record<string, unknown>>(text)
    prepared.set(name, made)
    return made
  }
  return {
    one: (name, parameters = {}) => statement(name).get(parameters),
    all: (name, parameters = {}) => statement(name).all(parameters),
    run: (name, parameters = {}) => statement(name).run(parameters).changes,
    unreadable: new Map(),
  }
}
