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

interface Piece {
  readonly kind: 'name' | 'part'
  readonly name: string
  readonly text: string
}

/** What a file holds: statements (`-- name: …`), and parts that several of them share (`-- part: …`). */
function piecesOf(file: string): readonly Piece[] {
  const pieces = readFileSync(join(folder, file), 'utf8').matchAll(
    /^-- (name|part): (\w+)\n([\s\S]*?)(?=^-- (?:name|part): |$(?![\s\S]))/gm,
  )
  return [...pieces].map(([, kind, name = '', text = '']) => ({
    kind: kind === 'part' ? 'part' : 'name',
    name,
    text: text.trim(),
  }))
}

type Parts = ReadonlyMap<string, string>

/** Groups and parts in braces, such as `{trouble}`, become what is in them. */
function inFull(sql: string, parts: Parts): string {
  return sql.replace(/\{(\w+)\}/g, (_, name: string) => {
    const part = parts.get(name)
    if (part !== undefined) return inFull(part, parts)
    const named = groups[name]
    if (!named) throw new Error(`There is no group or part named ${name}`)
    return named.map((one) => `'${one}'`).join(', ')
  })
}

/** The statements among some pieces; one that walks a whole table says why in a line `-- whole: …`. */
function statementsOf(pieces: readonly Piece[], parts: Parts): readonly NamedQuery[] {
  return pieces
    .filter(({ kind }) => kind === 'name')
    .map(({ name, text }) => {
      const lines = text.split('\n')
      const whole = lines.find((line) => line.startsWith('-- whole: '))?.slice('-- whole: '.length) ?? null
      return { name, sql: inFull(text, parts), whole }
    })
}

/** All queries. */
export function readQueries(): readonly NamedQuery[] {
  const pieces = readdirSync(join(folder, 'queries'))
    .filter((file) => file.endsWith('.sql'))
    .sort()
    .flatMap((file) => piecesOf(join('queries', file)))
  const parts = new Map(
    pieces.filter(({ kind }) => kind === 'part').map(({ name, text }) => [name, text] as const),
  )
  return statementsOf(pieces, parts)
}

/** The indexes that go by groups of states, as they have to be. */
export const readIndexes = (): readonly NamedQuery[] => statementsOf(piecesOf('indexes.sql'), new Map())
