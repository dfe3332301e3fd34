import { Checkbox } from '@mantine/core'
import { useQueries } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { LoadView, SendLine } from '#core/api/views.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { call } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { askOptions } from '../../app/queries.ts'
import { DayHeading } from '../../parts/DayHeading.tsx'
import { SendRow } from '../../parts/SendRows.tsx'
import table from '../../parts/timetable.module.css'
import { useChosen, type Chosen } from '../../parts/useChosen.ts'
import styles from './Ahead.module.css'
import { pagesFor, pageSize, rowsOf, type DayCount, type Row, type Rows } from './rows.ts'
import type { SendsQuery } from './useFilters.ts'

/** Heights before they are measured, in pixels. */
const headingHeight = 34
const rowHeight = 38
/** So many lines beyond what is in sight are drawn, and so many more are fetched. */
const overscan = 25
const fetchedAround = 200

/** The messages of the parts of the list around what is in sight, by day and place. */
function useLines(rows: Rows, query: SendsQuery, first: number, last: number) {
  const pages = pagesFor(rows, first - fetchedAround, last + fetchedAround)
  const answers = useQueries({
    queries: pages.map(({ on, offset }) =>
      askOptions('sends', { query: { ...query, from: on, to: on, offset, limit: pageSize } }),
    ),
  })
  const byPage = new Map(
    pages.map(({ on, offset }, index) => [`${on}|${offset}`, answers[index]?.data?.sends]),
  )
  return (on: string, place: number): SendLine | undefined => {
    const offset = Math.floor(place / pageSize) * pageSize
    return byPage.get(`${on}|${offset}`)?.[place - offset]
  }
}

interface ItemProps {
  readonly load: LoadView | undefined
  readonly chosen: Chosen
}

interface DayProps extends ItemProps {
  readonly day: DayCount
  readonly query: SendsQuery
  /** What was chosen by the day, by day. */
  readonly whole: Whole
}

/** A day's messages, taken in or out together; not known yet while they are fetched. */
interface WholeDay {
  readonly isIn: boolean
  readonly ids: readonly string[]
}

interface Whole {
  readonly of: ReadonlyMap<string, WholeDay>
  readonly set: (on: string, day: WholeDay) => void
}

function useWhole(): Whole {
  const [of, setOf] = useState<ReadonlyMap<string, WholeDay>>(new Map())
  return { of, set: (on, day) => setOf((before) => new Map([...before, [on, day]])) }
}

function Day({ day, query, load, chosen, whole }: DayProps) {
  const words = day.count === 1 ? '1 message' : `${day.count.toLocaleString('en')} messages`
  const known = load?.days.find(({ on }) => on === day.on)
  const extra = [
    known?.isOverAllowance && 'over the mail account’s allowance',
    known?.isCrowded && 'a crowded day',
  ]
  const own = whole.of.get(day.on)
  const isWhole = own !== undefined && own.isIn && own.ids.every(chosen.has)
  const chooseAll = async (isIn: boolean) => {
    whole.set(day.on, { isIn, ids: [] })
    const { sends } = await call('sends', {
      query: { ...query, from: day.on, to: day.on, offset: 0, limit: 500 },
    })
    const ids = sends.map(({ id }) => id)
    chosen.put(ids, isIn)
    whole.set(day.on, { isIn, ids })
  }
  return (
    <div className={styles.day}>
      <Checkbox
        size="md"
        aria-label={`Choose all of ${day.on}`}
        checked={isWhole}
        onChange={(event) => void chooseAll(event.currentTarget.checked)}
      />
      <DayHeading day={epochDayOf(day.on)} count={[words, ...extra].filter(Boolean).join(' · ')} />
    </div>
  )
}

/** How much a client gets around a message, where that is much. */
function Much({ send, load }: { send: SendLine; load: LoadView | undefined }) {
  const { zone } = useBusiness()
  const found = load?.crowdedClients.find(({ clientId }) => clientId === send.clientId)
  const on = isoDateOf(dayAt(zone, send.shownAt))
  if (!found || on < found.from || on > found.to) return null
  return <span className={styles.much}> ◆ gets {found.messages} in a week</span>
}

interface LineProps extends ItemProps {
  readonly row: Row
  /** Without one it is still being fetched. */
  readonly send: SendLine | undefined
  readonly query: SendsQuery
  readonly open: Chosen
  readonly whole: Whole
}

/** One line of the list: a day's heading, a message, or the place of one that is on its way here. */
function Line({ row, send, query, load, chosen, open, whole }: LineProps) {
  if (row.kind === 'day') return <Day {...{ day: row.day, query, load, chosen, whole }} />
  if (!send) return <div className={`${table.row ?? ''} ${styles.coming ?? ''}`}>…</div>
  return (
    <div className={styles.line}>
      <Checkbox
        size="md"
        aria-label={`Choose ${send.letterName} to ${send.clientName}`}
        checked={chosen.has(send.id)}
        onChange={() => chosen.toggle(send.id)}
      />
      <div>
        <SendRow send={send} isDayKnown isOpen={open.has(send.id)} onToggle={() => open.toggle(send.id)}>
          <Much send={send} load={load} />
        </SendRow>
      </div>
    </div>
  )
}

interface DayListProps extends ItemProps {
  readonly days: readonly DayCount[]
  readonly query: SendsQuery
  /** The first messages are there. */
  readonly onShown: () => void
}

/** All messages, day by day; only what is in sight is drawn, however many there are. */
export function DayList({ days, query, load, chosen, onShown }: DayListProps) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useMemo(() => rowsOf(days), [days])
  const open = useChosen()
  const whole = useWhole()
  const virtual = useVirtualizer({
    count: rows.count,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (rows.at(index).kind === 'day' ? headingHeight : rowHeight),
    overscan,
  })
  const items = virtual.getVirtualItems()
  const lineAt = useLines(rows, query, items[0]?.index ?? 0, items.at(-1)?.index ?? 60)
  const [first] = days
  const isShown = first !== undefined && lineAt(first.on, 0) !== undefined
  useEffect(() => {
    if (isShown) onShown()
  })
  return (
    <div
      ref={scroller}
      className={styles.scroller}
      tabIndex={0}
      role="region"
      aria-label="Messages, day by day"
    >
      <ul className={styles.long} style={{ height: virtual.getTotalSize() }}>
        {items.map(({ index, start }) => {
          const row = rows.at(index)
          const send = row.kind === 'send' ? lineAt(row.day.on, row.place) : undefined
          return (
            <li
              key={index}
              ref={virtual.measureElement}
              data-index={index}
              style={{ transform: `translateY(${start}px)` }}
            >
              <Line {...{ row, send, query, load, chosen, open, whole }} />
            </li>
          )
        })}
      </ul>
    </div>
  )
}
