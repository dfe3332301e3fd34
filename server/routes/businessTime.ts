import { epochDayOf, minuteOfDay } from '#core/time/calendar.ts'
import { instantAt, type Zone } from '#core/time/zones.ts'
import type { Office } from '../engine/office.ts'

export function businessZone(office: Office): Zone {
  const settings = office.settings.required()
  return settings.zones.zone(settings.business.zone)
}

/** The moment of a date and time on the business's clock. */
export function instantOfLocal(office: Office, local: string): number {
  return instantAt(businessZone(office), epochDayOf(local.slice(0, 10)), minuteOfDay(local.slice(11)))
}

/** The moments at which some dates begin and end on the business's clock; the last date is included. */
export function spanOfDates(office: Office, from: string, to: string): { from: number; to: number } {
  const zone = businessZone(office)
  return { from: instantAt(zone, epochDayOf(from), 0), to: instantAt(zone, epochDayOf(to) + 1, 0) }
}
