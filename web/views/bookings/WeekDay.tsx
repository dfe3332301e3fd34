import { Checkbox, VisuallyHidden } from '@mantine/core'
import { Fragment } from 'react'
import { Link } from 'react-router'
import type { TimetableDay, TimetableLine } from '#core/api/bookingEndpoints.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { clockTime, shortDate } from '#core/time/format.ts'
import { realZones } from '#core/time/realZones.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { statusParts } from '../../parts/statusWords.ts'
import { TimeOfDay } from '../../parts/When.tsx'
import type { Chosen } from '../../parts/useChosen.ts'
import styles from './Week.module.css'
import { useHeld, usePlace } from './WeekDragging.tsx'
import type { Placed } from './weekPlaces.ts'

/** More seats are said, not drawn. */
const mostMarks = 12

/** The seats of a departure: taken ones filled, free ones open. */
function Seats({ line: { seats, taken } }: { line: TimetableLine }) {
  const words = `${taken} of ${seats} seats taken`
  if (seats > mostMarks) return <span className={styles.seats}>{words}</span>
  const filled = Math.min(taken, seats)
  return (
    <span className={styles.seats} role="img" aria-label={words} title={words}>
      {'●'.repeat(filled)}
      {'○'.repeat(seats - filled)}
      {taken > seats && ` +${taken - seats}`}
    </span>
  )
}

type Booked = TimetableLine['bookings'][number]

/** Bookings that can still be chosen and put elsewhere; a cancelled one only stands there. */
const isStanding = ({ status }: Booked) => status !== 'cancelled'

function Who({ one, chosen }: { one: Booked; chosen: Chosen }) {
  const { attributes, listeners, setNodeRef, style, isDragging } = useHeld(one.id)
  const { shape, word } = statusParts(one.status, one.ownStatus)
  const name = (
    <Link to={`/booking/${one.id}`} title={`${one.clientName}, for ${one.partySize}, ${word}`}>
      {one.clientName}
    </Link>
  )
  if (!isStanding(one)) {
    return (
      <li className={styles.who} data-off="true">
        <s>{name}</s> <VisuallyHidden>{word}</VisuallyHidden>
      </li>
    )
  }
  return (
    <li className={styles.who} ref={setNodeRef} style={style} data-held={isDragging}>
      <Checkbox
        size="md"
        aria-label={`Choose ${one.clientName}`}
        checked={chosen.has(one.id)}
        onChange={() => chosen.toggle(one.id)}
      />
      <span className={styles.name}>{name}</span>
      <small title={`for ${one.partySize}, ${word}`}>
        {one.status !== 'confirmed' && shape}
        {one.partySize}
      </small>
      <button
        type="button"
        className={styles.grip}
        {...attributes}
        {...listeners}
        aria-label={`Move ${one.clientName}`}
      >
        <span aria-hidden="true">⠿</span>
      </button>
    </li>
  )
}

/** Where the bookings being moved would stand. */
export interface Ghosts {
  readonly on: string
  /** Null: each at its own time. */
  readonly at: string | null
  readonly moved: readonly Placed[]
}

interface LineProps {
  readonly on: string
  readonly line: TimetableLine
  readonly chosen: Chosen
  readonly ghosts: Ghosts | null
}

function Line({ on, line, chosen, ghosts }: LineProps) {
  const { now, zone: own } = useBusiness()
  const { setNodeRef, isOver } = usePlace({ kind: 'line', on, line })
  const zone = realZones.zone(line.placeZone)
  const time = clockTime(zone, line.startAt)
  const joining = (ghosts?.moved ?? []).filter(
    (one) => one.line.serviceId === line.serviceId && ghosts?.on === on && ghosts.at === time,
  )
  return (
    <li
      ref={setNodeRef}
      className={styles.line}
      data-over={isOver}
      data-empty={line.bookings.length === 0}
      data-past={line.startAt <= now}
    >
      <div className={styles.departure}>
        <b>{time}</b> <Seats line={line} />
      </div>
      <div className={styles.service}>
        {line.serviceName}
        {time !== clockTime(own, line.startAt) && <small> · time there</small>}
      </div>
      <ul>
        {line.bookings.map((one) => (
          <Who key={one.id} one={one} chosen={chosen} />
        ))}
        {joining.map(({ id, clientName }) => (
          <li key={id} className={styles.ghost}>
            {clientName}
          </li>
        ))}
      </ul>
    </li>
  )
}

interface DayProps {
  readonly day: TimetableDay
  readonly chosen: Chosen
  readonly ghosts: Ghosts | null
}

function Head({ day: { on, holiday, isClosed, lines }, chosen }: DayProps) {
  const { zone, now, year } = useBusiness()
  const isToday = epochDayOf(on) === dayAt(zone, now)
  const ids = lines.flatMap(({ bookings }) => bookings.filter(isStanding).map(({ id }) => id))
  const words = [isToday && 'today', holiday ?? (isClosed && 'office closed')].filter(Boolean).join(' · ')
  const isSome = ids.some(chosen.has)
  const isAll = ids.length > 0 && ids.every(chosen.has)
  return (
    <div className={styles.head} data-today={isToday} data-closed={isClosed || holiday !== null}>
      <h2>{shortDate(epochDayOf(on), year)}</h2>
      {ids.length > 0 && (
        <Checkbox
          size="md"
          aria-label={`Choose all of ${shortDate(epochDayOf(on), year)}`}
          checked={isAll}
          indeterminate={isSome && !isAll}
          onChange={() => chosen.put(ids, !isAll)}
        />
      )}
      <small>{words}</small>
    </div>
  )
}

/** One day of the timetable: its departures in the order of time, with now between them. */
export function WeekDay(props: DayProps) {
  const { day, chosen, ghosts } = props
  const { zone, now } = useBusiness()
  const { on, lines } = day
  const { setNodeRef, isOver } = usePlace({ kind: 'day', on })
  const isToday = epochDayOf(on) === dayAt(zone, now)
  const next = lines.findIndex(({ startAt }) => startAt > now)
  const nowBefore = isToday ? (next < 0 ? lines.length : next) : -1
  const times = new Set(lines.map(({ startAt, placeZone }) => clockTime(realZones.zone(placeZone), startAt)))
  const arriving = ghosts?.on === on && (ghosts.at === null || !times.has(ghosts.at)) ? ghosts.moved : []
  const mark = (
    <li className={styles.now}>
      <span>now, </span>
      <TimeOfDay at={now} />
    </li>
  )
  return (
    <section
      ref={setNodeRef}
      className={styles.day}
      data-over={isOver}
      aria-label={shortDate(epochDayOf(on))}
    >
      <Head {...props} />
      <ol>
        {lines.map((line, index) => (
          <Fragment key={`${line.serviceId}${line.startAt}`}>
            {index === nowBefore && mark}
            <Line on={on} line={line} chosen={chosen} ghosts={ghosts} />
          </Fragment>
        ))}
        {nowBefore === lines.length && mark}
        {arriving.map(({ id, clientName }) => (
          <li key={id} className={styles.ghost}>
            {clientName} <small>{ghosts?.at ?? 'at its own time'}</small>
          </li>
        ))}
      </ol>
      {lines.length === 0 && arriving.length === 0 && <p className={styles.nothing}>nothing</p>}
    </section>
  )
}
