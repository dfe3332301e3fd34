import Sqlite from 'better-sqlite3'
import { businessFormat } from '#core/model/businessBundle.ts'
import { bundledTables, metaLeftOut, type BundledTable } from './bundledTables.ts'

const quoted = (name: string) => `"${name}"`

const asValue = (_: string, value: unknown): unknown => {
  const { type, data } = (typeof value === 'object' && value !== null ? value : {}) as {
    type?: unknown
    data?: unknown
  }
  return type === 'Buffer' && Array.isArray(data)
    ? { base64: Buffer.from(data as number[]).toString('base64') }
    : value
}

function* rowsOf(database: Sqlite.Database, { name, columns }: BundledTable): Generator<string> {
  const sql = `SELECT ${columns.map(quoted).join(', ')} FROM ${quoted(name)}`
  let isFirst = true
  for (const row of database.prepare<[], Record<string, unknown>>(sql).iterate()) {
    if (name === 'meta' && metaLeftOut.includes(String(row['key']))) continue
    yield `${isFirst ? '' : ','}\n${JSON.stringify(row, asValue)}`
    isFirst = false
  }
}

/**
 * A whole business as JSON, part by part, as it is at one moment: what changes meanwhile is not in it. Other work goes on
 * beside it.
 */
export function* writeBundle(file: string, takenAt: Date): Generator<string> {
  const database = new Sqlite(file, { readonly: true, fileMustExist: true })
  try {
    database.exec('BEGIN')
    const head = {
      format: businessFormat,
      schema: database.pragma('user_version', { simple: true }),
      takenAt: takenAt.toISOString(),
    }
    yield `${JSON.stringify(head).slice(0, -1)},"tables":{`
    let isFirst = true
    for (const table of bundledTables(database)) {
      yield `${isFirst ? '' : ','}\n${JSON.stringify(table.name)}:[`
      yield* rowsOf(database, table)
      yield ']'
      isFirst = false
    }
    yield '}}\n'
  } finally {
    database.close()
  }
}
