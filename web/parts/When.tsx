import { clockTime, isoWithOffset, shortDate } from '#core/time/format.ts'
import { dayAt, type Zone } from '#core/time/zones.ts'
import { useBusiness } from '../app/business.ts'

interface WhenProps {
  readonly at: number
  /** Zone to tell it in; without one, that of the business. */
  readonly inZone?: Zone
}

/**
 * A moment as people here always see it: weekday, date, 24-hour time. Where the place's clock differs from the
 * business's, the place's time is told and named.
 */
export function When({ at, inZone }: WhenProps) {
  const { zone: own, year } = useBusiness()
  const zone = inZone ?? own
  const time = clockTime(zone, at)
  const differs = time !== clockTime(own, at)
  return (
    <time dateTime={isoWithOffset(zone, at)}>
      {shortDate(dayAt(zone, at), year)}, {time}
      {differs && <small> there ({clockTime(own, at)} here)</small>}
    </time>
  )
}

/** Only the time of day, where the date stands beside it already. */
export function TimeOfDay({ at }: { at: number }) {
  const { zone } = useBusiness()
  return <time dateTime={isoWithOffset(zone, at)}>{clockTime(zone, at)}</time>
}
