import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { z } from 'zod'
import type { Act } from '#core/insight/acts.ts'
import { actLine, type ActLine } from '#core/api/actEndpoints.ts'
import { asJson, fromJson } from '../db/columns.ts'
import { projectFolder } from '../place.ts'

/** Which acts are asked for: those that have all of some words, of one person or of all, before one of them. */
export interface ActsAsked {
  readonly words: string
  readonly personId: string | null
  readonly afterId: string | null
  readonly limit: number
}

/** Who did what, in a file of its own. */
export interface ActRecord {
  /** Writes an act down. What keeps it from being written stands in `trouble`, and costs the act nothing. */
  add(act: Act): void
  /** The newest first. */
  list(asked: ActsAsked): ActLine[]
  /** Why the last act could not be written down; null: it was. */
  trouble(): string | null
  close(): void
}

const row = z.object({
  id: z.number(),
  at: z.number(),
  personId: z.string().nullable(),
  personName: z.string(),
  fromAddress: z.string(),
  sentence: z.string(),
  path: z.string(),
  thingsJson: z.string(),
})

function lineOf(found: unknown): ActLine {
  const { id, fromAddress, thingsJson, ...plain } = row.parse(found)
  return actLine.parse({ ...plain, id: String(id), from: fromAddress, things: fromJson(thingsJson) })
}

/** Acts wait no longer than this for a file that is locked, in milliseconds. */
const lockedMs = 150

/** How many words are looked for at once. */
const mostWords = 8
const wordsOf = (text: string) => text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, mostWords)

const findableIn = ({ personName, from, sentence, path, things }: Act) =>
  [
    personName,
    from,
    sentence,
    path,
    ...things.flatMap(({ what, id, name, facts }) => [
      what,
      id,
      name,
      ...facts.flatMap((fact) => [fact.path, fact.before ?? '', fact.after ?? '']),
    ]),
  ]
    .join(' ')
    .toLowerCase()

/** Opens the record of a data folder, making it where there is none. */
export function openActRecord(folder: string, onFault: (fault: unknown) => void): ActRecord {
  const database = new Sqlite(join(folder, 'acts.db'), { timeout: lockedMs })
  database.pragma('journal_mode = WAL')
  database.exec(readFileSync(join(projectFolder, 'server/record/schema.sql'), 'utf8'))
  const insert = database.prepare(
    `INSERT INTO acts (at, person_id, person_name, from_address, sentence, path, things_json, words)
     VALUES (@at, @personId, @personName, @from, @sentence, @path, @thingsJson, @words)`,
  )
  const select = database.prepare(
    `SELECT id, at, person_id AS personId, person_name AS personName, from_address AS fromAddress, sentence, path,
       things_json AS thingsJson
     FROM acts WHERE (@personId IS NULL OR person_id = @personId) AND (@beforeId IS NULL OR id < @beforeId)
       AND NOT EXISTS (SELECT 1 FROM json_each(@wordsJson) w WHERE instr(acts.words, w.value) = 0)
     ORDER BY id DESC LIMIT @limit`,
  )
  let trouble: string | null = null
  return {
    add(act) {
      const { things, ...plain } = act
      try {
        insert.run({ ...plain, thingsJson: asJson(things), words: findableIn(act) })
        trouble = null
      } catch (fault) {
        trouble =
          'What people do is not being written down in the record of acts: its file acts.db cannot be written to. Everything else goes on.'
        onFault(fault)
      }
    },
    list: ({ words, personId, afterId, limit }) =>
      select
        .all({
          personId,
          limit,
          beforeId: afterId === null ? null : Number(afterId),
          wordsJson: asJson(wordsOf(words)),
        })
        .map(lineOf),
    trouble: () => trouble,
    close: () => database.close(),
  }
}
