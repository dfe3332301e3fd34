import type { Booking } from './booking.ts'
import type { Service } from './business.ts'

const hourMs = 3_600_000

/** Whether clients can book a service by themselves. */
export const isOffered = ({ isActive, offer }: Pick<Service, 'isActive' | 'offer'>) =>
  isActive && offer.isPublic

/** What a booking of so many people costs, in cents; null: the service does not say. */
export function priceOf({ offer }: Service, { partySize }: Pick<Booking, 'partySize'>): number | null {
  if (!offer.price) return null
  return offer.price.per === 'person' ? offer.price.cents * partySize : offer.price.cents
}

/** Until when cancelling a booking costs nothing. */
export const freeUntil = ({ offer }: Service, { startAt }: Pick<Booking, 'startAt'>) =>
  startAt - offer.cancelling.freeUntilHours * hourMs

/** What cancelling costs at a moment, in cents, rounded to the nearest (half up). A request costs nothing. */
export function cancellingFee(
  service: Service,
  booking: Pick<Booking, 'startAt' | 'partySize' | 'status'>,
  now: number,
): number {
  if (booking.status === 'requested' || now <= freeUntil(service, booking)) return 0
  return Math.round(((priceOf(service, booking) ?? 0) * service.offer.cancelling.feePercent) / 100)
}

/** The last moment at which clients can move or cancel a booking by themselves. */
export const changeableUntil = ({ offer }: Service, { startAt }: Pick<Booking, 'startAt'>) =>
  startAt - offer.changeUntilHours * hourMs
