import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { projectFolder } from '../../place.ts'

/** How a made-up mailbox takes a message: it refuses, asks to come back later, loses the connection, or never answers. */
export type Behaviour = 'refuse' | 'later' | 'drop before data' | 'drop after data' | 'never answer'

export interface StoredMail {
  readonly id: number
  readonly address: string
  readonly receivedAt: number
  readonly messageId: string
  readonly source: Buffer
}

/** The post office's own file, apart from the business's database. */
export interface PostOfficeFile {
  keep(addresses: readonly string[], receivedAt: number, messageId: string, source: Buffer): void
  behaviourOf(address: string): Behaviour | null
  setBehaviour(address: string, behaviour: Behaviour | null): void
  mailOf(address: string): readonly StoredMail[]
  /** The numbers of the mails of a mailbox, upwards. */
  idsOf(address: string): readonly number[]
  mail(id: number): StoredMail | null
  /** Changes with each time the mails of a mailbox are numbered anew. */
  numberingOf(address: string): number
  numberAnew(address: string): void
  /** When a message was taken; null: there is none with this Message-ID. */
  takenAt(messageId: string): number | null
  close(): void
}

const columns = 'id, address, received_at AS receivedAt, message_id AS messageId, source'

export function openPostOfficeFile(file: string): PostOfficeFile {
  const database = new Sqlite(file)
  database.pragma('journal_mode = WAL')
  database.pragma('synchronous = FULL')
  database.exec(readFileSync(join(projectFolder, 'server/standins/postOffice/schema.sql'), 'utf8'))
  const insert = database.prepare(
    'INSERT INTO mail (address, received_at, message_id, source) VALUES (?, ?, ?, ?)',
  )
  const behaviour = database.prepare<[string], { kind: Behaviour }>(
    'SELECT kind FROM behaviours WHERE address = ?',
  )
  const setBehaviour = database.prepare('INSERT OR REPLACE INTO behaviours (address, kind) VALUES (?, ?)')
  const clearBehaviour = database.prepare('DELETE FROM behaviours WHERE address = ?')
  const byAddress = database.prepare<[string], StoredMail>(
    `SELECT ${columns} FROM mail WHERE address = ? ORDER BY received_at DESC, id DESC`,
  )
  const ids = database.prepare<[string], { id: number }>('SELECT id FROM mail WHERE address = ? ORDER BY id')
  const byId = database.prepare<[number], StoredMail>(`SELECT ${columns} FROM mail WHERE id = ?`)
  const byMessageId = database.prepare<[string], { receivedAt: number }>(
    'SELECT received_at AS receivedAt FROM mail WHERE message_id = ? ORDER BY id LIMIT 1',
  )
  const numbering = database.prepare<[string], { numbering: number }>(
    'SELECT numbering FROM numberings WHERE address = ?',
  )
  const numberAnew = database.prepare(
    `INSERT INTO numberings (address, numbering) VALUES (?, 2)
     ON CONFLICT (address) DO UPDATE SET numbering = numbering + 1`,
  )
  return {
    keep: database.transaction((addresses: readonly string[], receivedAt, messageId, source) => {
      for (const address of addresses) insert.run(address, receivedAt, messageId, source)
    }),
    behaviourOf: (address) => behaviour.get(address)?.kind ?? null,
    setBehaviour(address, kind) {
      if (kind === null) clearBehaviour.run(address)
      else setBehaviour.run(address, kind)
    },
    mailOf: (address) => byAddress.all(address),
    idsOf: (address) => ids.all(address).map(({ id }) => id),
    mail: (id) => byId.get(id) ?? null,
    numberingOf: (address) => numbering.get(address)?.numbering ?? 1,
    numberAnew: (address) => void numberAnew.run(address),
    takenAt: (messageId) => byMessageId.get(messageId)?.receivedAt ?? null,
    close: () => database.close(),
  }
}
