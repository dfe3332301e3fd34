import { Button, Select } from '@mantine/core'
import { DateInput } from '@mantine/dates'
import { useSearchParams } from 'react-router'
import type { SendLine } from '#core/api/views.ts'
import { sendState, troubleStates, type SendState } from '#core/model/send.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { byDay } from '../../parts/byDay.ts'
import { DayHeading } from '../../parts/DayHeading.tsx'
import { SendRows } from '../../parts/SendRows.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { When } from '../../parts/When.tsx'
import table from '../../parts/timetable.module.css'
import styles from './Ahead.module.css'

/** State filters as people think of them. */
const stateFilters: Readonly<Record<string, { word: string; states: readonly SendState[] }>> = {
  planned: { word: 'on their way', states: ['expected', 'waiting', 'approved', 'ready', 'sending'] },
  sent: { word: 'sent', states: ['sent'] },
  trouble: { word: 'in trouble', states: troubleStates },
  'not-sent': { word: 'dropped, cancelled or skipped', states: ['dropped', 'cancelled', 'skipped'] },
  all: { word: 'all', states: sendState.options },
}

function useFilters() {
  const { zone, now } = useBusiness()
  const [search, setSearch] = useSearchParams()
  const today = dayAt(zone, now)
  const filters = {
    from: search.get('from') ?? isoDateOf(today),
    to: search.get('to') ?? isoDateOf(today + 21),
    clientId: search.get('client'),
    state: search.get('state') ?? (search.get('from') === null ? 'planned' : 'all'),
  }
  const set = (key: string, value: string | null) =>
    setSearch(
      (before) => {
        const after = new URLSearchParams(before)
        if (value === null) after.delete(key)
        else after.set(key, value)
        return after
      },
      { replace: true },
    )
  return { filters, set, isFiltered: search.size > 0, clear: () => setSearch({}) }
}

function Filters({ filters, set, isFiltered, clear }: ReturnType<typeof useFilters>) {
  const clients = useAsk('clients')
  return (
    <div className={styles.filters}>
      <DateInput
        label="From"
        valueFormat="ddd D MMM YYYY"
        value={filters.from}
        onChange={(value) => set('from', value)}
      />
      <DateInput
        label="up to and with"
        valueFormat="ddd D MMM YYYY"
        value={filters.to}
        onChange={(value) => set('to', value)}
      />
      <Select
        label="Client"
        placeholder="all clients"
        searchable
        clearable
        clearButtonProps={{ 'aria-label': 'All clients' }}
        nothingFoundMessage="No client of that name"
        data={(clients.data?.clients ?? []).map(({ id, name }) => ({ value: id, label: name }))}
        value={filters.clientId}
        onChange={(value) => set('client', value)}
      />
      <Select
        label="Messages"
        allowDeselect={false}
        data={Object.entries(stateFilters).map(([value, { word }]) => ({ value, label: word }))}
        value={filters.state}
        onChange={(value) => set('state', value)}
      />
      <Button variant="subtle" style={{ visibility: isFiltered ? 'visible' : 'hidden' }} onClick={clear}>
        Show the next three weeks
      </Button>
    </div>
  )
}

function Days({ sends, isCut }: { sends: readonly SendLine[]; isCut: boolean }) {
  const { zone } = useBusiness()
  return (
    <>
      {byDay(sends, zone, ({ shownAt }) => shownAt).map(({ day, items }) => (
        <section key={day}>
          <DayHeading day={day} count={items.length === 1 ? '1 message' : `${items.length} messages`} />
          <SendRows sends={items} isDayKnown />
        </section>
      ))}
      {isCut && <p className={table.group}>More than 2,000 messages: choose fewer days to see the rest.</p>}
    </>
  )
}

const limitWords = [
  ['perHour', 'an hour'],
  ['perDay', 'a day'],
  ['perMonth', 'a month'],
] as const

/** What the mail account takes, and whether all that is ahead fits in. */
function Allowance() {
  const { data } = useAsk('forecast')
  const limits = limitWords.flatMap(([key, words]) => {
    const limit = data?.allowance[key]
    return limit == null ? [] : [`${limit.toLocaleString('en')} ${words}`]
  })
  if (!data || limits.length === 0) return null
  const takes = `The mail account takes ${limits.join(' and ')}.`
  if (data.lastAt === null) return <p className={table.group}>{takes} All that is planned fits in.</p>
  const many = data.waiting === 1 ? '1 message has' : `${data.waiting} messages have`
  return (
    <p className={table.group}>
      {takes} {many} to wait for it, until <When at={data.lastAt} /> at the latest.
    </p>
  )
}

/** All messages, day by day, with the reasons for their times. */
export default function Ahead() {
  const all = useFilters()
  const { from, to, clientId, state } = all.filters
  const sends = useAsk('sends', {
    query: {
      from,
      to,
      states: (stateFilters[state]?.states ?? sendState.options).join(','),
      ...(clientId === null ? {} : { clientId }),
    },
  })
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Ahead</h1>
        <Filters {...all} />
      </div>
      <div className={table.sheet}>
        {sends.error && <ErrorState problem={sends.error} onAgain={() => void sends.refetch()} />}
        {!sends.error && !sends.data && <Waiting />}
        {sends.data?.sends.length === 0 && (
          <EmptyState title="No messages here.">
            <p>Nothing fits these filters. Messages appear as soon as a booking is confirmed.</p>
          </EmptyState>
        )}
        {sends.data && <Days sends={sends.data.sends} isCut={sends.data.isCut} />}
        <Allowance />
      </div>
    </div>
  )
}
