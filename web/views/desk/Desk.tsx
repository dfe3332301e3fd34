import { Button } from '@mantine/core'
import { useRef } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { DecideLine, SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/sendCommands.ts'
import type { SendState } from '#core/model/send.ts'
import { useAsk } from '../../app/queries.ts'
import { SendDetail } from '../../parts/SendRows.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { TimeOfDay, When } from '../../parts/When.tsx'
import { Decide } from './Decide.tsx'
import styles from './Desk.module.css'
import { minutesFor, rememberDecision } from './pace.ts'
import { useDecisions, type Decisions } from './useDecisions.ts'

const groups = [
  { key: 'decide', word: 'Decide' },
  { key: 'trouble', word: 'Trouble' },
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
  'went-out': {
    title: 'Nothing has gone out today yet.',
    words: 'What is planned for today stands under Still today; all later days are in Ahead.',
  },
  'still-today': { title: 'Nothing more is planned for today.', words: 'The next days are in Ahead.' },
}

/** What a state in trouble means for the client, and the way out. */
const meanings: Partial<Record<SendState, string>> = {
  blocked: 'The client has heard nothing. Mend what is missing on the client’s page; then it can be sent.',
  failed: 'The client has heard nothing. Check the address, or call. Then send it again or skip it.',
  missed: 'The client has heard nothing. Decide whether it is still of use.',
  'in doubt':
    'The client may or may not have it. Look for the Message-ID in the sent mail of your account, or ask the client; it is never sent again by itself.',
  bounced: 'It came back. The address no longer works.',
  stale: 'It was not approved in time.',
}

function Entry({ send, group, isHere }: { send: SendLine; group: Group; isHere: boolean }) {
  return (
    <li>
      <Link
        className={`${table.row ?? ''} ${styles.entry ?? ''}`}
        to={`/desk/${group}/${send.id}`}
        aria-current={isHere}
      >
        <span>
          <b>{send.clientName}</b>
          <br />
          {send.letterName}
        </span>
        <span className={styles.side}>
          {group === 'trouble' || group === 'decide' ? (
            <When at={send.shownAt} />
          ) : (
            <TimeOfDay at={send.shownAt} />
          )}
          <StateMark state={send.state} />
        </span>
      </Link>
    </li>
  )
}

/** Decisions just made, as long as they can be taken back, and those that could not be done. */
function JustDecided({ decisions }: { decisions: Decisions }) {
  const { pending, problem, takeBack } = decisions
  return (
    <div className={styles.pending} aria-live="polite">
      {problem !== null && <p role="alert">✕ {problem}</p>}
      {pending.map(({ sendId, what }) => (
        <p key={sendId}>
          {what}{' '}
          <Button size="compact-sm" variant="default" onClick={() => takeBack(sendId)}>
            Take back
          </Button>
        </p>
      ))}
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

const doneWords: Partial<Readonly<Record<SendDecision, string>>> = {
  approve: 'Approved',
  'send now': 'Goes now',
  skip: 'Skipped',
}

/** Deciding one after the other: what was decided leaves the list, and the next one stands there. */
function useDeciding(list: readonly DecideLine[], decisions: Decisions) {
  const navigate = useNavigate()
  const since = useRef(performance.now())
  return (send: DecideLine, decision: SendDecision) => {
    const index = list.findIndex(({ id }) => id === send.id)
    const next = list[index + 1] ?? list[index - 1]
    rememberDecision(performance.now() - since.current)
    since.current = performance.now()
    decisions.decide(
      send.id,
      decision,
      `${doneWords[decision] ?? decision}: ${send.letterName} to ${send.clientName}.`,
    )
    void navigate(next ? `/desk/decide/${next.id}` : '/desk/decide', { replace: true })
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
      {group === 'trouble' && <p className={styles.meaning}>{meanings[send.state]}</p>}
      {send.state === 'in doubt' && <MessageId id={send.id} />}
      <SendDetail id={send.id} />
    </article>
  )
}

function MessageId({ id }: { id: string }) {
  const { data } = useAsk('send', { parameters: { id } })
  return data ? (
    <p className={styles.messageId}>
      Message-ID: <code>{data.send.messageId}</code>
    </p>
  ) : null
}

/** What needs a person now, and what went out today: list left, the whole message right. */
export default function Desk() {
  const { group = 'trouble', sendId } = useParams<{ group: Group; sendId: string }>()
  const desk = useAsk('desk')
  const decisions = useDecisions()
  const open = new Set(decisions.pending.map(({ sendId: id }) => id))
  const waiting = (desk.data?.decide ?? []).filter(({ id }) => !open.has(id))
  const decide = useDeciding(waiting, decisions)
  if (desk.error) return <ErrorState problem={desk.error} onAgain={() => void desk.refetch()} />
  if (!desk.data) return <Waiting />
  const lists: Readonly<Record<Group, readonly SendLine[]>> = {
    decide: waiting,
    trouble: desk.data.trouble,
    'went-out': desk.data.wentOut,
    'still-today': desk.data.stillToday,
  }
  const list = group in lists ? lists[group] : lists.trouble
  const chosen = list.find(({ id }) => id === sendId)
  const deciding = group === 'decide' ? waiting.find(({ id }) => id === sendId) : undefined
  return (
    <div className={styles.desk} data-chosen={chosen !== undefined}>
      <section className={styles.lists} aria-label="Desk">
        <h1 className={styles.title}>Desk</h1>
        <nav className={styles.groups} aria-label="Groups">
          {groups.map(({ key, word }) => (
            <Link key={key} to={`/desk/${key}`} aria-current={key === group ? 'page' : undefined}>
              {word} {lists[key].length}
            </Link>
          ))}
        </nav>
        {group === 'decide' && <Left count={waiting.length} />}
        <JustDecided decisions={decisions} />
        {list.length === 0 ? (
          <EmptyState title={emptyWords[group].title}>
            <p>{emptyWords[group].words}</p>
          </EmptyState>
        ) : (
          <ul className={table.list}>
            {list.map((send) => (
              <Entry key={send.id} send={send} group={group} isHere={send.id === sendId} />
            ))}
          </ul>
        )}
      </section>
      <section className={styles.right} aria-label="The message">
        {deciding ? (
          <Decide send={deciding} onDecide={(decision) => decide(deciding, decision)} />
        ) : chosen ? (
          <Detail key={chosen.id} send={chosen} group={group} />
        ) : (
          <EmptyState title={list.length === 0 ? '' : 'Choose a message on the left.'} />
        )}
      </section>
    </div>
  )
}
