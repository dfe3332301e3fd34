import type { BookingStatus } from '#core/model/booking.ts'

const shapes: Readonly<Record<BookingStatus, string>> = {
  requested: '◌',
  confirmed: '●',
  cancelled: '–',
  completed: '✓',
  missed: '✕',
}

const words: Readonly<Record<BookingStatus, string>> = {
  requested: 'asked for',
  confirmed: 'confirmed',
  cancelled: 'cancelled',
  completed: 'completed',
  missed: 'missed',
}

/** What a booking's status means, as a shape, and what it is called: one of the business's own by its name. */
export const statusParts = (status: BookingStatus, own: string | null) => ({
  shape: shapes[status],
  word: own ?? words[status],
})

/** A booking's status by shape and word. */
export function statusWords(status: BookingStatus, own: string | null): string {
  const { shape, word } = statusParts(status, own)
  return `${shape} ${word}`
}
