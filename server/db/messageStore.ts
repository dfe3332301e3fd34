import { deflateRawSync, inflateRawSync } from 'node:zlib'
import type { Statements } from './statements.ts'

/** A message as it went. */
export interface StoredMessage {
  readonly subject: string
  /** As it was put on the wire (RFC 5322); null: it is kept no longer. */
  readonly source: Buffer | null
  /** What it said, where its source is kept no longer. */
  readonly text: string | null
  /** What the mail server answered last. */
  readonly answer: string | null
}

const textOf = (value: unknown) => (typeof value === 'string' ? value : null)

function sourceOf({ source, isPacked }: Record<string, unknown>): Buffer | null {
  if (!Buffer.isBuffer(source) || source.length === 0) return null
  return isPacked === 1 ? inflateRawSync(source) : source
}

export function storeMessage(statements: Statements, sendId: string, subject: string, source: Buffer) {
  statements.run('storeMessage', { sendId, subject, source: deflateRawSync(source) })
}

export function readMessage(statements: Statements, sendId: string): StoredMessage | null {
  const row = statements.one('readMessage', { sendId })
  if (!row) return null
  return {
    subject: textOf(row['subject']) ?? '',
    source: sourceOf(row),
    text: textOf(row['text']),
    answer: textOf(row['answer']),
  }
}

/** The messages of a client that went, as far as their sources are kept, in order of time. */
export function sourcesOfClient(statements: Statements, clientId: string): { at: number; source: Buffer }[] {
  return statements.all('messagesOfClient', { clientId }).flatMap((row) => {
    const source = sourceOf(row)
    return source ? [{ at: Number(row['at']), source }] : []
  })
}

/** Packs some of the sources written before they were packed; returns how many. */
export function packSome(statements: Statements, most: number): number {
  const rows = statements.all('unpackedMessages', { most })
  for (const { sendId, source } of rows) {
    statements.run('packMessage', { sendId: String(sendId), source: deflateRawSync(source as Buffer) })
  }
  return rows.length
}

/** A kept source that has come of age. */
export interface AgedSource {
  readonly sendId: string
  readonly sentAt: number
  readonly source: Buffer | null
}

/** Some messages that went between two moments, the first of them excluded, in order of time. */
export function sourcesBetween(
  statements: Statements,
  asked: { readonly after: number; readonly afterId: string; readonly upTo: number; readonly most: number },
): readonly AgedSource[] {
  return statements.all('sourcesBetween', asked).map((row) => ({
    sendId: String(row['sendId']),
    sentAt: Number(row['sentAt']),
    source: sourceOf(row),
  }))
}

export function letGoOfSource(statements: Statements, sendId: string, text: string) {
  statements.run('letGoOfSource', { sendId, text })
}
