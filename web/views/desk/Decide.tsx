import { Button, Textarea } from '@mantine/core'
import { useDebouncedCallback, useHotkeys } from '@mantine/hooks'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { DecideLine, SendLine, SendPreview } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/sendCommands.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { Trace } from '../../parts/Trace.tsx'
import { When } from '../../parts/When.tsx'
import { withPictures } from '../../parts/withPictures.ts'
import styles from './Desk.module.css'

/** How soon after the last key a personal line is kept, in milliseconds. */
const keepAfterMs = 500

/** A line for this copy only; kept by itself. Waits for what was typed last before anything is decided. */
function PersonalLine({ id, initial }: { id: string; initial: string }) {
  const [line, setLine] = useState(initial)
  const write = useTell('writePersonalLine')
  const keep = useDebouncedCallback(
    (words: string) => write.mutate({ parameters: { id }, body: { line: words } }),
    { delay: keepAfterMs, flushOnUnmount: true },
  )
  return (
    <>
      <Textarea
        label="A line for this copy only, after the greeting"
        autosize
        minRows={1}
        maxLength={2000}
        value={line}
        onChange={(event) => {
          setLine(event.currentTarget.value)
          keep(event.currentTarget.value)
        }}
        onBlur={() => keep.flush()}
      />
      <Problem of={write.error} />
    </>
  )
}

function Message({ preview }: { preview: SendPreview }) {
  const { subject, html, text, problem } = preview
  if (problem !== null) return <p className={styles.meaning}>✕ It could not go as it stands: {problem}</p>
  return (
    <>
      <p className={styles.subject}>{subject}</p>
      {html === null ? (
        <pre className={styles.plain}>{text}</pre>
      ) : (
        <iframe
          title="The message as the client will see it"
          className={styles.frame}
          sandbox="allow-same-origin"
          srcDoc={withPictures(html)}
        />
      )}
    </>
  )
}

function Neighbour({ word, send }: { word: string; send: SendLine | null }) {
  return (
    <>
      <dt>{word}</dt>
      <dd>
        {send === null ? (
          <span className={table.quiet}>nothing</span>
        ) : (
          <>
            {send.letterName}{' '}
            <span className={table.quiet}>
              <When at={send.shownAt} />
            </span>
          </>
        )}
      </dd>
    </>
  )
}

function Facts({ send, preview }: { send: DecideLine; preview: SendPreview }) {
  return (
    <dl className={styles.facts}>
      <dt>goes</dt>
      <dd>
        <When at={send.shownAt} />
      </dd>
      <dt>last chance</dt>
      <dd>{send.lastChanceAt === null ? 'any time' : <When at={send.lastChanceAt} />}</dd>
      {preview.bookingStartAt !== null && (
        <>
          <dt>day 0</dt>
          <dd>
            <When at={preview.bookingStartAt} />
          </dd>
        </>
      )}
      <Neighbour word="before it" send={preview.before} />
      <Neighbour word="after it" send={preview.after} />
    </dl>
  )
}

const acts: readonly { readonly decision: SendDecision; readonly key: string; readonly word: string }[] = [
  { decision: 'approve', key: 'A', word: 'Approve' },
  { decision: 'send now', key: 'N', word: 'Send now' },
  { decision: 'skip', key: 'K', word: 'Skip' },
]

interface DecideProps {
  readonly send: DecideLine
  readonly onDecide: (decision: SendDecision) => void
}

/** A message that waits: as the client will see it, with what matters, and the acts by single keys. */
export function Decide({ send, onDecide }: DecideProps) {
  const preview = useAsk(
    'sendPreview',
    { parameters: { id: send.id } },
    { placeholderData: (before) => before },
  )
  const full = useAsk('send', { parameters: { id: send.id } })
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus({ preventScroll: true }), [send.id])
  useHotkeys(acts.map(({ decision, key }) => [key, () => onDecide(decision)]))
  if (!preview.data) return <Waiting />
  return (
    <article className={styles.detail} aria-label={`${send.letterName} to ${send.clientName}`}>
      <Link className={styles.back} to="/desk/decide">
        ← back to the list
      </Link>
      <h2 ref={heading} tabIndex={-1} className={styles.heading}>
        {send.letterName} <span className={table.quiet}>to {send.clientName}</span>
      </h2>
      {send.reason && <p className={styles.changed}>{send.reason.sentence}</p>}
      <Facts send={send} preview={preview.data} />
      <div className={styles.acts}>
        {acts.map(({ decision, key, word }, index) => (
          <Button
            key={decision}
            variant={index === 0 ? 'filled' : 'default'}
            onClick={() => onDecide(decision)}
            aria-keyshortcuts={key}
          >
            {word}&nbsp;<kbd className={styles.key}>{key}</kbd>
          </Button>
        ))}
      </div>
      {preview.data.hasLetter && (
        <PersonalLine key={send.id} id={send.id} initial={preview.data.personalLine} />
      )}
      <Message preview={preview.data} />
      {full.data && (
        <details>
          <summary>Why then?</summary>
          <Trace lines={full.data.send.trace} />
        </details>
      )}
    </article>
  )
}
