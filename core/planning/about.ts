import type { Booking } from '../model/booking.ts'
import type { Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import type { Subject, SubjectKind } from '../model/subject.ts'
import type { ClientFacts } from './slice.ts'

/** What something is about, with its facts. */
export interface About {
  /** The booking itself, or that of the invoice; null: none, or it is gone. */
  readonly booking: Booking | null
  readonly enquiry: Enquiry | null
  readonly invoice: Invoice | null
  /** False: something of it is not there any more. */
  readonly isThere: boolean
}

const nothing: About = { booking: null, enquiry: null, invoice: null, isThere: true }

function bookingFound(id: string | null, { bookings }: ClientFacts): Pick<About, 'booking' | 'isThere'> {
  const booking = id === null ? null : (bookings.find((one) => one.id === id) ?? null)
  return { booking, isThere: id === null || booking !== null }
}

const found: Readonly<Record<SubjectKind, (id: string, facts: ClientFacts) => About>> = {
  booking: (id, facts) => ({ ...nothing, ...bookingFound(id, facts) }),
  enquiry: (id, { enquiries }) => {
    const enquiry = enquiries.find((one) => one.id === id) ?? null
    return { ...nothing, enquiry, isThere: enquiry !== null }
  },
  invoice: (id, facts) => {
    const invoice = facts.invoices.find((one) => one.id === id) ?? null
    if (invoice === null) return { ...nothing, isThere: false }
    return { ...nothing, invoice, ...bookingFound(invoice.bookingId, facts) }
  },
  client: () => nothing,
}

/** The service of a booking, else that of an enquiry; null: none is known. */
export const serviceIdOf = ({ booking, enquiry }: Pick<About, 'booking' | 'enquiry'>): string | null =>
  booking?.serviceId ?? enquiry?.serviceId ?? null

/** What a subject is about, as far as the client's facts know it; null stands for the client. */
export function aboutOf(subject: Subject | null, facts: ClientFacts): About {
  return subject === null ? nothing : found[subject.kind](subject.id, facts)
}
