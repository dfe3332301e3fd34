import { epochDayOf, isoDateOf, minuteMs, minuteOfDay, timeOfDayOf } from './calendar.ts'
import { instantAt, wallAt, type Zone } from './zones.ts'

/** The instant of a date and time as the clock of a zone shows them: `2026-05-16T05:20`. */
export function instantOfLocal(zone: Zone, local: string): number {
  return instantAt(zone, epochDayOf(local.slice(0, 10)), minuteOfDay(local.slice(11)))
}

/** The date and time that the clock of a zone shows at an instant: `2026-05-16T05:20`. */
export function localAt(zone: Zone, instant: number): string {
  const { day, msOfDay } = wallAt(zone, instant)
  return `${isoDateOf(day)}T${timeOfDayOf(Math.floor(msOfDay / minuteMs))}`
}
