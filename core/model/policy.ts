import type { Booking } from './booking.ts'
import type { Service } from './business.ts'
import type { Invoice } from './dealings.ts'

const hourMs = 3_600_000

/** Whether clients can book a service by themselves. */
export const isOffered = ({ isActive, offer }: Pick<Service, 'isActive' | 'offer'>) =>
  isActive && offer.isPublic

/** Whether a booking waits for its client to confirm it, from the mailbox they gave. */
export const awaitsClient = ({ offer }: Service, { status }: Pick<Booking, 'status'>) =>
  status === 'requested' && offer.confirms === 'by the client'

/** What decides what a booking costs. */
export type Priced = Pick<Booking, 'partySize' | 'priceCents'>

/** What a booking costs, in cents: what was agreed for it, else by the service; null: that does not say. */
export function priceOf({ offer }: Service, { partySize, priceCents }: Priced): number | null {
  if (priceCents !== null) return priceCents
  if (!offer.price) return null
  return offer.price.per === 'person' ? offer.price.cents * partySize : offer.price.cents
}

/** Until when cancelling a booking costs nothing. */
export const freeUntil = ({ offer }: Service, { startAt }: Pick<Booking, 'startAt'>) =>
  startAt - offer.cancelling.freeUntilHours * hourMs

/** What cancelling costs at a moment, in cents, rounded to the nearest (half up). A request costs nothing. */
export function cancellingFee(
  service: Service,
  booking: Priced & Pick<Booking, 'startAt' | 'status'>,
  now: number,
): number {
  if (booking.status === 'requested' || now <= freeUntil(service, booking)) return 0
  return Math.round(((priceOf(service, booking) ?? 0) * service.offer.cancelling.feePercent) / 100)
}

/** The last moment at which clients can move or cancel a booking by themselves. */
export const changeableUntil = ({ offer }: Service, { startAt }: Pick<Booking, 'startAt'>) =>
  startAt - offer.changeUntilHours * hourMs

/** The deposit on a booking in cents, rounded to the nearest (half up); null: there is none. */
export function depositOf(service: Service, booking: Priced): number | null {
  const price = priceOf(service, booking)
  const deposit = service.offer.paying?.deposit
  return price === null || !deposit ? null : Math.round((price * deposit.percent) / 100)
}

/** What is left of the price after the deposit, in cents; null: there is no deposit. */
export function balanceOf(service: Service, booking: Priced): number | null {
  const deposit = depositOf(service, booking)
  return deposit === null ? null : (priceOf(service, booking) ?? 0) - deposit
}

/** What has come in for an invoice, in cents. */
export const paidFor = ({ payments }: Pick<Invoice, 'payments'>) =>
  payments.reduce((sum, { cents }) => sum + cents, 0)

/** What is still to be paid of an invoice, in cents; nothing once it is void. */
export function openOf(invoice: Pick<Invoice, 'payments' | 'amountCents' | 'paidAt' | 'voidedAt'>): number {
  if (invoice.voidedAt !== null || invoice.paidAt !== null) return 0
  return Math.max(0, invoice.amountCents - paidFor(invoice))
}
