import { z } from 'zod'
import { serviceId } from './business.ts'
import { clientId } from './client.ts'
import { idOf, instant, isoDate } from './values.ts'

export const enquiry = z
  .object({
    id: idOf('en'),
    clientId,
    serviceId: serviceId.nullable(),
    stage: z.string().min(1),
    receivedAt: instant,
    /** When each stage was last entered. */
    stageAt: z.record(z.string(), instant),
    /** The date the client wishes for, and when that wish was last set. */
    wishedOn: isoDate.nullable(),
    wishedSetAt: instant.nullable(),
    deadlineOn: isoDate.nullable(),
    deadlineSetAt: instant.nullable(),
  })
  .strict()
export type Enquiry = z.infer<typeof enquiry>

export const invoice = z
  .object({
    id: idOf('in'),
    clientId,
    bookingId: idOf('bk').nullable(),
    issuedAt: instant,
    dueOn: isoDate.nullable(),
    dueSetAt: instant.nullable(),
    paidAt: instant.nullable(),
    amountCents: z.number().int().min(0),
  })
  .strict()
export type Invoice = z.infer<typeof invoice>

/** Something a client did or that was done to them, at a moment. */
export const happening = z
  .object({
    kind: z.enum([
      'answered',
      'opened',
      'followed a link',
      'form received',
      'signed',
      'tag added',
      'list joined',
    ]),
    /** Which form, tag or list; empty where there is only one kind. */
    name: z.string(),
    at: instant,
  })
  .strict()
export type Happening = z.infer<typeof happening>
