import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { stateGroups } from '#core/model/sendState.ts'
import { stepGroups } from '#core/model/step.ts'
import { projectFolder } from '../place.ts'

export interface NamedQuery {
  readonly name: string
  readonly sql: string
  /** Why it may walk a whole table or index; null: it must not. */
  readonly whole: string | null
}

/** Groups of states of messages, and of kinds of steps. */
const groups: Readonly<Record<string, readonly string[]>> = { ...stateGroups, ...stepGroups }

const folder = join(projectFolder, 'server/db')

/** Groups in braces, such as `{trouble}`, become what is in them. */
function inFull(sql: string): string {
  return sql.replace(/\{(\w+)\}/g, (_, group: string) => {
    const named = groups[group]
    if (!named) throw new Error(`There is no group named ${group}`)
    return named.map((one) => `'${one}'`).join(', ')
  })
}

/** The statements of a file. Each begins with `-- name: …`; one that walks a whole table says why in a line `-- whole: …`. */
function statementsOf(file: string): readonly NamedQuery[] {
  return readFileSync(join(folder, file), 'utf8')
    .split(/^-- name: /m)
    .slice(1)
    .map((part) => {
      const [name = '', ...lines] = part.split('\n')
      const whole = lines.find((line) => line.startsWith('-- whole: '))?.slice('-- whole: '.length) ?? null
      return { name: name.trim(), sql: inFull(lines.join('\n').trim()), whole }
    })
}

/** All queries. */
export const readQueries = (): readonly NamedQuery[] =>
  readdirSync(join(folder, 'queries'))
    .filter((file) => file.endsWith('.sql'))
    .sort()
    .flatMap((file) => statementsOf(join('queries', file)))

/** The indexes that go by groups of states, as they have to be. */
export const readIndexes = (): readonly NamedQuery[] => statementsOf('indexes.sql')
