import type Database from 'better-sqlite3'
import { readQueries } from './queryFiles.ts'
import type { Queries } from './queryTypes.ts'
import type { Unreadable } from './unreadable.ts'

/** The name of a query. */
export type QueryName = keyof Queries
type Value = string | number | bigint | Buffer | null

/** What a query is given, by name. */
export type Parameters<Name extends QueryName> = Readonly<Record<Queries[Name]['parameters'], Value>>

/** A row of a query, as SQLite gives it: what is in its columns is checked where it is read. */
export type Row<Name extends QueryName> = Readonly<Record<Queries[Name]['columns'], unknown>>

/** Nothing where a query is given nothing. */
export type Given<Name extends QueryName> = [Queries[Name]['parameters']] extends [never]
  ? []
  : [parameters: Parameters<Name>]

export interface Statements {
  one<Name extends QueryName>(name: Name, ...given: Given<Name>): Row<Name> | undefined
  all<Name extends QueryName>(name: Name, ...given: Given<Name>): Row<Name>[]
  /** Returns how many rows changed. */
  run<Name extends QueryName>(name: Name, ...given: Given<Name>): number
  /** Rows that were met and could not be read, until they can be. */
  readonly unreadable: Map<string, Unreadable>
}

/** The query files as prepared statements of one open database. */
export function prepareStatements(database: Database.Database): Statements {
  const sql = new Map(readQueries().map((query) => [query.name, query.sql]))
  type AnyRow = Row<QueryName>
  type Prepared = Database.Statement<[object], AnyRow>
  const prepared = new Map<string, Prepared>()
  const statement = (name: QueryName) => {
    const known = prepared.get(name)
    if (known) return known
    const text = sql.get(name)
    if (text === undefined) throw new Error(`No query named ${name}`)
    const made = database.prepare<[object], AnyRow>(text)
    prepared.set(name, made)
    return made
  }
  return {
    one: (name, parameters: object = {}) => statement(name).get(parameters),
    all: (name, parameters: object = {}) => statement(name).all(parameters),
    run: (name, parameters: object = {}) => statement(name).run(parameters).changes,
    unreadable: new Map(),
  }
}
