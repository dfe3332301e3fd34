import { deflateRawSync, inflateRawSync } from 'node:zlib'
import { incoming, type Incoming, type IncomingPlace } from '#core/model/incoming.ts'
import { undelivered, type Undelivered } from '#core/model/undelivered.ts'
import { writtenAnswer, type WrittenAnswer } from '#core/model/writtenAnswer.ts'
import { z } from 'zod'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

/** How a mail came in: through the listener, or out of which mailbox; from and to whom, as the envelope said. */
export const wayIn = z
  .object({
    by: z.string(),
    /** Empty: the null sender; null: nobody said. */
    from: z.string().nullable(),
    to: z.array(z.string()),
    /** It lay there before the mailbox was read for the first time. */
    isOld: z.boolean(),
    /** Why only its beginning is kept; null: it is whole. */
    cut: z.string().nullable(),
  })
  .strict()
export type WayIn = z.infer<typeof wayIn>

/** A mail that was stored and nothing has followed from. */
export interface StoredIncoming {
  readonly id: string
  readonly cameAt: number
  readonly way: WayIn
  readonly source: Buffer
}

/** Stores a mail whole, once. False: it is there already. */
export function storeIncoming(
  statements: Statements,
  { id, cameAt, way, source, key }: StoredIncoming & { readonly key: string },
): boolean {
  const wayJson = asJson(kept(wayIn, way))
  return statements.run('storeIncoming', { id, key, cameAt, wayJson, source: deflateRawSync(source) }) > 0
}

/** The next mail that nothing has followed from; null: there is none. */
export function nextIncoming(statements: Statements): StoredIncoming | null {
  const row = statements.one('incomingToTakeUp')
  if (!row) return null
  return {
    id: String(row.id),
    cameAt: Number(row.cameAt),
    way: wayIn.parse(fromJson(row.wayJson)),
    source: inflateRawSync(row.source as Buffer),
  }
}

/** Whether a mail came in before, by its key. */
export const isIncomingKnown = (statements: Statements, key: string): boolean =>
  statements.one('isIncomingKnown', { key }) !== undefined

export const hasIncomingToTakeUp = (statements: Statements): boolean =>
  statements.one('hasIncomingToTakeUp') !== undefined

export function putIncoming(statements: Statements, put: Incoming) {
  statements.run('putIncoming', { id: put.id, incomingJson: asJson(kept(incoming, put)) })
}

const asIncoming = ({ incomingJson }: Readonly<Record<string, unknown>>): Incoming =>
  incoming.parse(fromJson(incomingJson))

const readAll = (statements: Statements, rows: readonly Record<string, unknown>[]) =>
  readRows(statements, 'mail that came in', rows, asIncoming)

export function readIncoming(statements: Statements, id: string): Incoming | null {
  const row = statements.one('readIncoming', { id })
  return row ? asIncoming(row) : null
}

/** A mail as it came, byte by byte; null: there is none. */
export function incomingSource(statements: Statements, id: string): Buffer | null {
  const row = statements.one('incomingSource', { id })
  return row ? inflateRawSync(row.source as Buffer) : null
}

/** What stands in a group of the Desk, the earliest first; a part of it. */
export const incomingAtDesk = (
  statements: Statements,
  asked: { readonly place: IncomingPlace; readonly afterId: string | null; readonly limit: number },
): readonly Incoming[] => readAll(statements, statements.all('incomingAtDesk', asked))

export const incomingOfClient = (
  statements: Statements,
  clientId: string,
  limit: number,
): readonly Incoming[] => readAll(statements, statements.all('incomingOfClient', { clientId, limit }))

const asUndelivered = ({ undeliveredJson }: Readonly<Record<string, unknown>>): Undelivered =>
  undelivered.parse(fromJson(undeliveredJson))

/** What mail servers said of the addresses of a client's contacts. */
export const undeliveredOfClient = (statements: Statements, clientId: string): readonly Undelivered[] =>
  readRows(statements, 'address', statements.all('undeliveredOfClient', { clientId }), asUndelivered)

export function readUndelivered(statements: Statements, address: string): Undelivered | null {
  const row = statements.one('readUndelivered', { address })
  return row ? asUndelivered(row) : null
}

export function putUndelivered(statements: Statements, address: string, put: Undelivered | null) {
  if (put === null) statements.run('forgetUndelivered', { address })
  else statements.run('putUndelivered', { address, undeliveredJson: asJson(kept(undelivered, put)) })
}

/** Writes an answer of the team; the mail as it went stays once it is there. */
export function putWrittenAnswer(statements: Statements, put: WrittenAnswer, source: Buffer | null = null) {
  const answerJson = asJson(kept(writtenAnswer, put))
  statements.run('putWrittenAnswer', { id: put.id, incomingId: put.incomingId, answerJson, source })
}

const asAnswer = ({ answerJson }: Readonly<Record<string, unknown>>): WrittenAnswer =>
  writtenAnswer.parse(fromJson(answerJson))

const readAnswers = (statements: Statements, rows: readonly Record<string, unknown>[]) =>
  readRows(statements, 'written answer', rows, asAnswer)

export function readWrittenAnswer(statements: Statements, id: string): WrittenAnswer | null {
  const row = statements.one('readWrittenAnswer', { id })
  return row ? asAnswer(row) : null
}

export const answersTo = (statements: Statements, incomingId: string): readonly WrittenAnswer[] =>
  readAnswers(statements, statements.all('writtenAnswersOf', { incomingId }))

export const answersToClient = (statements: Statements, clientId: string): readonly WrittenAnswer[] =>
  readAnswers(statements, statements.all('writtenAnswersOfClient', { clientId }))

/** Answers that are to go, or of which nobody has said how they ended. */
export const openAnswers = (statements: Statements, state: 'ready' | 'sending'): readonly WrittenAnswer[] =>
  readAnswers(statements, statements.all('writtenAnswersToSend', { state }))
