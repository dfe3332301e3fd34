import { randomUUID } from 'node:crypto'
import { isStillSo, type Announced } from '#core/engine/consequences/announced.ts'

interface Kept {
  readonly at: number
  readonly announced: readonly Announced[]
  readonly ids: readonly string[]
}

/** What was announced before acts, for as long as somebody may still act on it. */
export interface Announcements {
  /** Keeps an announcement; returns its id. */
  keep(announced: readonly Announced[], at: number, ids?: readonly string[]): string
  /** What was announced, and when that was worked out; null: nobody knows it any more. */
  of(id: string): { readonly at: number; readonly announced: readonly Announced[] } | null
  /** Ids of what was only being made when it was announced. */
  idsOf(id: string): readonly string[]
  /** It has been acted on: what it announced is no longer to come. */
  used(id: string): void
  /** Whether an act would still do what was announced under an id; false, too, where nobody knows it any more. */
  isStillSo(id: string, present: readonly Announced[], now: number): boolean
}

const mostKept = 200
/** Moments of one and the same act, worked out twice, may lie so far apart, in milliseconds. */
export const graceMs = 1000

export function createAnnouncements(): Announcements {
  const kept = new Map<string, Kept>()
  return {
    keep(announced, at, ids = []) {
      const id = randomUUID()
      kept.set(id, { at, announced, ids })
      const [oldest] = kept.keys()
      if (kept.size > mostKept && oldest !== undefined) kept.delete(oldest)
      return id
    },
    of: (id) => kept.get(id) ?? null,
    idsOf: (id) => kept.get(id)?.ids ?? [],
    used: (id) => void kept.delete(id),
    isStillSo(id, present, now) {
      const found = kept.get(id)
      return found !== undefined && isStillSo(found.announced, present, now - found.at + graceMs)
    },
  }
}

export const changedMeanwhile =
  'Something has changed since this was shown, so it would do something else now. Look at it again, then decide.'
