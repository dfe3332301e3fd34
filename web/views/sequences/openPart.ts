import type { SentenceKey } from '#core/sequences/sentence.ts'

/** What is open for changing: a part of a step's sentence, or the rest of what can be said of it. */
export interface OpenPart {
  readonly stepId: string
  readonly key: SentenceKey | 'more'
}
