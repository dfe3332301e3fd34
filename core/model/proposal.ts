import { z } from 'zod'
import { bookingId } from './booking.ts'
import { taskInput } from './task.ts'
import { sequenceId } from './step.ts'
import { localDateTime } from './values.ts'

/** One act that an answer asks for, as far as rules can tell. It is proposed, and never done by itself. */
export const proposal = z.discriminatedUnion('act', [
  z.object({ act: z.literal('cancel booking'), bookingId }).strict(),
  z.object({ act: z.literal('confirm booking'), bookingId }).strict(),
  z
    .object({ act: z.literal('move booking'), bookingId, startLocal: localDateTime, endLocal: localDateTime })
    .strict(),
  z.object({ act: z.literal('set task'), task: taskInput }).strict(),
  z.object({ act: z.literal('stop sequences'), sequenceIds: z.array(sequenceId).min(1).max(50) }).strict(),
  z.object({ act: z.literal('no promotional mail') }).strict(),
  z.object({ act: z.literal('nothing') }).strict(),
])
export type Proposal = z.infer<typeof proposal>
