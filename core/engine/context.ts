import type { EventKind, Event } from '../model/event.ts'
import type { Effect } from './effects.ts'

/** What the engine cannot know by itself and is handed: the time, who asks, and names for new things. */
export interface EngineContext {
  readonly now: number
  /** Who of the team acts; null: Vorfreude by itself. */
  readonly personId: string | null
  /** A fresh id with the given type prefix. */
  readonly newId: (prefix: string) => string
}

export type EventSubject = Partial<Pick<Event, 'clientId' | 'subject' | 'sendId' | 'name'>>

export function appendEvent(
  context: EngineContext,
  kind: EventKind,
  subject: EventSubject,
  sentence: string,
): Effect {
  return {
    kind: 'append event',
    event: {
      id: context.newId('ev'),
      at: context.now,
      kind,
      clientId: subject.clientId ?? null,
      subject: subject.subject ?? null,
      name: subject.name ?? '',
      sendId: subject.sendId ?? null,
      personId: context.personId,
      sentence,
    },
  }
}
