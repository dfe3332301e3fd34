import { Button, Checkbox, Progress, Select } from '@mantine/core'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import type { CalendarLook } from '#core/api/calendarEndpoints.ts'
import type { SettingsView } from '#core/api/views.ts'
import { bookingFields, type BookingField } from '#core/tables/bookingFields.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { ApiProblem } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { base64Of } from '../../parts/base64.ts'
import { Problem } from '../../parts/Problem.tsx'
import { TableColumns, type Matched } from '../../parts/TableColumns.tsx'
import { EmptyState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { useChosen, type Chosen } from '../../parts/useChosen.ts'
import styles from './BringIn.module.css'
import { useBringingIn, type BringingIn } from './useBringingIn.ts'

const stateWords: Readonly<Record<CalendarLook['state'], string>> = {
  new: '○ new',
  overlaps: '◐ overlaps',
  known: '✓ known',
  over: '– over',
  cancelled: '– cancelled',
  unreadable: '✕ not possible',
}

const isPossible = ({ state }: CalendarLook) => state === 'new' || state === 'overlaps'

/** So many entries stand on the page at first, and more at each press. */
const atOnce = 100

function Line({ entry, chosen }: { entry: CalendarLook; chosen: Chosen }) {
  const { zone } = useBusiness()
  const settings = useAsk('settings')
  const { key, startAt, name, email, title, serviceId, partySize, state, why } = entry
  const service = settings.data?.services.find(({ id }) => id === serviceId)?.name ?? ''
  return (
    <li className={styles.line}>
      <Checkbox
        aria-label={`Bring in ${title || name}`}
        disabled={!isPossible(entry)}
        checked={chosen.has(key)}
        onChange={() => chosen.toggle(key)}
      />
      <span className={table.time}>{state === 'unreadable' ? '' : dateAndTime(zone, startAt)}</span>
      <span>
        <b>{name}</b> {state !== 'unreadable' && service !== '' && `· ${service}`}
        {partySize > 1 && ` · ${partySize} people`}
        <br />
        <small className={table.quiet}>
          {why || (email ?? 'No address: no message can reach them.')}
          {title !== '' && title !== name && ` “${title}”`}
        </small>
      </span>
      <span>{stateWords[state]}</span>
    </li>
  )
}

function Counts({ entries }: { entries: readonly CalendarLook[] }) {
  const counts = Object.entries(stateWords)
    .map(([state, words]) => ({ words, count: entries.filter((one) => one.state === state).length }))
    .filter(({ count }) => count > 0)
  return <p>{counts.map(({ words, count }) => `${count} ${words}`).join(' · ')}</p>
}

function Report({ bringing }: { bringing: BringingIn }) {
  const { total, done, refused, isUnderWay } = bringing
  return (
    <section className={styles.report} aria-label="What came of it">
      {isUnderWay && (
        <Progress value={(100 * (done + refused.length)) / total} aria-label="Brought in so far" />
      )}
      <p role="status">
        <b>
          {done} of {total} brought in
        </b>
        {refused.length > 0 && `, ${refused.length} not`}. Nothing is sent because of it: a sequence can
        include those who are there already, on its own page.
      </p>
      {refused.length > 0 && (
        <ul>
          {refused.slice(0, atOnce).map(({ key, name, sentence }) => (
            <li key={key}>
              <b>{name}</b>: {sentence}
            </li>
          ))}
        </ul>
      )}
      <Problem of={bringing.problem} />
      <div className={table.acts}>
        {isUnderWay ? (
          <Button variant="default" onClick={bringing.stop}>
            Stop
          </Button>
        ) : (
          <Button component={Link} to="/bookings">
            To the bookings
          </Button>
        )}
      </div>
    </section>
  )
}

interface LookProps {
  readonly entries: readonly CalendarLook[]
  readonly isCut: boolean
  /** Null: it has none. */
  readonly onColumns: (() => void) | null
  readonly onClose: () => void
}

/** What the entries would become, and those that are to. */
function Look({ entries, isCut, onColumns, onClose }: LookProps) {
  const chosen = useChosen(entries.filter(({ state }) => state === 'new').map(({ key }) => key))
  const [shown, setShown] = useState(atOnce)
  const bringing = useBringingIn()
  if (bringing.total > 0) return <Report bringing={bringing} />
  const wanted = entries.filter((one) => isPossible(one) && chosen.has(one.key))
  return (
    <>
      <div className={styles.report}>
        <Counts entries={entries} />
        {isCut && <p>The file has more: only the first 5,000 entries are looked at.</p>}
        <p className={table.quiet}>Nothing is brought in yet, and nothing will be sent because of it.</p>
        <div className={table.acts}>
          <Button disabled={wanted.length === 0} onClick={() => bringing.begin(wanted)}>
            {wanted.length === 1 ? 'Bring in 1 booking' : `Bring in ${wanted.length} bookings`}
          </Button>
          {onColumns && (
            <Button variant="default" onClick={onColumns}>
              Match the columns anew
            </Button>
          )}
          <Button variant="default" onClick={onClose}>
            Another file
          </Button>
        </div>
      </div>
      <ul className={table.list} aria-label="Entries of the file">
        {entries.slice(0, shown).map((entry, index) => (
          <Line key={`${entry.key} ${index}`} entry={entry} chosen={chosen} />
        ))}
      </ul>
      {shown < entries.length && (
        <div className={styles.report}>
          <Button variant="default" onClick={() => setShown(shown + 5 * atOnce)}>
            Show more
          </Button>
        </div>
      )}
    </>
  )
}

interface AskingProps {
  readonly services: SettingsView['services']
  readonly onFile: (file: File, serviceId: string) => void
  readonly isReading: boolean
  readonly problem: ApiProblem | null
}

/** Which file, and of which service its entries are. */
function Asking({ services, onFile, isReading, problem }: AskingProps) {
  const input = useRef<HTMLInputElement>(null)
  const [serviceId, setServiceId] = useState(services[0]?.id ?? '')
  return (
    <div className={styles.report}>
      <p>
        An iCalendar file (.ics), as most calendar programs give it out, or a table (CSV), as every
        spreadsheet saves it. You see what each entry would become before anything is done.
      </p>
      <Select
        label="Service"
        description="Of entries that name none."
        w="20rem"
        allowDeselect={false}
        data={services.map(({ id, name }) => ({ value: id, label: name }))}
        value={serviceId}
        onChange={(id) => id !== null && setServiceId(id)}
      />
      <HiddenFileInput
        label="Calendar or table"
        input={input}
        accept=".ics,.csv,.tsv,.txt,text/calendar,text/csv"
        onFile={(file) => onFile(file, serviceId)}
      />
      <Problem of={problem} />
      <div className={table.acts}>
        <Button loading={isReading} onClick={() => input.current?.click()}>
          Choose the file…
        </Button>
      </div>
    </div>
  )
}

/** A calendar says itself what it is (RFC 5545 3.4); anything else is taken for a table. */
const isCalendar = (bytes: Uint8Array) =>
  /^\uFEFF?\s*BEGIN:VCALENDAR/i.test(new TextDecoder().decode(bytes.subarray(0, 200)))

/** A file on its way: a calendar is looked at at once, of a table it is asked first what its columns mean. */
function useFile() {
  const calendar = useTell('lookAtCalendar')
  const open = useTell('openTable')
  const rows = useTell('lookAtBookingTable')
  const [serviceId, setServiceId] = useState('')
  const [matched, setMatched] = useState<Matched<BookingField> | null>(null)
  const read = async (file: File, wanted: string) => {
    setServiceId(wanted)
    const bytes = new Uint8Array(await file.arrayBuffer())
    if (isCalendar(bytes)) {
      calendar.mutate({ body: { file: new TextDecoder().decode(bytes), serviceId: wanted } })
    } else {
      open.mutate({ body: { of: 'bookings', fileName: file.name, base64: base64Of(bytes) } })
    }
  }
  return {
    read,
    look: calendar.data ?? rows.data,
    table: open.data,
    isReading: calendar.isPending || open.isPending,
    isLooking: rows.isPending,
    problem: calendar.error ?? open.error ?? rows.error,
    matched,
    lookAtRows: (asked: Matched<BookingField>) => {
      setMatched(asked)
      if (open.data) rows.mutate({ parameters: { id: open.data.id }, body: { ...asked, serviceId } })
    },
    /** Columns can be matched anew; of a calendar there are none. */
    toColumns: rows.data ? () => rows.reset() : null,
    another: () => {
      setMatched(null)
      for (const told of [calendar, open, rows]) told.reset()
    },
  }
}

function Steps({ services }: { services: SettingsView['services'] }) {
  const file = useFile()
  const { read, look, table: open, isReading, isLooking, problem, lookAtRows, another } = file
  if (look) {
    const { entries, isCut } = look
    return <Look entries={entries} isCut={isCut} onColumns={file.toColumns} onClose={another} />
  }
  if (open) {
    return (
      <TableColumns
        of="bookings"
        fields={bookingFields}
        open={open}
        before={file.matched}
        isLooking={isLooking}
        onAnother={another}
        onLook={lookAtRows}
      >
        <Problem of={problem} />
      </TableColumns>
    )
  }
  return (
    <Asking
      services={services}
      onFile={(file, serviceId) => void read(file, serviceId)}
      isReading={isReading}
      problem={problem}
    />
  )
}

/** Brings the bookings of another calendar or of a table in: looked at first, then those that are chosen. */
export default function BringIn() {
  const settings = useAsk('settings')
  if (!settings.data) return <Waiting />
  const services = settings.data.services.filter(({ isActive }) => isActive)
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to="/bookings">Bookings</Link> · Bring in
        </h1>
      </div>
      <div className={table.sheet}>
        {services.length === 0 ? (
          <EmptyState title="There is no service yet.">
            <p>
              <Link to="/set-up/service/new">Add one</Link> first: every booking is of a service.
            </p>
          </EmptyState>
        ) : (
          <Steps services={services} />
        )}
      </div>
    </div>
  )
}
