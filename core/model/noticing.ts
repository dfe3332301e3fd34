import { z } from 'zod'

/** What of what clients do with messages is noticed. */
export const noticing = z
  .object({
    /** Links that are followed. */
    links: z.boolean(),
    /** Messages that are opened, as far as a picture tells it. */
    opens: z.boolean(),
  })
  .strict()
export type Noticing = z.infer<typeof noticing>

/** Links are ours to follow; a picture asks mail programs to load something, and tells nothing for sure. */
export const usualNoticing: Noticing = { links: true, opens: false }
