import { z } from 'zod'
import { serviceId } from './business.ts'
import { clientId } from './client.ts'
import { letterId } from './letter.ts'
import { recipientRules, sequenceId, stepId } from './step.ts'
import { span, timing } from './timing.ts'
import { idOf, instant } from './values.ts'

export const variationId = idOf('va')

/**
 * What differs in one step for a service or a client. Each field counts by itself: the client's before the service's
 * before the step's own; null: nothing differs there.
 */
export const variation = z
  .object({
    id: variationId,
    sequenceId,
    stepId,
    scope: z.discriminatedUnion('of', [
      z.object({ of: z.literal('service'), serviceId }).strict(),
      z.object({ of: z.literal('client'), clientId }).strict(),
    ]),
    letterId: letterId.nullable().default(null),
    /** Anchor, offset, time of day and lead are one field. */
    timing: z.object({ timing, lead: span.nullable() }).strict().nullable().default(null),
    recipients: recipientRules.nullable().default(null),
    needsApproval: z.boolean().nullable().default(null),
    isOff: z.boolean().nullable().default(null),
    /** When its timing got its present value: nothing is due before that because of it. */
    timingSetAt: instant,
  })
  .strict()
export type Variation = z.infer<typeof variation>
