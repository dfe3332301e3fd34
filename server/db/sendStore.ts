import { send, undecided, type Send } from '#core/model/send.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'

/**
 * A row as a send. Its columns are checked by the table itself, which also keeps the JSON valid; going through the
 * schema once more would cost more than all the rest of reading it.
 */
export function asSend(row: Record<string, unknown>): Send {
  const { traceJson, reasonJson, decisionJson, approvedFactsJson, approvedWordsJson, ...others } = row
  const { subjectKind, subjectId, ...plain } = others
  return {
    ...plain,
    decision: { ...undecided, ...(fromJson(decisionJson) as object) },
    approvedFacts: fromJson(approvedFactsJson),
    approvedWords: fromJson(approvedWordsJson),
    subject: { kind: subjectKind, id: subjectId },
    trace: fromJson(traceJson),
    reason: fromJson(reasonJson),
  } as Send
}

export function readSendsOfClient(statements: Statements, clientId: string): Send[] {
  return statements.all('sendsOfClient', { clientId }).map(asSend)
}

export function readSend(statements: Statements, id: string): Send | null {
  const row = statements.one('readSend', { id })
  return row ? asSend(row) : null
}

export function putSend(statements: Statements, put: Send) {
  const { trace, reason, subject, decision, approvedFacts, approvedWords, ...plain } = kept(send, put)
  statements.run('putSend', {
    ...plain,
    subjectKind: subject.kind,
    subjectId: subject.id,
    traceJson: asJson(trace),
    decisionJson: asJson(decision),
    approvedFactsJson: approvedFacts === null ? null : asJson(approvedFacts),
    approvedWordsJson: approvedWords === null ? null : asJson(approvedWords),
    reasonJson: reason === null ? null : asJson(reason),
  })
}

/** How many messages have left since a moment; what is on the wire counts as gone. */
export const sentSince = (statements: Statements, from: number): number =>
  Number(statements.one('sentSince', { from })?.['count'] ?? 0)

/** The same of one mail account beside the main one. */
export const sentThrough = (statements: Statements, accountId: string, from: number): number =>
  Number(statements.one('sentThrough', { accountId, from })?.['count'] ?? 0)
