import { guessColumns, type DescribedFields, type MatchedColumns } from './matching.ts'

/** What a column of a table of bookings can say. */
export const bookingFields = [
  'name',
  'email',
  'phone',
  'service',
  'date',
  'time',
  'end',
  'minutes',
  'partySize',
  'status',
  'number',
] as const
export type BookingField = (typeof bookingFields)[number]

export const describedBookingFields: DescribedFields<BookingField> = {
  name: {
    label: 'Who comes',
    heads: ['name', 'client', 'customer', 'guest', 'full name', 'kunde', 'kundin', 'gast', 'client name'],
  },
  email: {
    label: 'E-mail address',
    heads: ['email', 'e mail', 'mail', 'email address', 'e mail address', 'e mail adresse'],
  },
  phone: { label: 'Telephone', heads: ['phone', 'telephone', 'tel', 'mobile', 'handy', 'telefon'] },
  service: {
    label: 'Service',
    heads: ['service', 'what', 'offer', 'treatment', 'leistung', 'angebot', 'dienstleistung'],
  },
  date: {
    label: 'Date, or date and time',
    heads: [
      'date',
      'day',
      'start',
      'starts',
      'start at',
      'begin',
      'starts at',
      'datum',
      'tag',
      'beginn',
      'start date',
    ],
  },
  time: {
    label: 'Time it begins',
    heads: ['time', 'start time', 'from', 'uhrzeit', 'zeit', 'von', 'startzeit'],
  },
  end: {
    label: 'Time it ends',
    heads: ['end', 'ends', 'end at', 'until', 'end time', 'to', 'ende', 'bis', 'endzeit'],
  },
  minutes: {
    label: 'Takes, in minutes',
    heads: ['minutes', 'duration', 'dauer', 'minuten', 'duration minutes'],
  },
  partySize: {
    label: 'How many come',
    heads: ['people', 'persons', 'party', 'party size', 'seats', 'personen', 'anzahl', 'teilnehmer', 'pax'],
  },
  status: { label: 'Status', heads: ['status', 'state'] },
  number: {
    label: 'Number of the booking',
    heads: ['id', 'number', 'no', 'booking', 'reference', 'nummer', 'nr', 'buchungsnummer'],
  },
}

export type BookingMatching = MatchedColumns<BookingField>

export const guessBookingColumns = (heads: readonly string[], rows: readonly (readonly string[])[]) =>
  guessColumns(describedBookingFields, (looks) => looks, heads, rows)
