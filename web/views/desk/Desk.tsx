import { useMediaQuery } from '@mantine/hooks'
import { Button } from '@mantine/core'
import { lazy, Suspense, useEffect, useRef, type KeyboardEvent } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { DeskGroup } from '#core/api/deskGroups.ts'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import { useAsk } from '../../app/queries.ts'
import { More } from '../../parts/More.tsx'
import { SendDetail } from '../../parts/SendRows.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { useChosen, type Chosen as ChosenOnes } from '../../parts/useChosen.ts'
import { ToWhom } from '../../parts/ToWhom.tsx'
import { When } from '../../parts/When.tsx'
import { Decide } from './Decide.tsx'
import { House } from './House.tsx'
import styles from './Desk.module.css'
import { DecideList, MessageList, Newcomers, TaskList } from './DeskList.tsx'
import { NothingWaits } from './NothingWaits.tsx'
import { TroubleList } from './TroubleList.tsx'
import { minutesFor, rememberDecision } from './pace.ts'
import { useDecisions, type Decision, type Decisions } from './useDecisions.ts'
import { DueEnquiries, useDueEnquiries } from '../pipeline/DueEnquiries.tsx'
import { CameInList } from '../cameIn/CameInList.tsx'
import { useCameIn, useDeskLists, useWaitingBeyond, type OpenGroup } from './useDeskLists.ts'
import { useSteadyOrder } from './useSteadyOrder.ts'

const CameIn = lazy(() => import('../cameIn/CameIn.tsx'))
const ToDo = lazy(() => import('./ToDo.tsx'))
const Trouble = lazy(() => import('./Trouble.tsx'))

const groups: readonly { readonly key: DeskGroup; readonly word: string }[] = [
  { key: 'decide', word: 'Decide' },
  { key: 'trouble', word: 'Trouble' },
  { key: 'to-do', word: 'To do' },
  { key: 'went-out', word: 'Went out' },
  { key: 'still-today', word: 'Still today' },
]

const emptyWords: Readonly<Record<DeskGroup, { title: string; words: string }>> = {
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
    <div className={styles.pending} aria-live="polite" data-keeps-focus>
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
function useDeciding(list: readonly { readonly id: string }[], group: DeskGroup, decisions: Decisions) {
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

function Detail({ send, group }: { send: SendLine; group: DeskGroup }) {
  return (
    <article className={styles.detail} aria-label={`${send.letterName} to ${send.clientName}`}>
      <Link className={styles.back} to={`/desk/${group}`}>
        ← back to the list
      </Link>
      <h2>
        {send.letterName} <ToWhom send={send} />
      </h2>
      <p className={table.quiet}>
        {send.serviceName} · <When at={send.shownAt} /> · <StateMark state={send.state} />
      </p>
      <SendDetail id={send.id} />
    </article>
  )
}

interface ChosenProps {
  readonly list: OpenGroup
  readonly chosenId: string | undefined
  /** One that waits, and stands beyond what was fetched. */
  readonly beyond: DecideLine | undefined
  readonly isOpen: (item: { readonly id: string }) => boolean
  readonly onDecide: (decision: Decision) => void
}

function Chosen({ list, chosenId, beyond, isOpen, onDecide }: ChosenProps) {
  const of = <Item extends { readonly id: string }>(items: readonly Item[]) =>
    items.find(({ id }) => id === chosenId)
  const empty = <EmptyState title={list.items.length === 0 ? '' : 'Choose one on the left.'} />
  switch (list.group) {
    case 'decide': {
      const send = of(list.items) ?? beyond
      return send ? <Decide send={send} isOpen={isOpen} onDecide={onDecide} /> : empty
    }
    case 'to-do': {
      const task = of(list.items)
      return task ? <ToDo key={task.id} task={task} onDecide={onDecide} /> : empty
    }
    case 'trouble': {
      const send = of(list.items)
      return send ? <Trouble key={send.id} send={send} onDecide={onDecide} /> : empty
    }
    case 'went-out':
    case 'still-today': {
      const send = of(list.items)
      return send ? <Detail key={send.id} send={send} group={list.group} /> : empty
    }
  }
}

interface ItemsProps {
  readonly list: OpenGroup
  readonly hereId: string | undefined
  readonly chosen: ChosenOnes
}

function Items({ list, hereId, chosen }: ItemsProps) {
  switch (list.group) {
    case 'decide':
      return <DecideList items={list.items} hereId={hereId} />
    case 'to-do':
      return <TaskList items={list.items} hereId={hereId} />
    case 'trouble':
      return <TroubleList items={list.items} hereId={hereId} chosen={chosen} />
    default:
      return <MessageList items={list.items} hereId={hereId} group={list.group} />
  }
}

function GroupList({ list, hereId, chosen, hasOthers }: ItemsProps & { readonly hasOthers: boolean }) {
  const { problem, lines, again } = list.parts
  if (problem) return <ErrorState problem={problem} onAgain={again} />
  if (!lines) return <Waiting />
  if (list.items.length === 0 && !list.parts.hasMore) {
    if (hasOthers) return null
    const { title, words } = emptyWords[list.group]
    return (
      <EmptyState title={title}>
        <p>{words}</p>
      </EmptyState>
    )
  }
  return (
    <>
      <Items list={list} hereId={hereId} chosen={chosen} />
      <More of={list.parts} />
    </>
  )
}

/** What came in, enquiries that are due, and the entries of the group itself. */
function Lists({ cameIn, ...items }: ItemsProps & { readonly cameIn: ReturnType<typeof useCameIn> }) {
  const { group } = items.list
  const due = useDueEnquiries(group === 'to-do')
  return (
    <>
      <CameInList cameIn={cameIn} group={group} hereId={items.hereId} />
      <DueEnquiries lines={due} />
      <GroupList {...items} hasOthers={cameIn.items.length + due.length > 0} />
    </>
  )
}

/** When so few are left of what was fetched, the next part is: deciding does not run out of entries. */
const fewLeft = 10

/** The open group in an order that does not jump under the hand. */
function useOpenGroup(group: DeskGroup | null, isOpen: (item: { readonly id: string }) => boolean) {
  const list = useDeskLists(group, isOpen)
  const waiting = useSteadyOrder(list?.group === 'decide' ? list.items : [], 'decide')
  const { hasMore = false, isFetching = true, more } = list?.parts ?? {}
  const isShort = list !== null && list.items.length < fewLeft
  useEffect(() => {
    if (isShort && hasMore && !isFetching) more?.()
  }, [isShort, hasMore, isFetching, more])
  return { list: list?.group === 'decide' ? { ...list, items: waiting.items } : list, waiting }
}

/** How many entries a group has, those just decided not counted. */
const leftIn = (counts: DeskCounts, key: DeskGroup, list: OpenGroup | null) => {
  const decided = list?.group === key ? (list.parts.lines?.length ?? 0) - list.items.length : 0
  return Math.max(0, counts[key] - decided)
}

/** The mail that came in which an entry is; null: it is something else. */
const mailIdOf = (id: string | undefined) => (id?.startsWith('im_') ? id : null)

type DeskCounts = Readonly<Record<DeskGroup, number>>

/** Groups in which something needs a person. */
const needing: readonly DeskGroup[] = ['decide', 'trouble', 'to-do']

/** Where somebody begins who says nothing: where a person is needed most. */
const usualGroup = (counts: DeskCounts) => groups.find(({ key }) => counts[key] > 0)?.key ?? 'decide'

const isNobodyNeeded = (counts: DeskCounts, list: OpenGroup) =>
  needing.every((key) => leftIn(counts, key, list) === 0)

/** Escape leaves a field; the keys of the Desk count again. A list that is open is closed by it first. */
function leaveField(event: KeyboardEvent<HTMLElement>) {
  const field = event.target
  if (event.key !== 'Escape' || !(field instanceof HTMLElement)) return
  // An editor leaves itself; what else has taken the key for itself keeps the focus.
  if (event.defaultPrevented && document.activeElement === field) return
  const isField = field.matches('input, textarea, select, [contenteditable="true"]')
  if (!isField || field.getAttribute('aria-expanded') === 'true') return
  field.blur()
  field.closest('article')?.querySelector<HTMLElement>('h2[tabindex]')?.focus({ preventScroll: true })
}

/** What needs a person now, and what went out today: list left, the whole message right. */
export default function Desk() {
  const { group: asked, sendId } = useParams<{ group: string; sendId: string }>()
  const desk = useAsk('desk')
  const decisions = useDecisions()
  const isOpen = ({ id }: { readonly id: string }) => !decisions.pending.some(({ ids }) => ids.includes(id))
  const counts = desk.data?.counts
  const group = groups.find(({ key }) => key === asked)?.key ?? (counts ? usualGroup(counts) : null)
  const { list, waiting } = useOpenGroup(group, isOpen)
  const cameIn = useCameIn(group)
  const beyond = useWaitingBeyond(list, mailIdOf(sendId) === null ? sendId : undefined)
  const isWide = useMediaQuery('(min-width: 761px)', true, { getInitialValueInEffect: false })
  const chosen = useChosen()
  const decide = useDeciding(list?.items ?? [], group ?? 'decide', decisions)
  if (desk.error) return <ErrorState problem={desk.error} onAgain={() => void desk.refetch()} />
  if (!desk.data || !counts || !list) return <Waiting />
  const isChosen =
    beyond !== undefined || mailIdOf(sendId) !== null || list.items.some(({ id }) => id === sendId)
  // Beside the list there is room for the first one at once; on a narrow screen the list comes first.
  const hereId = sendId ?? (isWide ? (cameIn.items[0] ?? list.items[0])?.id : undefined)
  const mailId = mailIdOf(hereId)
  const needsNobody = list.items.length === 0 && mailId === null && isNobodyNeeded(counts, list)
  return (
    <div
      className={styles.desk}
      data-chosen={isChosen}
      data-screen={`/desk/${list.group}`}
      onKeyDown={leaveField}
    >
      <section className={styles.lists} aria-label="Desk">
        <h1 className={styles.title}>Desk</h1>
        <nav className={styles.groups} aria-label="Groups">
          {groups.map(({ key, word }) => (
            <Link key={key} to={`/desk/${key}`} aria-current={key === list.group ? 'page' : undefined}>
              {word} {leftIn(counts, key, list)}
            </Link>
          ))}
        </nav>
        {list.group === 'decide' && <Left count={leftIn(counts, 'decide', list)} />}
        {list.group === 'decide' && <Newcomers count={waiting.newcomers} onOrder={waiting.orderAnew} />}
        <JustDecided decisions={decisions} />
        <House troubles={desk.data.house} />
        <Lists list={list} hereId={hereId} chosen={chosen} cameIn={cameIn} />
        {needsNobody && !isWide && <NothingWaits desk={desk.data} />}
      </section>
      <section className={styles.right} aria-label="The message">
        {needsNobody && isWide ? (
          <NothingWaits desk={desk.data} />
        ) : (
          <Suspense fallback={<Waiting />}>
            {mailId === null ? (
              <Chosen list={list} chosenId={hereId} beyond={beyond} isOpen={isOpen} onDecide={decide} />
            ) : (
              <CameIn key={mailId} id={mailId} group={list.group} onDone={cameIn.next(list.group, mailId)} />
            )}
          </Suspense>
        )}
      </section>
    </div>
  )
}
