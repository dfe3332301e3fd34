import { UnstyledButton } from '@mantine/core'
import { Fragment, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { SendLine } from '#core/api/views.ts'
import { useAsk } from '../app/queries.ts'
import { History } from './History.tsx'
import { SendDecisions } from './SendDecisions.tsx'
import { Visits } from './Visits.tsx'
import styles from './SendRows.module.css'
import { StateMark } from './StateMark.tsx'
import table from './timetable.module.css'
import { ToWhom } from './ToWhom.tsx'
import { Trace } from './Trace.tsx'
import { useChosen } from './useChosen.ts'
import { TimeOfDay, When } from './When.tsx'

interface SendRowsProps {
  readonly sends: readonly SendLine[]
  /** The date stands above the rows already. */
  readonly isDayKnown?: boolean
  /** The client stands above the rows already. */
  readonly isClientKnown?: boolean
}

const moveWords: Readonly<Record<string, string>> = {
  'sending hours': 'moved by sending hours',
  lead: 'moved ahead of the event',
  lateness: 'moved: was already past',
  person: 'by a person',
}

/** Reasons that stand beside a message that goes all the same. */
const reasonWords: Readonly<Record<string, string>> = {
  'approved words': 'its letter has changed since it was approved',
}

function Chips({ send }: { send: SendLine }) {
  const moved = send.movedBy.map(({ rule }) => moveWords[rule] ?? rule)
  const said = reasonWords[send.reason?.code ?? '']
  const words = [...new Set([...moved, ...(said === undefined ? [] : [said])])]
  return words.map((word, index) => (
    <Fragment key={word}>
      {index > 0 && ' · '}
      <span className={styles.chip}>{word}</span>
    </Fragment>
  ))
}

/** What is known about one message: the trace, the words that went, what can be done. */
export function SendDetail({ id }: { id: string }) {
  const { data } = useAsk('send', { parameters: { id } })
  if (!data) return <div className={styles.loading} />
  return (
    <div className={styles.detail}>
      {data.reason && <p className={styles.reason}>{data.reason.sentence}</p>}
      <Trace lines={data.send.trace} />
      <SendDecisions send={data} />
      {data.history.length > 0 && <History lines={data.history} />}
      <Visits visits={data.visits} />
      {data.text !== null && (
        <details className={styles.words}>
          <summary>The message as it went: {data.subject}</summary>
          <pre>{data.text}</pre>
          {data.isSourceKept && (
            <a href={`/api/sends/${id}/message.eml`} download>
              Save as a file (.eml)
            </a>
          )}
        </details>
      )}
      <p className={styles.facts}>
        Sequence “{data.sequenceName}” · to {data.address ?? 'nobody yet'} ·{' '}
        {data.bookingId !== null && <Link to={`/booking/${data.bookingId}`}>booking</Link>} ·{' '}
        <Link to={`/client/${data.clientId}`}>client</Link>
      </p>
    </div>
  )
}

interface SendRowProps extends Omit<SendRowsProps, 'sends'> {
  readonly send: SendLine
  readonly isOpen: boolean
  readonly onToggle: () => void
  /** More to say about it beside its name. */
  readonly children?: ReactNode
}

/** One message of a timetable, and its reasons where it is open. */
export function SendRow({ send, isDayKnown, isClientKnown, isOpen, onToggle, children }: SendRowProps) {
  return (
    <>
      <UnstyledButton
        className={isDayKnown ? table.row : `${table.row ?? ''} ${table.dated ?? ''}`}
        style={{ '--columns': `${isDayKnown ? '4rem' : '11rem'} minmax(0, 1fr) auto auto` }}
        aria-expanded={isOpen}
        onClick={onToggle}
      >
        <span className={table.time}>
          {!send.hasTime ? (
            'no time yet'
          ) : isDayKnown ? (
            <TimeOfDay at={send.shownAt} />
          ) : (
            <When at={send.shownAt} />
          )}
        </span>
        <span>
          {send.letterName} <ToWhom send={send} isClientKnown={isClientKnown ?? false} />{' '}
          <Chips send={send} />
          {!send.hasTime && send.reason && <span className={table.quiet}>{send.reason.sentence}</span>}
          {children}
        </span>
        <StateMark state={send.state} />
        <span className={styles.why}>{isOpen ? 'close' : 'why then?'}</span>
      </UnstyledButton>
      {isOpen && (
        <div className={table.detail} style={{ '--indent': isDayKnown ? '4.9rem' : '11.9rem' }}>
          <SendDetail id={send.id} />
        </div>
      )}
    </>
  )
}

/** Messages as a timetable; each opens to its reasons. */
export function SendRows({ sends, ...known }: SendRowsProps) {
  const open = useChosen()
  return (
    <ul className={table.list}>
      {sends.map((send) => (
        <li key={send.id}>
          <SendRow send={send} {...known} isOpen={open.has(send.id)} onToggle={() => open.toggle(send.id)} />
        </li>
      ))}
    </ul>
  )
}
