import Sqlite from 'better-sqlite3'
import { migrate } from '../db/database.ts'
import { readQueries } from '../db/queryFiles.ts'

const inQuotes = (names: readonly string[]) => names.map((name) => `'${name}'`).join(' | ') || 'never'

const isReading = (sql: string) => /^(SELECT|WITH)\b|\bRETURNING\b/m.test(sql)

/** What each query is given and gives, as types: made from the queries themselves on an empty database. */
export function queryTypesText(): string {
  const database = new Sqlite(':memory:')
  migrate(database, ':memory:')
  const lines = readQueries().map(({ name, sql }) => {
    const statement = database.prepare(sql)
    const parameters = [
      ...new Set([...sql.replace(/--.*$/gm, '').matchAll(/@(\w+)/g)].map(([, found]) => found ?? '')),
    ]
    const columns = isReading(sql) && statement.reader ? statement.columns().map((column) => column.name) : []
    return `  ${name}: { parameters: ${inQuotes(parameters)}; columns: ${inQuotes(columns)} }`
  })
  database.close()
  return `/* Made from the queries by \`./run formats\`. */

/** What each query is given by name, and what its rows have. */
export interface Queries {
${lines.join('\n')}
}
`
}
