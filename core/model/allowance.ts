import { z } from 'zod'

const limit = z
  .number()
  .int('A whole number.')
  .min(1, 'At least 1.')
  .max(10_000_000, 'At most 10,000,000.')
  .nullable()

/** How many messages a mail account takes; null: no limit. */
export const allowance = z
  .object({
    perHour: limit,
    perDay: limit,
    perMonth: limit,
    /** Its pace, which it keeps by itself in real time: nothing is put off for it, it only goes bit by bit. */
    perMinute: limit.default(null),
  })
  .strict()
export type Allowance = z.infer<typeof allowance>

export const noAllowance: Allowance = { perHour: null, perDay: null, perMonth: null, perMinute: null }
