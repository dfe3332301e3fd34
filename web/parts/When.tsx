import { clockTime, shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness, zones } from '../app/business.ts'

interface WhenProps {
  readonly at: number
  /** Zone to tell it in; without one, that of the business. */
  readonly zoneName?: string
}

/**
 * A moment as people here always see it: weekday, date, 24-hour time. Where the place's clock differs from the
 * business's, the place's time is told and named.
 */
export function When({ at, zoneName }: WhenProps) {
  const { zone: own, year } = useBusiness()
  const zone = zoneName === undefined ? own : zones.zone(zoneName)
  const time = clockTime(zone, at)
  const differs = time !== clockTime(own, at)
  return (
    <time dateTime={new Date(at).toISOString()}>
      {shortDate(dayAt(zone, at), year)}, {time}
      {differs && <small> there ({clockTime(own, at)} here)</small>}
    </time>
  )
}

/** Only the time of day, where the date stands beside it already. */
export function TimeOfDay({ at }: { at: number }) {
  const { zone } = useBusiness()
  return <time dateTime={new Date(at).toISOString()}>{clockTime(zone, at)}</time>
}
