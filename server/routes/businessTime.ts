import { epochDayOf } from '#core/time/calendar.ts'
import { instantAt, type Zone } from '#core/time/zones.ts'
import type { Application } from '../engine/application.ts'

export function businessZone(application: Application): Zone {
  const settings = application.settings.required()
  return settings.zones.zone(settings.business.zone)
}

/** The moments at which some dates begin and end on the business's clock; the last date is included. */
export function spanOfDates(
  application: Application,
  from: string,
  to: string,
): { from: number; to: number } {
  const zone = businessZone(application)
  return { from: instantAt(zone, epochDayOf(from), 0), to: instantAt(zone, epochDayOf(to) + 1, 0) }
}
