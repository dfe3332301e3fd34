import { event, type Event } from '#core/model/event.ts'
import { kept } from './columns.ts'
import type { Statements } from './statements.ts'

export function appendEvent(statements: Statements, put: Event) {
  const { subject, ...plain } = kept(event, put)
  statements.run('appendEvent', {
    ...plain,
    subjectKind: subject?.kind ?? null,
    subjectId: subject?.id ?? null,
  })
}

/** The subject of a row that has one. */
export function subjectOfRow({ subjectKind, subjectId, ...plain }: Record<string, unknown>) {
  return { ...plain, subject: typeof subjectId === 'string' ? { kind: subjectKind, id: subjectId } : null }
}
