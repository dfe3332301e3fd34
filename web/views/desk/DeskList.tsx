import { Button } from '@mantine/core'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import { toWhom } from '#core/planning/toWhom.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { longDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { StateMark } from '../../parts/StateMark.tsx'
import table from '../../parts/timetable.module.css'
import { TimeOfDay } from '../../parts/When.tsx'
import styles from './Desk.module.css'

interface EntryProps {
  /** To choose it among several. */
  readonly before?: ReactNode
  readonly to: string
  readonly isHere: boolean
  readonly time: ReactNode
  readonly name: string
  readonly words: ReactNode
  readonly side: ReactNode
}

export function Entry({ to, isHere, before, time, name, words, side }: EntryProps) {
  return (
    <li className={before === undefined ? undefined : styles.choosable}>
      {before}
      <Link className={`${table.row ?? ''} ${styles.entry ?? ''}`} to={to} aria-current={isHere}>
        <span className={table.time}>{time}</span>
        <span>
          <b>{name}</b>
          <br />
          {words}
        </span>
        <span className={styles.side}>{side}</span>
      </Link>
    </li>
  )
}

/** Runs of neighbours with the same heading. */
function runsOf<Item>(items: readonly Item[], headingOf: (item: Item) => string) {
  const runs: { heading: string; items: Item[] }[] = []
  for (const item of items) {
    const heading = headingOf(item)
    const last = runs.at(-1)
    if (last?.heading === heading) last.items.push(item)
    else runs.push({ heading, items: [item] })
  }
  return runs
}

interface ListProps<Item> {
  readonly items: readonly Item[]
  readonly hereId: string | undefined
}

export function Grouped<Item extends { readonly id: string }>({
  items,
  headingOf,
  children,
}: {
  items: readonly Item[]
  headingOf: (item: Item) => string
  children: (item: Item) => ReactNode
}) {
  return runsOf(items, headingOf).map(({ heading, items: own }) => (
    <section key={`${heading}-${own[0]?.id ?? ''}`}>
      <h2 className={table.group}>{heading}</h2>
      <ul className={table.list}>{own.map((item) => children(item))}</ul>
    </section>
  ))
}

/** Day words: which day, and how near. */
export function useDayWords() {
  const { zone, now } = useBusiness()
  const today = dayAt(zone, now)
  const near: Readonly<Record<number, string>> = { [-1]: 'yesterday, ', 0: 'today, ', 1: 'tomorrow, ' }
  return (day: number) => `${near[day - today] ?? ''}${longDate(day)}`
}

/** What waits, as a timetable of last chances. */
export function DecideList({ items, hereId }: ListProps<DecideLine>) {
  const { zone } = useBusiness()
  const words = useDayWords()
  return (
    <Grouped
      items={items}
      headingOf={({ lastChanceAt }) =>
        lastChanceAt === null ? 'At any time' : `Last chance ${words(dayAt(zone, lastChanceAt))}`
      }
    >
      {(send) => (
        <Entry
          key={send.id}
          to={`/desk/decide/${send.id}`}
          isHere={send.id === hereId}
          time={send.lastChanceAt === null ? '–' : <TimeOfDay at={send.lastChanceAt} />}
          name={toWhom(send)}
          words={
            <>
              {send.letterName}
              {send.reason?.code === 'facts changed' && (
                <b className={styles.again}> · changed since it was approved</b>
              )}
            </>
          }
          side={<StateMark state={send.state} />}
        />
      )}
    </Grouped>
  )
}

/** Messages with their state, under their day. */
export function MessageList({ items, hereId, group }: ListProps<SendLine> & { group: string }) {
  const { zone } = useBusiness()
  const words = useDayWords()
  return (
    <Grouped items={items} headingOf={({ shownAt }) => words(dayAt(zone, shownAt))}>
      {(send) => (
        <Entry
          key={send.id}
          to={`/desk/${group}/${send.id}`}
          isHere={send.id === hereId}
          time={<TimeOfDay at={send.shownAt} />}
          name={toWhom(send)}
          words={send.letterName}
          side={<StateMark state={send.state} />}
        />
      )}
    </Grouped>
  )
}

/** Tasks under the day they are due. */
export function TaskList({ items, hereId }: ListProps<TaskLine>) {
  const { zone, now } = useBusiness()
  const words = useDayWords()
  const today = dayAt(zone, now)
  const isLate = (task: TaskLine) => epochDayOf(task.dueOn) < today
  return (
    <Grouped items={items} headingOf={({ dueOn }) => words(epochDayOf(dueOn))}>
      {(task) => (
        <Entry
          key={task.id}
          to={`/desk/to-do/${task.id}`}
          isHere={task.id === hereId}
          time={isLate(task) ? '✕ late' : ''}
          name={task.title}
          words={task.clientName}
          side={task.personName ?? 'anybody'}
        />
      )}
    </Grouped>
  )
}

/** Says that more has come while somebody was working, without moving anything. */
export function Newcomers({ count, onOrder }: { count: number; onOrder: () => void }) {
  if (count === 0) return null
  return (
    <p className={styles.left}>
      {count === 1 ? '1 more has come' : `${count} more have come`}, at the end.{' '}
      <Button size="compact-sm" variant="default" onClick={onOrder}>
        Put in order
      </Button>
    </p>
  )
}
