import { z } from 'zod'
import { isoDate, timeOfDay } from './values.ts'

/** A stretch of a day. Both ends count as open; it lies within one day. */
export const interval = z
  .object({ from: timeOfDay, to: z.union([timeOfDay, z.literal('24:00')]) })
  .strict()
  .refine(({ from, to }) => from < to, 'The end must be after the beginning.')

/** The opening hours of one kind: when messages may go, when the office is open, when one can book. */
export const openingHours = z
  .object({
    /** Seven lists, Monday first (ISO 8601 weekday order). */
    weekly: z.array(z.array(interval)).length(7),
    holidays: z.enum(['open', 'closed']),
    closedDates: z.array(isoDate),
  })
  .strict()
export type OpeningHours = z.infer<typeof openingHours>
