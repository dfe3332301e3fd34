import { z } from 'zod'
import { emailAddress, instant } from './values.ts'

/** What mail servers have said of an address that messages did not get through to. */
export const undelivered = z
  .object({
    address: emailAddress,
    /** When the last report came in. */
    at: instant,
    /** How often in a row its mailbox was full. */
    timesFull: z.number().int().min(0),
    /** Nothing goes there any more until a person lifts that. */
    isBlocked: z.boolean(),
    /** What was said, as a sentence. */
    sentence: z.string().max(600),
  })
  .strict()
export type Undelivered = z.infer<typeof undelivered>
