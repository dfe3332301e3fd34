import type { Booking } from '../../model/booking.ts'
import type { Service } from '../../model/business.ts'
import { newInvoice, type Invoice, type InvoiceReason } from '../../model/dealings.ts'
import { balanceOf, depositOf, openOf, paidFor, priceOf } from '../../model/policy.ts'
import { moneyIn } from '../../letters/language.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { isoDateOf, type EpochDay } from '../../time/calendar.ts'
import { dayAt } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { taskSet } from './taskSet.ts'
import { nameOfRun, stoppedRun } from './stopRuns.ts'

/*
 * The invoices of a booking follow it: asked for once it is confirmed, due with it where it moves, as much as the people
 * it is for, void once a cancellation has settled. What was paid too much is paid back by a person.
 */

/** Something to be paid, by a date. */
interface Asked {
  readonly reason: InvoiceReason
  readonly amountCents: number
  readonly dueDay: EpochDay
}

const today = ({ business, zones }: Settings, now: number) => dayAt(zones.zone(business.zone), now)

/** The date by which the whole price is to be paid: so long before the event, and not before today. */
function balanceDay(settings: Settings, service: Service, booking: Booking, now: number): EpochDay {
  const eventDay = dayAt(placeZone(settings, service), booking.startAt)
  return Math.max(today(settings, now), eventDay - (service.offer.paying?.balanceDaysBefore ?? 0))
}

/** What a service asks to be paid for a booking. A deposit that would be due with the rest is none. */
function askedFor(settings: Settings, service: Service, booking: Booking, now: number): readonly Asked[] {
  const price = priceOf(service, booking)
  const { paying } = service.offer
  if (!paying || price === null || price === 0) return []
  const rest = balanceDay(settings, service, booking, now)
  const deposit = depositOf(service, booking)
  const depositDay = today(settings, now) + (paying.deposit?.withinDays ?? 0)
  if (deposit === null || deposit === 0 || depositDay >= rest) {
    return [{ reason: 'balance', amountCents: price, dueDay: rest }]
  }
  return [
    { reason: 'deposit', amountCents: deposit, dueDay: depositDay },
    { reason: 'balance', amountCents: balanceOf(service, booking) ?? 0, dueDay: rest },
  ]
}

const reasonWords: Readonly<Record<InvoiceReason, string>> = {
  deposit: 'deposit',
  balance: 'balance',
  fee: 'fee',
  other: 'invoice',
}

/** What an invoice is called where a person reads of it. */
export const invoiceWords = ({ reason, amountCents }: Pick<Invoice, 'reason' | 'amountCents'>) =>
  `${reasonWords[reason]} of ${moneyIn('en', amountCents)}`

export const aboutInvoice = ({ id, clientId }: Pick<Invoice, 'id' | 'clientId'>) =>
  ({ clientId, subject: { kind: 'invoice', id } }) as const

/** An invoice goes out. */
export function issued(invoice: Invoice, context: EngineContext): readonly Effect[] {
  const due = invoice.dueOn === null ? '' : `, due ${invoice.dueOn}`
  const words = `Invoice issued: ${invoiceWords(invoice)}${due}.`
  return [
    { kind: 'put invoice', invoice },
    appendEvent(context, 'invoice issued', aboutInvoice(invoice), words),
  ]
}

function issuedFor(
  { id, clientId }: Booking,
  { reason, amountCents, dueDay }: Asked,
  context: EngineContext,
): readonly Effect[] {
  const asked = { id: context.newId('in'), clientId, bookingId: id, reason, amountCents }
  return issued(newInvoice({ ...asked, dueOn: isoDateOf(dueDay) }, context.now), context)
}

/** An invoice is taken back; nothing reminds of it any more. */
export function voided(
  invoice: Invoice,
  why: string,
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  const runs = slice.facts.runs.filter(
    ({ subject, state }) => subject.id === invoice.id && state === 'running',
  )
  return [
    { kind: 'put invoice', invoice: { ...invoice, voidedAt: context.now } },
    appendEvent(context, 'invoice changed', aboutInvoice(invoice), `Void: ${invoiceWords(invoice)}. ${why}`),
    ...runs.flatMap((run) =>
      stoppedRun(run, nameOfRun(slice, run), 'invoice void', 'The invoice is void.', context),
    ),
  ]
}

/** What is to be paid back, as a task of who is in charge. */
export function payBack(
  { settings, facts }: Slice,
  cents: number,
  why: string,
  personId: string | null,
  context: EngineContext,
): readonly Effect[] {
  const { client } = facts
  const title = `Pay back ${moneyIn('en', cents)} to ${client.name}: ${why}`.slice(0, 200)
  const dueOn = isoDateOf(today(settings, context.now))
  const asked = { clientId: client.id, subject: null, title, dueOn, personId }
  return taskSet(asked, `Task: ${title}.`, context)
}

const feeWithinDays = 14

const invoicesOf = ({ facts }: Slice, { id }: Booking) =>
  facts.invoices.filter(({ bookingId }) => bookingId === id)

const paidInAll = (invoices: readonly Invoice[]) => invoices.reduce((sum, one) => sum + paidFor(one), 0)

/** A cancellation has settled: what is open is void, and the fee is set against what was paid. */
function afterCancelling(booking: Booking, slice: Slice, context: EngineContext): readonly Effect[] {
  const own = invoicesOf(slice, booking)
  const paid = paidInAll(own)
  const fee = booking.cancellation?.feeCents ?? 0
  const open = own.filter((one) => !one.isFee && openOf(one) > 0)
  const effects = open.flatMap((one) => voided(one, 'The booking was cancelled.', slice, context))
  if (fee > paid) {
    const dueDay = today(slice.settings, context.now) + feeWithinDays
    const asked: Asked = { reason: 'fee', amountCents: fee - paid, dueDay }
    return [...effects, ...issuedFor(booking, asked, context)]
  }
  if (paid === fee) return effects
  const why = `cancelled; ${moneyIn('en', paid)} paid, fee ${moneyIn('en', fee)}`
  return [...effects, ...payBack(slice, paid - fee, why, booking.personInChargeId, context)]
}

/** An invoice with another amount or due date, as far as it is still open; nothing where both stay. */
function changed(
  invoice: Invoice,
  to: Partial<Pick<Invoice, 'amountCents' | 'dueOn'>>,
  context: EngineContext,
): readonly Effect[] {
  const next: Invoice = { ...invoice, ...to }
  if (next.amountCents === invoice.amountCents && next.dueOn === invoice.dueOn) return []
  const { now } = context
  const isPaid = paidFor(next) >= next.amountCents
  const dueSetAt = next.dueOn === invoice.dueOn ? invoice.dueSetAt : now
  const words = `Invoice changed: ${invoiceWords(next)}, due ${next.dueOn ?? 'at no date'}.`
  const about = aboutInvoice(invoice)
  return [
    { kind: 'put invoice', invoice: { ...next, dueSetAt, paidAt: isPaid ? now : null } },
    appendEvent(context, 'invoice changed', about, words),
    ...(isPaid ? [appendEvent(context, 'invoice paid', about, 'Nothing is left to pay.')] : []),
  ]
}

/** The part of the price that is asked for by the open balance; one that is paid already is left, and more is asked for anew. */
function withOtherPrice(
  booking: Booking,
  own: readonly Invoice[],
  price: number,
  dueDay: EpochDay,
  context: EngineContext,
): readonly Effect[] {
  const sum = own.reduce((total, { amountCents }) => total + amountCents, 0)
  const rest = own.find((one) => one.reason === 'balance' && openOf(one) > 0)
  if (rest) {
    const amountCents = Math.max(0, price - (sum - rest.amountCents))
    return changed(rest, { amountCents, dueOn: isoDateOf(dueDay) }, context)
  }
  const asked: Asked = { reason: 'balance', amountCents: price - sum, dueDay }
  return own.length > 0 && price > sum ? issuedFor(booking, asked, context) : []
}

/** A booking that stands and is ahead: its open invoices follow its date and the people it is for. */
function following(booking: Booking, was: Booking, slice: Slice, context: EngineContext): readonly Effect[] {
  const { settings } = slice
  const service = serviceOf(settings, booking.serviceId)
  const own = invoicesOf(slice, booking).filter(
    ({ reason, voidedAt }) => voidedAt === null && (reason === 'deposit' || reason === 'balance'),
  )
  const dueDay = balanceDay(settings, service, booking, context.now)
  const before = priceOf(service, was)
  const price = priceOf(service, booking)
  if (price !== null && before !== null && price !== before) {
    const paid = paidInAll(own)
    const beyond = (limit: number) => Math.max(0, paid - limit)
    const tooMuch = beyond(price) - beyond(before)
    const why = `the price is ${moneyIn('en', price)} by now`
    const back = tooMuch > 0 ? payBack(slice, tooMuch, why, booking.personInChargeId, context) : []
    return [...withOtherPrice(booking, own, price, dueDay, context), ...back]
  }
  const rest = own.filter((one) => one.reason === 'balance' && openOf(one) > 0)
  return booking.startAt === was.startAt
    ? []
    : rest.flatMap((one) => changed(one, { dueOn: isoDateOf(dueDay) }, context))
}

/** A booking has become confirmed: what is not asked for yet is. */
function asking(booking: Booking, slice: Slice, context: EngineContext): readonly Effect[] {
  const { settings } = slice
  const service = serviceOf(settings, booking.serviceId)
  const own = invoicesOf(slice, booking)
  const fees = own.filter((one) => one.isFee && openOf(one) > 0)
  const undone = fees.flatMap((one) => voided(one, 'The booking stands again.', slice, context))
  if (own.some(({ isFee, voidedAt, reason }) => !isFee && voidedAt === null && reason !== 'other'))
    return undone
  const paid = paidInAll(own)
  const wanted = askedFor(settings, service, booking, context.now)
  const left = wanted.reduce((sum, { amountCents }) => sum + amountCents, 0) - paid
  const dueDay = wanted.at(-1)?.dueDay ?? 0
  const rest: readonly Asked[] = left > 0 ? [{ reason: 'balance', amountCents: left, dueDay }] : []
  return [...undone, ...(paid === 0 ? wanted : rest).flatMap((one) => issuedFor(booking, one, context))]
}

/** What follows for the invoices of the bookings that some effects change. */
export function invoicesFollowing(
  slice: Slice,
  changes: readonly Effect[],
  context: EngineContext,
): readonly Effect[] {
  return changes.flatMap((change) => {
    if (change.kind !== 'put booking') return []
    const { booking } = change
    const was = slice.facts.bookings.find(({ id }) => id === booking.id)
    if (booking.status === 'cancelled') {
      return was?.settling && !booking.settling ? afterCancelling(booking, slice, context) : []
    }
    if (booking.status !== 'confirmed' || booking.startAt <= context.now) return []
    // What was agreed elsewhere is paid as it was agreed there.
    if (!was && booking.broughtInAs !== null) return []
    if (was?.status !== 'confirmed') return asking(booking, slice, context)
    return following(booking, was, slice, context)
  })
}
