import { z } from 'zod'
import { clientId } from './client.ts'
import { idOf, instant, isoDate } from './values.ts'

export const invoiceId = idOf('in')

/** What an invoice asks for. */
export const invoiceReason = z.enum(['deposit', 'balance', 'fee', 'other'])
export type InvoiceReason = z.infer<typeof invoiceReason>

/** Money that came in for an invoice. */
export const payment = z
  .object({
    /** Tells it from any other: told twice, it is one. */
    reference: z.string().min(1).max(120),
    at: instant,
    cents: z.number().int().min(1),
    /** By the client on the page, or noted by a person of the team. */
    by: z.enum(['page', 'hand']),
  })
  .strict()
export type Payment = z.infer<typeof payment>

export const invoice = z
  .object({
    id: invoiceId,
    clientId,
    bookingId: idOf('bk').nullable(),
    issuedAt: instant,
    dueOn: isoDate.nullable(),
    dueSetAt: instant.nullable(),
    paidAt: instant.nullable(),
    /** A fee for cancelling or missing: its reminders go on when the booking is cancelled. */
    isFee: z.boolean(),
    amountCents: z.number().int().min(0),
    /** Counted through the business; null: not written down yet. */
    number: z.number().int().min(1).nullable().default(null),
    reason: invoiceReason.default('other'),
    payments: z.array(payment).default([]),
    /** When it was taken back; null: it stands. */
    voidedAt: instant.nullable().default(null),
  })
  .strict()
export type Invoice = z.infer<typeof invoice>

type Asked = Pick<Invoice, 'id' | 'clientId' | 'bookingId' | 'amountCents' | 'dueOn' | 'reason'>

/** An invoice as it is issued now. */
export const newInvoice = (asked: Asked, now: number): Invoice => ({
  ...asked,
  issuedAt: now,
  dueSetAt: now,
  paidAt: null,
  isFee: asked.reason === 'fee',
  number: null,
  payments: [],
  voidedAt: null,
})

/** What a client can do, or have done to them, at a moment. */
export const happeningKinds = [
  'answered',
  'opened',
  'followed a link',
  'form received',
  'signed',
  'tag added',
  'list joined',
  'tag removed',
  'list left',
  'opted out',
  'date stamped',
] as const

export const happening = z
  .object({
    kind: z.enum(happeningKinds),
    /** Which form, tag or list; empty where there is only one kind. */
    name: z.string(),
    at: instant,
  })
  .strict()
export type Happening = z.infer<typeof happening>
