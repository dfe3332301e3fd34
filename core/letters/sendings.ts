import type { FieldNeed } from './fieldList.ts'

/** One way a letter goes out: the step of a sequence that sends it. */
export interface Sending {
  readonly sequenceName: string
  /** What the sequence is about. */
  readonly about: FieldNeed
  /** When it goes, as a part of a sentence: `3 days before, at 18:00`. */
  readonly when: string
  /** Calendar days from the sending to the booking's start; null: it depends. */
  readonly daysAhead: number | null
  /** Whether the office is open when it goes. */
  readonly officeOpen: 'always' | 'sometimes' | 'never'
}
