import type { BookingStatus } from '#core/model/booking.ts'

/** A booking's status by shape and word. */
export const statusWords: Readonly<Record<BookingStatus, string>> = {
  requested: '◌ asked for',
  confirmed: '● confirmed',
  cancelled: '– cancelled',
  completed: '✓ completed',
  missed: '✕ missed',
}
