import { z } from 'zod'
import { diaryOf, type Diary } from '#core/booking/freeTimes.ts'
import { dayMs, minuteMs } from '#core/time/calendar.ts'
import type { Application } from './application.ts'

/** Longer than this nothing takes that is booked; in days. */
const longestDays = 14

const taken = z.object({
  serviceId: z.string(),
  startAt: z.number(),
  endAt: z.number(),
  partySize: z.number(),
  personInChargeId: z.string().nullable(),
})

/** What is booked around some time, as far as it can be in the way of something that begins within it. */
export function diaryBetween(
  { store, settings }: Pick<Application, 'store' | 'settings'>,
  from: number,
  to: number,
  exceptBookingId: string | null = null,
): Diary {
  const present = settings.required()
  const buffers = present.services.map(({ offer }) =>
    Math.max(offer.bufferBeforeMinutes, offer.bufferAfterMinutes),
  )
  const marginMs = longestDays * dayMs + 2 * Math.max(0, ...buffers) * minuteMs
  const rows = store.statements.all('takenBetween', {
    from: from - marginMs,
    to: to + marginMs,
    exceptBookingId,
  })
  return diaryOf(present, taken.array().parse(rows))
}
