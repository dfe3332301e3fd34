import { Button } from '@mantine/core'
import { useRef } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { TaskLine } from '#core/api/taskEndpoints.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import { useAsk } from '../../app/queries.ts'
import { SendDetail } from '../../parts/SendRows.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { Decide } from './Decide.tsx'
import { House } from './House.tsx'
import styles from './Desk.module.css'
import { DecideList, MessageList, Newcomers, TaskList } from './DeskList.tsx'
import { minutesFor, rememberDecision } from './pace.ts'
import { ToDo } from './ToDo.tsx'
import { Trouble } from './Trouble.tsx'
import { useDecisions, type Decision, type Decisions } from './useDecisions.ts'
import { useSteadyOrder } from './useSteadyOrder.ts'

const groups = [
  { key: 'decide', word: 'Decide' },
  { key: 'trouble', word: 'Trouble' },
  { key: 'to-do', word: 'To do' },
  { key: 'went-out', word: 'Went out' },
  { key: 'still-today', word: 'Still today' },
] as const
type Group = (typeof groups)[number]['key']

const emptyWords: Readonly<Record<Group, { title: string; words: string }>> = {
  decide: {
    title: 'Nothing waits for you.',
    words: 'Messages that need approval stand here, those with the least time left first.',
  },
  trouble: { title: 'No trouble.', words: 'Every message has gone or is on its way.' },
  'to-do': {
    title: 'Nothing to do.',
    words: 'Tasks come from sequences, or from you: set one on a client’s page.',
  },
  'went-out': {
    title: 'Nothing has gone out today yet.',
    words: 'What is planned for today stands under Still today; all later days are in Ahead.',
  },
  'still-today': { title: 'Nothing more is planned for today.', words: 'The next days are in Ahead.' },
}

/** Decisions just made, as long as they can be taken back, what became real, and what could not be done. */
function JustDecided({ decisions }: { decisions: Decisions }) {
  const { pending, settled, problem, takeBack } = decisions
  return (
    <div className={styles.pending} aria-live="polite">
      {problem !== null && <p role="alert">✕ {problem}</p>}
      {pending.map(({ commandId, what }) => (
        <p key={commandId}>
          {what}{' '}
          <Button size="compact-sm" variant="default" onClick={() => takeBack(commandId)}>
            Take back
          </Button>
        </p>
      ))}
      {pending.length === 0 && settled !== null && (
        <p className={styles.settled}>✓ {settled} It is done and can no longer be taken back here.</p>
      )}
    </div>
  )
}

function Left({ count }: { count: number }) {
  const minutes = minutesFor(count)
  if (count === 0) return null
  return (
    <p className={styles.left}>
      {count} left{minutes !== null && `, about ${minutes === 1 ? '1 minute' : `${minutes} minutes`}`}
    </p>
  )
}

/** Deciding one after the other: what was decided leaves the list, and the next one stands there. */
function useDeciding(list: readonly { readonly id: string }[], group: Group, decisions: Decisions) {
  const navigate = useNavigate()
  const since = useRef(performance.now())
  return (decision: Decision) => {
    const index = list.findIndex(({ id }) => decision.ids.includes(id))
    const isLeft = ({ id }: { readonly id: string }) => !decision.ids.includes(id)
    const next = list.slice(index + 1).find(isLeft) ?? list.slice(0, Math.max(index, 0)).findLast(isLeft)
    if (group === 'decide') rememberDecision((performance.now() - since.current) / decision.ids.length)
    since.current = performance.now()
    decisions.decide(decision)
    void navigate(next ? `/desk/${group}/${next.id}` : `/desk/${group}`, { replace: true })
  }
}

function Detail({ send, group }: { send: SendLine; group: Group }) {
  return (
    <article className={styles.detail} aria-label={`${send.letterName} to ${send.clientName}`}>
      <Link className={styles.back} to={`/desk/${group}`}>
        ← back to the list
      </Link>
      <h2>
        {send.letterName} <span className={table.quiet}>to {send.clientName}</span>
      </h2>
      <p className={table.quiet}>
        {send.serviceName} · <When at={send.shownAt} /> · <StateMark state={send.state} />
      </p>
      <SendDetail id={send.id} />
    </article>
  )
}

interface ChosenProps {
  readonly group: Group
  readonly chosenId: string | undefined
  readonly lists: Lists
  readonly onDecide: (decision: Decision) => void
}

function Chosen({ group, chosenId, lists, onDecide }: ChosenProps) {
  const of = <Item extends { readonly id: string }>(items: readonly Item[]) =>
    items.find(({ id }) => id === chosenId)
  const empty = <EmptyState title={lists[group].length === 0 ? '' : 'Choose one on the left.'} />
  if (group === 'decide') {
    const send = of(lists.decide)
    const alike = lists.decide.filter(({ id, alikeKey }) => id !== chosenId && alikeKey === send?.alikeKey)
    return send ? <Decide send={send} alike={alike} onDecide={onDecide} /> : empty
  }
  if (group === 'to-do') {
    const task = of(lists['to-do'])
    return task ? <ToDo key={task.id} task={task} onDecide={onDecide} /> : empty
  }
  const send = of(lists[group])
  if (!send) return empty
  if (group === 'trouble') return <Trouble key={send.id} send={send} onDecide={onDecide} />
  return <Detail key={send.id} send={send} group={group} />
}

interface Lists {
  readonly decide: readonly DecideLine[]
  readonly trouble: readonly SendLine[]
  readonly 'to-do': readonly TaskLine[]
  readonly 'went-out': readonly SendLine[]
  readonly 'still-today': readonly SendLine[]
}

/** Where somebody begins who says nothing: where a person is needed most. */
function usualGroup(lists: Lists): Group {
  return groups.find(({ key }) => lists[key].length > 0)?.key ?? 'decide'
}

function GroupList({ group, lists, hereId }: { group: Group; lists: Lists; hereId: string | undefined }) {
  if (lists[group].length === 0) {
    return (
      <EmptyState title={emptyWords[group].title}>
        <p>{emptyWords[group].words}</p>
      </EmptyState>
    )
  }
  if (group === 'decide') return <DecideList items={lists.decide} hereId={hereId} />
  if (group === 'to-do') return <TaskList items={lists['to-do']} hereId={hereId} />
  return <MessageList items={lists[group]} hereId={hereId} group={group} />
}

/** What needs a person now, and what went out today: list left, the whole message right. */
export default function Desk() {
  const { group: asked, sendId } = useParams<{ group: string; sendId: string }>()
  const desk = useAsk('desk')
  const decisions = useDecisions()
  const open = new Set(decisions.pending.flatMap(({ ids }) => ids))
  const isOpen = ({ id }: { readonly id: string }) => !open.has(id)
  const waiting = useSteadyOrder((desk.data?.decide ?? []).filter(isOpen), 'decide')
  const lists: Lists = {
    decide: waiting.items,
    trouble: (desk.data?.trouble ?? []).filter(isOpen),
    'to-do': (desk.data?.toDo ?? []).filter(isOpen),
    'went-out': desk.data?.wentOut ?? [],
    'still-today': desk.data?.stillToday ?? [],
  }
  const group = groups.find(({ key }) => key === asked)?.key ?? usualGroup(lists)
  const decide = useDeciding(lists[group], group, decisions)
  if (desk.error) return <ErrorState problem={desk.error} onAgain={() => void desk.refetch()} />
  if (!desk.data) return <Waiting />
  return (
    <div className={styles.desk} data-chosen={lists[group].some(({ id }) => id === sendId)}>
      <section className={styles.lists} aria-label="Desk">
        <h1 className={styles.title}>Desk</h1>
        <nav className={styles.groups} aria-label="Groups">
          {groups.map(({ key, word }) => (
            <Link key={key} to={`/desk/${key}`} aria-current={key === group ? 'page' : undefined}>
              {word} {lists[key].length}
            </Link>
          ))}
        </nav>
        {group === 'decide' && <Left count={lists.decide.length} />}
        {group === 'decide' && <Newcomers count={waiting.newcomers} onOrder={waiting.orderAnew} />}
        <JustDecided decisions={decisions} />
        <House troubles={desk.data.house} />
        <GroupList group={group} lists={lists} hereId={sendId} />
      </section>
      <section className={styles.right} aria-label="The message">
        <Chosen group={group} chosenId={sendId} lists={lists} onDecide={decide} />
      </section>
    </div>
  )
}
