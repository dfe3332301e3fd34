import { z } from 'zod'
import { timeOfDay } from './values.ts'

/** Which notes a person of the team wants by mail. */
export const noteWishes = z
  .object({
    /** At what time of the morning, if something needs them; null: never. */
    morningAt: timeOfDay.nullable(),
    /** At once, two hours before the last chance of a message that still waits. */
    isAtOnceOn: z.boolean(),
  })
  .strict()
export type NoteWishes = z.infer<typeof noteWishes>
