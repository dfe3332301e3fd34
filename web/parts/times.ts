import { epochDayOf, isoDateOf, minuteMs, minuteOfDay, timeOfDayOf } from '#core/time/calendar.ts'
import { instantAt, wallAt, type Zone } from '#core/time/zones.ts'

/** Start and end as a form holds them: a date, two times of day. An end before the start is on the next day. */
export interface Times {
  readonly date: string | null
  readonly start: string
  readonly end: string
}

/** The end that belongs to a start, a service's duration later on the clock of the place. */
export function endFor(zone: Zone, date: string, start: string, durationMinutes: number): string {
  const { msOfDay } = wallAt(
    zone,
    instantAt(zone, epochDayOf(date), minuteOfDay(start)) + durationMinutes * minuteMs,
  )
  return timeOfDayOf(Math.floor(msOfDay / minuteMs))
}

/** Start and end as the server takes them. Null while something is missing. */
export function localTimes({ date, start, end }: Times): { startLocal: string; endLocal: string } | null {
  if (date === null || start === '' || end === '') return null
  const endDate = end < start ? isoDateOf(epochDayOf(date) + 1) : date
  return { startLocal: `${date}T${start}`, endLocal: `${endDate}T${end}` }
}
