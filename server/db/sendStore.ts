import { send, type Send } from '#core/model/send.ts'
import { asJson, fromJson } from './columns.ts'
import type { Statements } from './statements.ts'

function asSend({ traceJson, reasonJson, subjectKind, subjectId, ...plain }: Record<string, unknown>): Send {
  return send.parse({
    ...plain,
    subject: { kind: subjectKind, id: subjectId },
    trace: fromJson(traceJson),
    reason: fromJson(reasonJson),
  })
}

export function readSendsOfClient(statements: Statements, clientId: string): Send[] {
  return statements.all('sendsOfClient', { clientId }).map(asSend)
}

export function readSend(statements: Statements, id: string): Send | null {
  const row = statements.one('readSend', { id })
  return row ? asSend(row) : null
}

export function putSend(statements: Statements, { trace, reason, subject, ...plain }: Send) {
  statements.run('putSend', {
    ...plain,
    subjectKind: subject.kind,
    subjectId: subject.id,
    traceJson: asJson(trace),
    reasonJson: reason === null ? null : asJson(reason),
  })
}
