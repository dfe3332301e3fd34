import { Button, SegmentedControl, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { BookingLine } from '#core/api/views.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { clockTime } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { realZones } from '#core/time/realZones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { byDay } from '../../parts/byDay.ts'
import { DayHeading } from '../../parts/DayHeading.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { statusWords } from '../../parts/statusWords.ts'
import table from '../../parts/timetable.module.css'
import { MakeBooking } from './MakeBooking.tsx'
import { Week } from './Week.tsx'

const spans = {
  coming: { back: 0, ahead: 400 },
  past: { back: 400, ahead: -1 },
} as const
type Span = keyof typeof spans

function Row({ line }: { line: BookingLine }) {
  const zone = realZones.zone(line.placeZone)
  const own = useBusiness().zone
  const isElsewhere = clockTime(zone, line.startAt) !== clockTime(own, line.startAt)
  return (
    <li>
      <Link
        className={table.row}
        to={`/booking/${line.id}`}
        style={{ '--columns': '7.5rem minmax(0, 1.2fr) minmax(0, 1fr) 5rem 7rem' }}
      >
        <span className={table.time}>
          {clockTime(zone, line.startAt)}–{clockTime(zone, line.endAt)}
        </span>
        <b>{line.clientName}</b>
        <span>
          {line.serviceName}
          {isElsewhere && <small className={table.quiet}> · times there</small>}
        </span>
        <span className={table.quiet}>for {line.partySize}</span>
        <span>{statusWords(line.status, line.ownStatus)}</span>
      </Link>
    </li>
  )
}

function fits({ clientName, serviceName }: BookingLine, words: string): boolean {
  return `${clientName} ${serviceName}`.toLowerCase().includes(words.trim().toLowerCase())
}

function List({ span, words }: { span: Span; words: string }) {
  const { zone, now } = useBusiness()
  const today = dayAt(zone, now)
  const { back, ahead } = spans[span]
  const query = { from: isoDateOf(today - back), to: isoDateOf(today + ahead) }
  const bookings = useAsk('bookings', { query })
  if (bookings.error) return <ErrorState problem={bookings.error} onAgain={() => void bookings.refetch()} />
  if (!bookings.data) return <Waiting />
  const found = bookings.data.bookings.filter((line) => fits(line, words))
  const ordered = span === 'past' ? found.reverse() : found
  if (ordered.length === 0) {
    return (
      <EmptyState title={words === '' ? 'No bookings yet.' : `No booking fits “${words}”.`}>
        <p>
          <Link to="/bookings/new">New booking</Link>: once it is confirmed, its messages appear in Ahead.
        </p>
      </EmptyState>
    )
  }
  return byDay(ordered, zone, ({ startAt }) => startAt).map(({ day, items }) => (
    <section key={day}>
      <DayHeading day={day} count={items.length === 1 ? '1 booking' : `${items.length} bookings`} />
      <ul className={table.list}>
        {items.map((line) => (
          <Row key={line.id} line={line} />
        ))}
      </ul>
    </section>
  ))
}

const looks = { week: 'Week', coming: 'Coming', past: 'Past' } as const
type Look = keyof typeof looks

/** All bookings: a week of them as a timetable, or a list by day; a new one is made beside it. */
export default function Bookings() {
  const { mode } = useParams()
  const navigate = useNavigate()
  const [words, setWords] = useState('')
  const isNew = mode === 'new'
  const look: Look = mode === 'week' || mode === 'past' ? mode : 'coming'
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Bookings</h1>
        {look !== 'week' && (
          <TextInput
            aria-label="Find by client or service"
            placeholder="client or service"
            value={words}
            onChange={(event) => setWords(event.currentTarget.value)}
          />
        )}
        <SegmentedControl
          aria-label="Week, coming or past"
          value={look}
          onChange={(value) => void navigate(value === 'coming' ? '/bookings' : `/bookings/${value}`)}
          data={Object.entries(looks).map(([value, label]) => ({ value, label }))}
        />
        <Link to="/bookings/bring-in">Bring in a calendar or table</Link>
        {!isNew && <Button onClick={() => void navigate('/bookings/new')}>New booking</Button>}
      </div>
      {look === 'week' ? (
        <Week />
      ) : (
        <div className={isNew ? table.split : ''}>
          <div className={table.sheet}>
            <List span={look} words={words} />
          </div>
          {isNew && <MakeBooking onClose={() => void navigate('/bookings')} />}
        </div>
      )}
    </div>
  )
}
