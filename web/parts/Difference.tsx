import { Button, Progress, TextInput } from '@mantine/core'
import { looking } from '../app/theme.ts'
import { useState } from 'react'
import { Link } from 'react-router'
import type { RolloutLine, RolloutView } from '#core/api/sequenceEndpoints.ts'
import { changeWords } from './changeWords.ts'
import { Further, Recipient } from './Consequences.tsx'
import styles from './Difference.module.css'
import table from './timetable.module.css'
import type { Difference } from './useDifference.ts'
import { When } from './When.tsx'

const shownAtFirst = 60
/** Up to so many are found by looking. */
const fewLines = 12

function Line({ line }: { line: RolloutLine }) {
  const { kind, clientId, clientName, letterName, beforeAt, afterAt, awaits, further, waits, reason } = line
  return (
    <li className={styles.changeLine}>
      <span className={styles.kind}>{changeWords[kind]}</span>
      <span>
        <b>{letterName}</b> <Link to={`/client/${clientId}`}>{clientName}</Link>{' '}
        <Recipient line={line.recipientName === clientName ? { ...line, recipientName: '' } : line} />
        {waits && <span className={styles.waits}> ◐ waits for you</span>}
        {kind === 'dropped' && reason !== null && <span className={table.quiet}> {reason}</span>}
      </span>
      <span className={table.quiet}>
        {beforeAt !== null && kind !== 'again' && kind !== 'changed text' && (
          <s>
            <When at={beforeAt} />
          </s>
        )}{' '}
        {afterAt !== null && <When at={afterAt} />}
        {awaits !== null && `no time yet. ${awaits}`}
        <Further moments={further} />
      </span>
    </li>
  )
}

function Lines({ result }: { result: RolloutView }) {
  const [search, setSearch] = useState('')
  const [most, setMost] = useState(shownAtFirst)
  const wanted = search.trim().toLowerCase()
  const found = result.lines.filter(({ clientName, letterName, kind }) =>
    `${clientName} ${letterName} ${changeWords[kind]}`.toLowerCase().includes(wanted),
  )
  return (
    <>
      {result.lines.length > fewLines && (
        <TextInput
          label="Find a client or a letter among them"
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
      )}
      <ul className={styles.changeLines} aria-label="Message by message">
        {found.slice(0, most).map((line) => (
          <Line key={`${line.kind}${line.name}${line.clientId}`} line={line} />
        ))}
      </ul>
      {found.length > most && (
        <Button {...looking} variant="default" onClick={() => setMost(most + 200)}>
          {found.length - most} more…
        </Button>
      )}
      {result.isCut && (
        <p className={styles.note}>Only the first {result.lines.length} are listed; all are counted.</p>
      )}
    </>
  )
}

function Counts({ result }: { result: RolloutView }) {
  const { counts, clients, lookedAt } = result
  if (counts.length === 0) {
    return (
      <p>
        No message that is planned now is added, moved, reworded or dropped
        {lookedAt > 0 && `; ${lookedAt} ${lookedAt === 1 ? 'client was' : 'clients were'} looked at`}.
      </p>
    )
  }
  return (
    <>
      <p>
        For {clients} {clients === 1 ? 'client' : 'clients'}:
      </p>
      <ul className={styles.totals}>
        {counts.map(({ kind, action, count, further }) => (
          <li key={`${kind}${action}`}>
            <b>{count}</b> {changeWords[kind]}: {action}
            {further > 0 && `, and up to ${further} more by its repeats`}
          </li>
        ))}
      </ul>
    </>
  )
}

/** What came of working something out for everybody, or how far that is. */
export function Outcome({ difference }: { difference: Difference }) {
  const { done, total, result, problem } = difference
  if (problem !== null) {
    return (
      <p role="alert" className={styles.surprise}>
        ✕ {problem}
      </p>
    )
  }
  if (!result) {
    return (
      <div role="status" aria-label="Working it out">
        <p>
          Working it out: {done} of {total === 0 ? '…' : total} clients
        </p>
        <Progress value={total === 0 ? 5 : (100 * done) / total} aria-label="How far it is" />
      </div>
    )
  }
  return (
    <>
      <Counts result={result} />
      {result.lines.length > 0 && <Lines result={result} />}
    </>
  )
}
