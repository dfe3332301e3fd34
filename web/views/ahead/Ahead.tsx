import { Button, SegmentedControl } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { useChosen } from '../../parts/useChosen.ts'
import { When } from '../../parts/When.tsx'
import table from '../../parts/timetable.module.css'
import { DayList } from './DayList.tsx'
import { FilterFields } from './FilterFields.tsx'
import { Many, type ManyWords } from '../../parts/Many.tsx'
import { Month } from './Month.tsx'
import { useFilters, type Filters } from './useFilters.ts'
import { WhyNot } from './WhyNot.tsx'

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

const offers: readonly ManyWords[] = [
  {
    act: 'hold back',
    ask: 'Hold back',
    doIt: (count) => `Hold these ${count} for approval`,
    done: 'wait for approval now',
  },
  { act: 'release', ask: 'Release', doIt: (count) => `Release these ${count}`, done: 'are approved' },
  { act: 'skip', ask: 'Skip', doIt: (count) => `Skip these ${count}`, done: 'are skipped' },
  { act: 'move', ask: 'Move…', doIt: (count) => `Move these ${count}`, done: 'have another time' },
]

function List({ all }: { all: Filters }) {
  const days = useAsk('sendDays', { query: all.query }, { placeholderData: (before) => before })
  const { from, to } = all.filters
  const [isShown, setShown] = useState(false)
  // The messages come first: what is said beside them is worked out when they are on their way.
  const load = useAsk('load', { query: { from, to } }, { enabled: isShown || days.data?.days.length === 0 })
  const chosen = useChosen()
  return (
    <div className={table.sheet}>
      {days.error && <ErrorState problem={days.error} onAgain={() => void days.refetch()} />}
      {!days.error && !days.data && <Waiting />}
      {days.data?.days.length === 0 && (
        <EmptyState title="No messages here.">
          <p>Nothing fits these filters. Messages appear as soon as a booking is confirmed.</p>
        </EmptyState>
      )}
      {days.data && days.data.days.length > 0 && (
        <DayList
          days={days.data.days}
          query={all.query}
          load={load.data}
          chosen={chosen}
          onShown={() => setShown(true)}
        />
      )}
      <Many chosen={chosen} offers={offers} />
      {load.isSuccess && <Allowance />}
    </div>
  )
}

/** All messages, day by day with the reasons for their times, or a month at a glance. */
export default function Ahead() {
  const all = useFilters()
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Ahead</h1>
        <Button
          {...looking}
          variant="subtle"
          style={{ visibility: all.isFiltered && all.view === 'list' ? 'visible' : 'hidden' }}
          onClick={all.clear}
        >
          Show the next three weeks
        </Button>
        <SegmentedControl
          aria-label="View"
          data={[
            { value: 'list', label: 'Day by day' },
            { value: 'month', label: 'A month' },
            { value: 'why-not', label: 'Why not?' },
          ]}
          value={all.view}
          onChange={(view) => all.set({ view: view === 'list' ? null : view })}
        />
        {all.view === 'list' && <FilterFields all={all} />}
      </div>
      {all.view === 'month' && <Month all={all} />}
      {all.view === 'why-not' && <WhyNot all={all} />}
      {all.view === 'list' && <List all={all} />}
    </div>
  )
}
