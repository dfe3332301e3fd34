import { Button, Textarea } from '@mantine/core'
import { Fragment, lazy, Suspense, useEffect, useRef, useState, type Ref } from 'react'
import { Link } from 'react-router'
import type { DecideLine, SendLine, SendPreview } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import { call } from '../../app/api.ts'
import { createAutosave } from '../../app/autosave.ts'
import { deskKeys } from '../../app/keys.ts'
import { useAsk } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { Trace } from '../../parts/Trace.tsx'
import { TrustWords } from '../../parts/TrustWords.tsx'
import { ToWhom } from '../../parts/ToWhom.tsx'
import { When } from '../../parts/When.tsx'
import { withPictures } from '../../parts/withPictures.ts'
import { approvingTogether, deciding, postponing, stopping } from './acts.ts'
import { Alike } from './Alike.tsx'
import { AlsoMoves } from './AlsoMoves.tsx'
import styles from './Desk.module.css'
import { Later, type OnLater } from './Later.tsx'
import type { Decision } from './useDecisions.ts'
import { KeyedActs } from './KeyedActs.tsx'
import { unsavedWords } from './unsavedWords.ts'
import { useForetold, type Action } from './useForetold.ts'

const OwnWords = lazy(() => import('./OwnWords.tsx'))

interface PersonalLineProps {
  readonly id: string
  readonly preview: SendPreview
  readonly fetchedAt: number
}

/** A line for this copy only; saved by itself. */
const useLine = createAutosave({
  name: 'personal line',
  read: String,
  afterMs: 500,
  canSave: () => true,
  async save(id, line, revision, commandId) {
    const body = { commandId, revision, line }
    return (await call('writePersonalLine', { parameters: { id }, body })).revision
  },
  present: async (id) => ({ revision: (await call('sendPreview', { parameters: { id } })).revision }),
})

function PersonalLine({ id, preview, fetchedAt }: PersonalLineProps) {
  const { personalLine, revision, noted } = preview
  const line = useLine(id, { value: personalLine, revision, fetchedAt })
  return (
    <>
      <Textarea
        label="A line for this copy only, after the greeting"
        autosize
        minRows={1}
        maxLength={2000}
        value={line.value}
        onChange={(event) => line.keep(event.currentTarget.value)}
        onBlur={line.flush}
      />
      {noted.map((note) => (
        <p key={note.id} className={styles.noted}>
          Noted <When at={note.at} />: “{note.sentence}”
        </p>
      ))}
      <Problem of={line.problem} />
      {line.isConflict && (
        <Button size="compact-sm" variant="default" onClick={line.overrule}>
          Save my line all the same
        </Button>
      )}
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
            <span className={table.quiet}>{send.hasTime ? <When at={send.shownAt} /> : 'no time yet'}</span>
          </>
        )}
      </dd>
    </>
  )
}

/** What the client did, in a word; “opened” is told by a picture and so not certain. */
const didWords: Readonly<Record<SendPreview['did'][number]['kind'], string>> = {
  answered: 'answered',
  opened: 'opened (uncertain)',
  'followed a link': 'followed',
  booked: 'booked',
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
      {preview.did.map(({ kind, at }) => (
        <Fragment key={kind}>
          <dt>{didWords[kind]}</dt>
          <dd>
            <When at={at} />
          </dd>
        </Fragment>
      ))}
      <Neighbour word="before it" send={preview.before} />
      <Neighbour word="after it" send={preview.after} />
    </dl>
  )
}

type Panel = 'later' | 'words' | null

interface ActsProps {
  readonly send: DecideLine
  readonly canEdit: boolean
  readonly panel: Panel
  readonly onDecide: (decision: Decision) => void
  readonly onPanel: (panel: Panel) => void
}

const actions: readonly Action[] = ['approve', 'send now', 'skip', 'stop']

/**
 * What can be done, each by a key of its own, and what that does to other messages. Keys count only while nothing is
 * being typed or chosen.
 */
function Acts({ send, canEdit, panel, onDecide, onPanel }: ActsProps) {
  const foretold = useForetold(send, actions)
  const decide = (decision: SendDecision) => () => onDecide(deciding(send, decision, foretold[decision]))
  const acts = [
    { key: deskKeys.approve, word: 'Approve', act: decide('approve') },
    { key: deskKeys.sendNow, word: 'Send now', act: decide('send now') },
    { key: deskKeys.skip, word: 'Skip', act: decide('skip') },
    { key: deskKeys.later, word: 'Later…', act: () => onPanel('later') },
    ...(canEdit
      ? [{ key: deskKeys.edit, word: 'Edit', act: () => onPanel(panel === 'words' ? null : 'words') }]
      : []),
    { key: deskKeys.stop, word: 'Stop', act: () => onDecide(stopping(send, foretold.stop)) },
  ]
  return (
    <>
      {/* While a panel is open its own keys count; the one that opened the words closes them again. */}
      <KeyedActs acts={acts} keys={panel === null ? undefined : panel === 'words' ? [deskKeys.edit] : []} />
      <AlsoMoves
        sendIds={[send.id]}
        actions={[
          ['Approve', foretold.approve],
          ['Send now', foretold['send now']],
          ['Skip', foretold.skip],
          ['Stop', foretold.stop],
        ]}
      />
    </>
  )
}

interface DecideProps {
  readonly send: DecideLine
  /** Whether a message has not just been decided here. */
  readonly isOpen: (send: DecideLine) => boolean
  readonly onDecide: (decision: Decision) => void
}

/** Panels open beside the acts: another moment, or other words. */
function OpenPanel({
  panel,
  send,
  preview,
  onDecide,
  onClose,
}: Pick<DecideProps, 'send' | 'onDecide'> & { panel: Panel; preview: SendPreview; onClose: () => void }) {
  if (panel === 'later') {
    const later: OnLater = (toLocal, words, foretold) => {
      onClose()
      onDecide(postponing(send, toLocal, words, foretold))
    }
    return <Later send={send} onLater={later} onClose={onClose} />
  }
  if (panel === null || preview.words === null || send.letterId === null) return null
  const { id, letterId, clientId, bookingId } = send
  return (
    <Suspense fallback={<Waiting />}>
      <OwnWords {...{ id, letterId, clientId, bookingId, preview, onClose }} words={preview.words} />
    </Suspense>
  )
}

/** Whose message it is, and what is special about it. */
function Head({ ref, send, hasOwnWords }: HeadProps) {
  return (
    <>
      <h2 ref={ref} tabIndex={-1} className={styles.heading}>
        {send.letterName} <ToWhom send={send} />
      </h2>
      {send.reason && <p className={styles.changed}>{send.reason.sentence}</p>}
      {hasOwnWords && <p className={styles.changed}>This copy has words of its own.</p>}
    </>
  )
}

interface HeadProps {
  readonly ref: Ref<HTMLHeadingElement>
  readonly send: DecideLine
  readonly hasOwnWords: boolean
}

/** How far its step has earned to go by itself. */
function Trust({ send }: { send: DecideLine }) {
  const trust = useAsk('trust').data?.steps.find(
    ({ sequenceId, stepId }) => sequenceId === send.sequenceId && stepId === send.stepId,
  )
  return (
    trust?.needsApproval && (
      <p className={styles.trust}>
        <TrustWords of={trust} isShort />
      </p>
    )
  )
}

function WhyThen({ id }: { id: string }) {
  const { data } = useAsk('send', { parameters: { id } })
  return (
    data && (
      <details>
        <summary>Why then?</summary>
        <Trace lines={data.send.trace} />
      </details>
    )
  )
}

/** A message that waits: as the client will see it, with what matters, and the acts by single keys. */
export function Decide({ send, isOpen, onDecide }: DecideProps) {
  const preview = useAsk(
    'sendPreview',
    { parameters: { id: send.id } },
    { placeholderData: (before) => before },
  )
  const [open, setOpen] = useState<{ id: string; panel: Panel }>({ id: send.id, panel: null })
  const panel = open.id === send.id ? open.panel : null
  const setPanel = (next: Panel) => setOpen({ id: send.id, panel: next })
  const heading = useRef<HTMLHeadingElement>(null)
  const isThere = preview.data !== undefined
  useEffect(() => {
    // Whoever is about to take something back stays there.
    if (document.activeElement?.closest('[data-keeps-focus]')) return
    heading.current?.focus({ preventScroll: true })
  }, [send.id, isThere])
  if (!preview.data) return <Waiting />
  const close = () => {
    setPanel(null)
    heading.current?.focus({ preventScroll: true })
  }
  return (
    <article className={styles.detail} aria-label={`${send.letterName} to ${send.clientName}`}>
      <Link className={styles.back} to="/desk/decide">
        ← back to the list
      </Link>
      <Head ref={heading} send={send} hasOwnWords={preview.data.hasOwnWords} />
      <Facts send={send} preview={preview.data} />
      <Trust send={send} />
      <Acts
        send={send}
        canEdit={preview.data.words !== null}
        panel={panel}
        onDecide={onDecide}
        onPanel={(next) => (next === null ? close() : setPanel(next))}
      />
      {panel === null && unsavedWords.has(send.id) && (
        <p className={styles.changed} role="status">
          Words for this copy are typed and not saved: E shows them. Approved now, it goes without them.
        </p>
      )}
      <OpenPanel panel={panel} send={send} preview={preview.data} onDecide={onDecide} onClose={close} />
      {preview.data.hasLetter && !preview.isPlaceholderData && (
        <PersonalLine key={send.id} id={send.id} preview={preview.data} fetchedAt={preview.dataUpdatedAt} />
      )}
      <Message preview={preview.data} />
      {panel === null && (
        <Alike
          key={send.alikeKey}
          send={send}
          isOpen={isOpen}
          onApprove={(sends, foretold) => onDecide(approvingTogether(sends, foretold))}
        />
      )}
      <WhyThen id={send.id} />
    </article>
  )
}
