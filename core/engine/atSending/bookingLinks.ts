import type { Booking } from '../../model/booking.ts'
import { actUrlsBy, type ActUrls } from '../../model/clientAct.ts'
import type { Settings } from '../../planning/slice.ts'

/** The links to a booking and to what its client can do with it; empty where there is no booking. */
export function bookingLinks(
  { clientLinks }: Settings,
  booking: Booking | null,
): { readonly bookingUrl: string; readonly actUrls: ActUrls } {
  if (booking === null) return { bookingUrl: '', actUrls: actUrlsBy(() => '') }
  return {
    bookingUrl: clientLinks.booking(booking.id),
    actUrls: actUrlsBy((act) => clientLinks.act(act, booking.id)),
  }
}
