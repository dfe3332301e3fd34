import type { Statements } from './statements.ts'

/** A kind of thing that rows are of, as people call it. */
export type RowKind =
  | 'letter'
  | 'passage'
  | 'sequence'
  | 'version of the sequence'
  | 'service'
  | 'status'
  | 'pipeline'
  | 'document'
  | 'document to sign'
  | 'form'
  | 'form that came in'
  | 'one-press move'
  | 'pressed move'
  | 'person'
  | 'variation'
  | 'message'
  | 'booking'
  | 'enquiry'
  | 'invoice'
  | 'client'
  | 'merge of clients'
  | 'task'
  | 'history'
  | 'mail account'
  | 'mailbox'
  | 'mail that came in'
  | 'address'
  | 'written answer'

/** A row that is there and cannot be read: it costs its own thing, and nothing else. */
export interface Unreadable {
  readonly kind: RowKind
  readonly id: string
  readonly cause: string
}

const keyOf = (kind: RowKind, id: string) => `${kind}|${id}`

const causeOf = (fault: unknown) => (fault instanceof Error ? fault.message : String(fault)).slice(0, 300)

/** What a client's facts cannot be read for. */
export class UnreadableClient extends Error {
  constructor(
    readonly clientId: string,
    cause: unknown,
  ) {
    super('Something kept of this client cannot be read, so nothing is done about it.', { cause })
  }
}

/** Notes that something can be read, or why not. */
export function noteReading({ unreadable }: Statements, kind: RowKind, id: string, fault: unknown) {
  if (fault === null) unreadable.delete(keyOf(kind, id))
  else unreadable.set(keyOf(kind, id), { kind, id, cause: causeOf(fault) })
}

/** Rows as values; one that cannot be read is left out and noted. */
export function readRows<Value>(
  statements: Statements,
  kind: RowKind,
  rows: readonly Record<string, unknown>[],
  read: (row: Record<string, unknown>) => Value,
): Value[] {
  return rows.flatMap((row) => {
    const id = String(row['id'] ?? row['sequenceId'])
    try {
      const value = read(row)
      noteReading(statements, kind, id, null)
      return [value]
    } catch (fault) {
      noteReading(statements, kind, id, fault)
      return []
    }
  })
}
