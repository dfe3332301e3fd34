import { isoDateOf, type EpochDay } from '#core/time/calendar.ts'
import { longDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../app/business.ts'
import { useAsk } from '../app/queries.ts'
import table from './timetable.module.css'

const near: Readonly<Record<number, string>> = { [-1]: 'yesterday', 0: 'today', 1: 'tomorrow' }

/** The heading of a day in a list: weekday and date, how near it is, and whether it is a holiday or closed. */
export function DayHeading({ day, count }: { day: EpochDay; count: string }) {
  const { zone, now } = useBusiness()
  const { data } = useAsk('ribbon')
  const known = data?.days.find(({ on }) => on === isoDateOf(day))
  const extra = [
    near[day - dayAt(zone, now)],
    known?.holiday ?? (known?.isClosed ? 'closed' : undefined),
    count,
  ]
  return (
    <h2 className={table.group}>
      {longDate(day)} <small>· {extra.filter(Boolean).join(' · ')}</small>
    </h2>
  )
}
