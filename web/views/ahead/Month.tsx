import { Button } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { Link } from 'react-router'
import type { DayLoad, LoadView } from '#core/api/views.ts'
import {
  epochDayOf,
  isoDateOf,
  mondayOf,
  weekdayNames,
  yearMonthDayOf,
  type EpochDay,
} from '#core/time/calendar.ts'
import { longDate, monthName, shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { minutesFor } from '../desk/pace.ts'
import styles from './Ahead.module.css'
import type { Filters } from './useFilters.ts'

/** The first day of a month that lies so many months from another, as `2026-05`. */
function monthAfter(month: string, months: number): string {
  const [year = 0, number = 1] = month.split('-').map(Number)
  const index = year * 12 + number - 1 + months
  return `${String(Math.floor(index / 12)).padStart(4, '0')}-${String((index % 12) + 1).padStart(2, '0')}`
}

/** The days of a month in whole weeks, Monday first. */
function weeksOf(month: string): readonly (readonly EpochDay[])[] {
  const first = epochDayOf(`${month}-01`)
  const last = epochDayOf(`${monthAfter(month, 1)}-01`) - 1
  const begins = mondayOf(first)
  const weeks = Math.ceil((last - begins + 1) / 7)
  return Array.from({ length: weeks }, (_, week) =>
    Array.from({ length: 7 }, (__, index) => begins + week * 7 + index),
  )
}

interface CellProps {
  readonly day: EpochDay
  readonly load: DayLoad | undefined
  readonly most: number
  readonly isOther: boolean
  readonly isToday: boolean
}

function Cell({ day, load, most, isOther, isToday }: CellProps) {
  const on = isoDateOf(day)
  const minutes = load && load.waiting > 0 ? minutesFor(load.waiting) : null
  return (
    <td className={styles.cell} data-other={isOther} aria-current={isToday ? 'date' : undefined}>
      <Link
        to={`/ahead?from=${on}&to=${on}`}
        aria-label={`${longDate(day)}: ${load?.messages ?? 0} messages`}
      >
        <b>{yearMonthDayOf(day).day}</b>
        {load && (
          <>
            <span className={styles.amount}>{load.messages}</span>
            <span className={styles.track}>
              <span
                className={styles.fill}
                data-over={load.isOverAllowance}
                style={{ width: `${Math.min(100, (100 * load.messages) / Math.max(1, most))}%` }}
              />
            </span>
            {load.isOverAllowance && <small>✕ over the allowance</small>}
            {load.isCrowded && <small>◆ crowded</small>}
            {load.waiting > 0 && (
              <small>
                ◐ {load.waiting} to look at{minutes !== null && `, ${minutes} min`}
              </small>
            )}
          </>
        )}
      </Link>
    </td>
  )
}

function CrowdedClients({ load }: { load: LoadView }) {
  const { year } = useBusiness()
  const words = (on: string) => shortDate(epochDayOf(on), year)
  return (
    <>
      <h2 className={table.group}>Who gets much within a week</h2>
      {load.crowdedClients.length === 0 ? (
        <p className={styles.note}>Nobody gets five messages or more within a week.</p>
      ) : (
        <ul className={table.list}>
          {load.crowdedClients.map((one) => (
            <li key={one.clientId}>
              <Link
                className={table.row}
                style={{ '--columns': '4rem minmax(0, 1fr) auto' }}
                to={`/ahead?from=${one.from}&to=${one.to}&client=${one.clientId}&state=all`}
              >
                <span className={table.time}>◆ {one.messages}</span>
                <span>{one.clientName}</span>
                <span className={table.quiet}>
                  {words(one.from)} to {words(one.to)}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

function Grid({ month, load }: { month: string; load: LoadView }) {
  const { zone, now } = useBusiness()
  const today = dayAt(zone, now)
  const byDate = new Map(load.days.map((day) => [day.on, day]))
  const most = load.allowance.perDay ?? Math.max(1, ...load.days.map(({ messages }) => messages))
  return (
    <table className={styles.month}>
      <thead>
        <tr>
          {weekdayNames.map((name) => (
            <th key={name} scope="col">
              <abbr title={name}>{name.slice(0, 3)}</abbr>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeksOf(month).map((week) => (
          <tr key={week[0]}>
            {week.map((day) => (
              <Cell
                key={day}
                day={day}
                load={byDate.get(isoDateOf(day))}
                most={most}
                isOther={!isoDateOf(day).startsWith(month)}
                isToday={day === today}
              />
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** A month's load, day by day: messages against the account's allowance, and a person's minutes. */
export function Month({ all }: { all: Filters }) {
  const { month, set } = all
  const days = weeksOf(month).flat()
  const load = useAsk(
    'load',
    { query: { from: isoDateOf(days[0] ?? 0), to: isoDateOf(days.at(-1) ?? 0) } },
    { placeholderData: (before) => before },
  )
  const [year = '', number = '1'] = month.split('-')
  return (
    <div className={table.sheet}>
      <div className={styles.monthHead}>
        <Button
          {...looking}
          variant="default"
          size="compact-md"
          onClick={() => set({ month: monthAfter(month, -1) })}
        >
          ← the month before
        </Button>
        <h2>
          {monthName(Number(number))} {year}
        </h2>
        <Button
          {...looking}
          variant="default"
          size="compact-md"
          onClick={() => set({ month: monthAfter(month, 1) })}
        >
          the month after →
        </Button>
      </div>
      {load.error && <ErrorState problem={load.error} onAgain={() => void load.refetch()} />}
      {!load.error && !load.data && <Waiting />}
      {load.data && <Grid month={month} load={load.data} />}
      {load.data && (
        <p className={styles.note}>
          {load.data.allowance.perDay === null
            ? 'Each bar shows a day’s messages against the fullest day of these weeks.'
            : `Each bar shows a day’s messages against the ${load.data.allowance.perDay.toLocaleString('en')} a day the mail account takes.`}
        </p>
      )}
      {load.data && <CrowdedClients load={load.data} />}
    </div>
  )
}
