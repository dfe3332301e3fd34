import { z } from 'zod'
import { instant } from './values.ts'

/** So many messages may leave in a day; null: any number. */
export const mostInDay = z
  .number()
  .int('Give a whole number.')
  .min(1, 'At least one message a day.')
  .max(1_000_000, 'At most 1,000,000.')
  .nullable()

/** A brake beyond what the mail account takes: with more in a day everything is held back until a person has looked. */
export const dailyCap = z
  .object({
    most: mostInDay,
    /** What went before does not count: a person has looked at it. */
    countsFrom: instant,
    /** When it held everything back; null: it did not, or a person has switched sending on since. */
    reachedAt: instant.nullable(),
  })
  .strict()
export type DailyCap = z.infer<typeof dailyCap>

export const noCap: DailyCap = { most: null, countsFrom: 0, reachedAt: null }
