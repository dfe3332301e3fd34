import { UnstyledButton } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { SendLine } from '#core/api/views.ts'
import { useAsk } from '../app/queries.ts'
import { SendDecisions } from './SendDecisions.tsx'
import styles from './SendRows.module.css'
import { StateMark } from './StateMark.tsx'
import table from './timetable.module.css'
import { Trace } from './Trace.tsx'
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

function Chips({ send }: { send: SendLine }) {
  const words = [...new Set(send.movedBy.map(({ rule }) => moveWords[rule] ?? rule))]
  return words.map((word) => (
    <span key={word} className={styles.chip}>
      {word}
    </span>
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
      {data.text !== null && (
        <details className={styles.words}>
          <summary>The message as it went: {data.subject}</summary>
          <pre>{data.text}</pre>
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

function SendRow({ send, isDayKnown, isClientKnown }: { send: SendLine } & Omit<SendRowsProps, 'sends'>) {
  const [isOpen, setOpen] = useState(false)
  return (
    <li>
      <UnstyledButton
        className={table.row}
        style={{ '--columns': `${isDayKnown ? '4rem' : '11rem'} minmax(0, 1fr) auto auto` }}
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
      >
        <span className={table.time}>
          {isDayKnown ? <TimeOfDay at={send.shownAt} /> : <When at={send.shownAt} />}
        </span>
        <span>
          {send.letterName}
          {!isClientKnown && <span className={table.quiet}> to {send.clientName}</span>} <Chips send={send} />
        </span>
        <StateMark state={send.state} />
        <span className={styles.why}>{isOpen ? 'close' : 'why then?'}</span>
      </UnstyledButton>
      {isOpen && (
        <div className={table.detail} style={{ '--indent': isDayKnown ? '4.9rem' : '11.9rem' }}>
          <SendDetail id={send.id} />
        </div>
      )}
    </li>
  )
}

/** Messages as a timetable; each opens to its reasons. */
export function SendRows({ sends, ...known }: SendRowsProps) {
  return (
    <ul className={table.list}>
      {sends.map((send) => (
        <SendRow key={send.id} send={send} {...known} />
      ))}
    </ul>
  )
}
