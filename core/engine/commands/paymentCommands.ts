import { z } from 'zod'
import { moneyIn } from '../../letters/language.ts'
import { newInvoice, type Invoice, type Payment } from '../../model/dealings.ts'
import { openOf, paidFor } from '../../model/policy.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { isoDate } from '../../model/values.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { aboutInvoice, invoiceWords, issued, payBack, voided } from '../following/invoicing.ts'
import { conclude } from '../following/react.ts'

/** What an amount of money can be, in cents. */
const cents = z
  .number()
  .int('Whole cents.')
  .min(1, 'The amount must be more than 0.')
  .max(100_000_000, 'At most 1,000,000.')

/** What a person asks a client to pay for a booking beside what the service asks for. */
export const invoiceInput = z.object({ amountCents: cents, dueOn: isoDate.nullable() }).strict()
export type InvoiceInput = z.infer<typeof invoiceInput>

export const paymentInput = z.object({ cents }).strict()

type Decided = Result<readonly Effect[]>

const found = ({ facts }: Slice, id: string): Result<Invoice> => {
  const invoice = facts.invoices.find((one) => one.id === id)
  return invoice ? done(invoice) : refused('not found', 'There is no such invoice.')
}

/** What a person notes as paid, as it is told from other payments of an invoice. */
const byHand = ({ payments }: Invoice, cents: number, at: number): Payment => ({
  reference: `hand-${payments.length + 1}`,
  at,
  cents,
  by: 'hand',
})

/** Money that came in for an invoice: part of it, or the last. */
function paidBy(invoice: Invoice, payment: Payment, context: EngineContext): readonly Effect[] {
  const payments = [...invoice.payments, payment]
  const paid = paidFor({ payments })
  const isWhole = invoice.paidAt === null && paid >= invoice.amountCents
  const words = isWhole
    ? `Invoice paid: ${invoiceWords(invoice)}.`
    : `${moneyIn('en', payment.cents)} came in for the ${invoiceWords(invoice)}.`
  return [
    {
      kind: 'put invoice',
      invoice: { ...invoice, payments, paidAt: isWhole ? context.now : invoice.paidAt },
    },
    appendEvent(context, isWhole ? 'invoice paid' : 'invoice changed', aboutInvoice(invoice), words),
  ]
}

/** A person notes that a client has paid, all or part of it. */
export function notePayment(slice: Slice, id: string, paid: number, context: EngineContext): Decided {
  const invoice = found(slice, id)
  if (!invoice.ok) return invoice
  if (invoice.value.voidedAt !== null) return refused('not allowed now', 'This invoice is void.')
  if (invoice.value.paidAt !== null) return refused('not allowed now', 'This invoice has been paid already.')
  const open = openOf(invoice.value)
  if (paid > open) return refused('invalid', `Only ${moneyIn('en', open)} of it is open.`, 'cents')
  const payment = byHand(invoice.value, paid, context.now)
  return done(conclude(slice, paidBy(invoice.value, payment, context), context))
}

/**
 * What the page for paying tells: it may tell it twice, late, or for what nobody has to pay any more. The same
 * reference counts once; what is too much is paid back by a person.
 */
export function receivePayment(
  slice: Slice,
  id: string,
  told: Pick<Payment, 'reference' | 'cents'>,
  context: EngineContext,
): Decided {
  const invoice = found(slice, id)
  if (!invoice.ok) return invoice
  const { payments, bookingId } = invoice.value
  if (payments.some(({ reference }) => reference === told.reference)) return done([])
  const open = openOf(invoice.value)
  const effects = paidBy(invoice.value, { ...told, at: context.now, by: 'page' }, context)
  const tooMuch = told.cents - open
  const booking = slice.facts.bookings.find((one) => one.id === bookingId)
  const why = invoice.value.voidedAt === null ? 'paid more than was open' : 'paid although it was void'
  const back = tooMuch > 0 ? payBack(slice, tooMuch, why, booking?.personInChargeId ?? null, context) : []
  return done(conclude(slice, [...effects, ...back], context))
}

/** A further invoice for a booking. */
export function addInvoice(
  slice: Slice,
  bookingId: string,
  { amountCents, dueOn }: InvoiceInput,
  context: EngineContext,
): Decided {
  const booking = slice.facts.bookings.find(({ id }) => id === bookingId)
  if (!booking) return refused('not found', 'There is no such booking.')
  const { clientId } = booking
  const asked = { id: context.newId('in'), clientId, bookingId, amountCents, dueOn, reason: 'other' } as const
  return issueInvoice(slice, newInvoice(asked, context.now), context)
}

/** An invoice is taken back by a person; what was paid of it is paid back by one. */
export function voidInvoice(slice: Slice, id: string, context: EngineContext): Decided {
  const invoice = found(slice, id)
  if (!invoice.ok) return invoice
  if (invoice.value.voidedAt !== null) return refused('not allowed now', 'This invoice is void already.')
  const paid = paidFor(invoice.value)
  const effects = voided(invoice.value, 'A person took it back.', slice, context)
  const back = paid > 0 ? payBack(slice, paid, 'the invoice is void', null, context) : []
  return done(conclude(slice, [...effects, ...back], context))
}

export const issueInvoice = (slice: Slice, invoice: Invoice, context: EngineContext): Decided =>
  done(conclude(slice, issued(invoice, context), context))

/** An invoice gets another due date, or loses it. */
export function setDueDate(
  slice: Slice,
  invoiceId: string,
  dueOn: string | null,
  context: EngineContext,
): Decided {
  const invoice = found(slice, invoiceId)
  if (!invoice.ok) return invoice
  const changed: Invoice = { ...invoice.value, dueOn, dueSetAt: context.now }
  const event = appendEvent(context, 'invoice changed', aboutInvoice(changed), `Due: ${dueOn ?? 'no date'}.`)
  return done(conclude(slice, [{ kind: 'put invoice', invoice: changed }, event], context))
}

/** The rest of an invoice is paid, as a person of the team says. */
export function payInvoice(slice: Slice, id: string, context: EngineContext): Decided {
  const invoice = found(slice, id)
  if (!invoice.ok) return invoice
  const { amountCents, paidAt } = invoice.value
  if (amountCents > 0 || paidAt !== null) return notePayment(slice, id, openOf(invoice.value), context)
  const paid = appendEvent(context, 'invoice paid', aboutInvoice(invoice.value), 'Nothing is left to pay.')
  const put: Effect = { kind: 'put invoice', invoice: { ...invoice.value, paidAt: context.now } }
  return done(conclude(slice, [put, paid], context))
}
