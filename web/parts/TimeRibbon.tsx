import { Link } from 'react-router'
import type { RibbonDay } from '#core/api/views.ts'
import { dayMs, epochDayOf, yearMonthDayOf } from '#core/time/calendar.ts'
import { longDate, monthName, weekdayName } from '#core/time/format.ts'
import { wallAt } from '#core/time/zones.ts'
import { useBusiness } from '../app/business.ts'
import { useAsk } from '../app/queries.ts'
import { ribbonMarks } from './ribbonMarks.ts'
import styles from './TimeRibbon.module.css'

/** Marks of one day: one each up to a row and a half, then a number. */
function Marks({ day }: { day: RibbonDay }) {
  const total = ribbonMarks.reduce((sum, { kind }) => sum + day[kind], 0)
  if (total > 12) {
    return (
      <span className={styles.numbers} aria-hidden>
        {ribbonMarks
          .filter(({ kind }) => day[kind] > 0)
          .map(({ kind, glyph }) => (
            <span key={kind} data-kind={kind}>
              {glyph}
              {day[kind]}
            </span>
          ))}
      </span>
    )
  }
  return (
    <span className={styles.marks} aria-hidden>
      {ribbonMarks.flatMap(({ kind, glyph }) =>
        Array.from({ length: day[kind] }, (_, index) => (
          <span key={`${kind}${index}`} data-kind={kind}>
            {glyph}
          </span>
        )),
      )}
    </span>
  )
}

function spoken(day: RibbonDay): string {
  const counts = ribbonMarks
    .filter(({ kind }) => day[kind] > 0)
    .map(({ kind, words }) => `${day[kind]} ${words}`)
  const closed = day.holiday ?? (day.isClosed ? 'closed' : null)
  return [longDate(epochDayOf(day.on)), ...(closed === null ? [] : [closed]), ...counts].join(', ')
}

/** Three days back to three weeks ahead, a cell a day; the present moment is a line. A day opens in Ahead. */
export function TimeRibbon() {
  const { zone, now } = useBusiness()
  const { data } = useAsk('ribbon')
  const wall = wallAt(zone, now)
  if (!data) return <div className={styles.ribbon} aria-hidden />
  return (
    <nav className={styles.ribbon} aria-label="Time ribbon">
      {data.days.map((day, index) => {
        const epochDay = epochDayOf(day.on)
        const { day: dayOfMonth, month } = yearMonthDayOf(epochDay)
        const isToday = epochDay === wall.day
        return (
          <Link
            key={day.on}
            to={`/ahead?from=${day.on}&to=${day.on}`}
            className={styles.day}
            data-closed={day.isClosed}
            data-today={isToday}
            data-past={epochDay < wall.day}
            aria-label={spoken(day)}
            title={spoken(day)}
          >
            <span className={styles.date} aria-hidden>
              {weekdayName(epochDay).slice(0, 2)} <b>{dayOfMonth}</b>
              {(dayOfMonth === 1 || index === 0) && <i>{monthName(month).slice(0, 3)}</i>}
            </span>
            <Marks day={day} />
            {isToday && (
              <span className={styles.now} style={{ left: `${(100 * wall.msOfDay) / dayMs}%` }} aria-hidden />
            )}
          </Link>
        )
      })}
    </nav>
  )
}
