/** What pages may have to fetch again. */
export type Topic =
  | 'clock'
  | 'sessions'
  | 'sending'
  | 'sends'
  | 'tasks'
  | 'incoming'
  | 'bookings'
  | 'enquiries'
  | 'clients'
  | 'mail'
  | 'letters'
  | 'sequences'
  | 'settings'
  | 'backups'
  | 'mailboxes'

export interface Changes {
  publish(topics: readonly Topic[]): void
  /** Returns the way to stop listening. */
  subscribe(listener: (topics: readonly Topic[]) => void): () => void
}

/** Tells the open pages what has changed, gathered over a moment so that a burst is one notice. */
export function createChanges(gatherMs = 40): Changes {
  const listeners = new Set<(topics: readonly Topic[]) => void>()
  const gathered = new Set<Topic>()
  let timer: NodeJS.Timeout | null = null
  const flush = () => {
    timer = null
    const topics = [...gathered]
    gathered.clear()
    for (const listener of listeners) {
      try {
        listener(topics)
      } catch {
        // A page that cannot be told is gone; it asks again when it comes back.
        listeners.delete(listener)
      }
    }
  }
  return {
    publish(topics) {
      for (const topic of topics) gathered.add(topic)
      timer ??= setTimeout(flush, gatherMs)
    },
    subscribe(listener) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
  }
}
