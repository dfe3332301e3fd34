import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { CallLine } from '#core/api/callEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useParts, useTell } from '../../app/queries.ts'
import { looking } from '../../app/theme.ts'
import { More } from '../../parts/More.tsx'
import { PresentPassword } from '../../parts/PresentPassword.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { Copied } from '../../parts/Copied.tsx'
import styles from './Programs.module.css'

const outcomeWords: Readonly<Record<CallLine['outcome'], string>> = {
  accepted: '✓ received',
  refused: '✕ refused',
  later: '↻ not yet, tried again',
  'in doubt': '? in doubt',
}

/** What can still be done about a call. */
function Next({ call }: { call: CallLine }) {
  const again = useTell('callAgain')
  const { sendId, state, isLast, url } = call
  if (!isLast) return null
  if (state === 'sent') {
    return (
      <>
        <Button
          size="compact-sm"
          variant="default"
          loading={again.isPending}
          aria-label={`Again: ${url}`}
          onClick={() => again.mutate({ parameters: { id: sendId }, body: {} })}
        >
          Again
        </Button>
        <Problem of={again.error} />
      </>
    )
  }
  if (state === 'failed') return <Link to={`/desk/trouble/${sendId}`}>In Trouble</Link>
  return <span className={table.quiet}>{state}</span>
}

function Call({ call }: { call: CallLine }) {
  const { at, clientId, clientName, sequenceName, url, outcome, answer, tookMs, personName } = call
  return (
    <li className={styles.call}>
      <span className={table.time}>
        <When at={at} />
      </span>
      <span>
        {url}
        <br />
        <span className={table.quiet}>
          <Link to={`/client/${clientId}`}>{clientName}</Link> · {sequenceName}
          {personName !== null && ` · once more by ${personName}`}
        </span>
      </span>
      <span>
        {outcomeWords[outcome]}
        <br />
        <span className={table.quiet}>
          {answer} · {tookMs} ms
        </span>
      </span>
      <span>
        <Next call={call} />
      </span>
    </li>
  )
}

/** What calls are signed with, for who checks that; the owner's. */
function Secret() {
  const { session } = useBusiness()
  const [isAsking, setAsking] = useState(false)
  const [present, setPresent] = useState('')
  const [secret, setSecret] = useState<string | null>(null)
  const ask = useTell('callSecret', (answer) => {
    setSecret(answer.secret)
    setAsking(false)
    setPresent('')
  })
  if (secret !== null) {
    return (
      <Copied label="What calls are signed with" text={secret}>
        <Button {...looking} size="compact-sm" variant="default" onClick={() => setSecret(null)}>
          Hide it
        </Button>
      </Copied>
    )
  }
  if (!isAsking) {
    return (
      <p>
        <Button {...looking} size="compact-md" variant="default" onClick={() => setAsking(true)}>
          Show what calls are signed with…
        </Button>
      </p>
    )
  }
  return (
    <SheetForm style={{ maxWidth: '36rem', padding: 0 }} onSubmit={() => ask.mutate({ body: { present } })}>
      {!session.isDemo && <PresentPassword value={present} problem={ask.error} onChange={setPresent} />}
      <Problem of={ask.error} />
      <div className={table.acts}>
        <Button
          {...looking}
          type="submit"
          loading={ask.isPending}
          disabled={present === '' && !session.isDemo}
        >
          Show it
        </Button>
        <Button {...looking} variant="default" onClick={() => setAsking(false)}>
          Cancel
        </Button>
      </div>
    </SheetForm>
  )
}

function List() {
  const calls = useParts('webCalls', { query: {} })
  if (calls.problem) return <ErrorState problem={calls.problem} onAgain={calls.again} />
  if (!calls.lines) return <Waiting />
  if (calls.lines.length === 0) {
    return (
      <EmptyState title="No web address was called yet.">
        <p>A step of a sequence can call one; each call stands here for 90 days, with its answer.</p>
      </EmptyState>
    )
  }
  return (
    <>
      <ul className={styles.rows} aria-label="Calls, the newest first">
        {calls.lines.map((call) => (
          <Call key={call.id} call={call} />
        ))}
      </ul>
      <More of={calls} />
    </>
  )
}

/** The calls of sequences to web addresses, and how who is called knows them. */
export function WebCalls() {
  const { isOwner } = useBusiness()
  return (
    <section className={table.sheet} aria-label="Calls to web addresses">
      <h2 className={table.group}>Calls to web addresses</h2>
      <div className={styles.body}>
        <p>
          Each carries ids alone and the header <code>Vorfreude-Signature: sha256=…</code>, the HMAC-SHA256 of
          its body (RFC 2104). What is not received is tried again, later each time; the id stays the same.
        </p>
        {isOwner && <Secret />}
      </div>
      <List />
    </section>
  )
}
