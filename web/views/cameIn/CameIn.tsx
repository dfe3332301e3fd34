import { Button, Select } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { IncomingView } from '#core/api/incomingEndpoints.ts'
import { deskKeys } from '../../app/keys.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { WriteNote } from '../../parts/WriteNote.tsx'
import desk from '../desk/Desk.module.css'
import { AddressBlocked } from './AddressBlocked.tsx'
import styles from './CameIn.module.css'
import { kindWords, matchWords, titleOf } from './cameInWords.ts'
import { MarkedWords } from './MarkedWords.tsx'
import { ProposalOf } from './Proposal.tsx'
import { WhoseIsIt } from './WhoseIsIt.tsx'
import { WriteAnswer, WrittenAnswers } from './WriteAnswer.tsx'

/** Where it came from, whose it is, and what it is about. */
function Head({ mail }: { mail: IncomingView }) {
  const { from, at, match, clientName, send, what } = mail
  return (
    <>
      <p className={table.quiet}>
        {kindWords[what.kind]} from {from.name === '' ? from.address : `${from.name}, ${from.address}`} ·{' '}
        <When at={at} />
        {mail.doneAt !== null && (
          <>
            {' '}
            · ✓ done <When at={mail.doneAt} />
          </>
        )}
      </p>
      <p>
        {match.clientId !== null && (
          <>
            <Link to={`/client/${match.clientId}`}>{clientName}</Link>,{' '}
          </>
        )}
        {matchWords[match.by]}
        {match.isOtherAddress && '; the client’s addresses are others'}
        {send && (
          <>
            {': '}
            {send.letterName}, <When at={send.shownAt} />
          </>
        )}
        .
      </p>
      {what.kind === 'unclear' && what.why !== '' && <p className={desk.changed}>{what.why}</p>}
    </>
  )
}

/** The whole mail, quoted parts and files included. */
function Whole({ mail }: { mail: IncomingView }) {
  return (
    <details>
      <summary>The whole mail</summary>
      {mail.hasHtml && (
        <iframe
          className={desk.frame}
          title={`The mail as it looks: ${mail.subject}`}
          sandbox=""
          src={`/api/incoming/${mail.id}/html`}
        />
      )}
      <pre className={styles.whole}>{mail.text}</pre>
      {mail.files.length > 0 && (
        <ul>
          {mail.files.map(({ name, bytes }, index) => (
            <li key={`${index}-${name}`}>
              <a href={`/api/incoming/${mail.id}/files/${index}`} download>
                {name}
              </a>{' '}
              ({Math.ceil(bytes / 1024)} kB)
            </li>
          ))}
        </ul>
      )}
      <p>
        <a href={`/api/incoming/${mail.id}/mail.eml`} download>
          Save as a file (.eml)
        </a>
      </p>
    </details>
  )
}

/** Whoever is to see to it. */
function HandOn({ mail }: { mail: IncomingView }) {
  const { data } = useAsk('settings')
  const hand = useTell('handIncomingOn')
  const people = (data?.people ?? []).filter(({ isActive }) => isActive)
  return (
    <>
      <Select
        label="Who sees to it"
        maw="16rem"
        data={[
          { value: '', label: 'whoever comes first' },
          ...people.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        value={mail.personId ?? ''}
        allowDeselect={false}
        onChange={(personId) =>
          hand.mutate({
            parameters: { id: mail.id },
            body: { revision: mail.revision, personId: personId || null },
          })
        }
      />
      <Problem of={hand.error} />
    </>
  )
}

/** What was not taken for an answer, and is one. */
function CountsAfterAll({ mail }: { mail: IncomingView }) {
  const [isAsked, setAsked] = useState(false)
  const isAnswer = mail.what.kind === 'answer' && !mail.match.isFromTeam
  if (isAnswer || mail.match.clientId === null || mail.what.kind === 'delivery report') return null
  if (!isAsked) {
    return (
      <Button variant="default" onClick={() => setAsked(true)}>
        It is an answer…
      </Button>
    )
  }
  return (
    <ConsideredAct
      name="countAsAnswer"
      asked={{ parameters: { id: mail.id }, body: { revision: mail.revision } }}
      word="Count it as an answer"
      onClose={() => setAsked(false)}
    />
  )
}

interface ActsProps {
  readonly mail: IncomingView
  readonly onDone: () => void
  readonly onAnswer: () => void
}

const programs: readonly string[] = ['automatic reply', 'delivery report', 'complaint', 'invitation reply']

function Acts({ mail, onDone, onAnswer }: ActsProps) {
  const isDone = mail.doneAt !== null
  const finish = useTell('finishIncoming', isDone ? undefined : onDone)
  const act = () => {
    if (mail.place === null || finish.isPending) return
    finish.mutate({ parameters: { id: mail.id }, body: { revision: mail.revision, isDone: !isDone } })
  }
  const canAnswer = mail.from.address !== '' && !programs.includes(mail.what.kind)
  useHotkeys([
    [deskKeys.taskDone, act],
    [deskKeys.answer, () => canAnswer && onAnswer()],
  ])
  return (
    <>
      <div className={desk.acts}>
        {canAnswer && (
          <Button onClick={onAnswer} aria-keyshortcuts={deskKeys.answer}>
            Answer&nbsp;<kbd className={desk.key}>{deskKeys.answer}</kbd>
          </Button>
        )}
        {mail.place !== null && (
          <Button
            variant="default"
            loading={finish.isPending}
            onClick={act}
            aria-keyshortcuts={deskKeys.taskDone}
          >
            {isDone ? 'Take up again' : 'Done'}&nbsp;<kbd className={desk.key}>{deskKeys.taskDone}</kbd>
          </Button>
        )}
        <CountsAfterAll mail={mail} />
      </div>
      <Problem of={finish.error} />
    </>
  )
}

function Opened({ mail, onDone }: { mail: IncomingView; onDone: () => void }) {
  const [isAnswering, setAnswering] = useState(false)
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    heading.current?.focus({ preventScroll: true })
  }, [])
  const { match, followed } = mail
  return (
    <>
      <h2 ref={heading} tabIndex={-1} className={desk.heading}>
        {titleOf(mail)}
      </h2>
      <Head mail={mail} />
      {mail.ownWords !== '' && <MarkedWords text={mail.ownWords} marks={mail.read?.marks ?? []} />}
      <ul className={styles.followed}>
        {followed.map((sentence) => (
          <li key={sentence}>→ {sentence}</li>
        ))}
      </ul>
      {match.clientId === null && mail.doneAt === null && <WhoseIsIt mail={mail} />}
      <AddressBlocked mail={mail} />
      {mail.doneAt === null && <ProposalOf mail={mail} onDone={onDone} />}
      {isAnswering ? (
        <WriteAnswer mail={mail} onDone={onDone} onClose={() => setAnswering(false)} />
      ) : (
        <Acts mail={mail} onDone={onDone} onAnswer={() => setAnswering(true)} />
      )}
      <WrittenAnswers answers={mail.answers} />
      <Whole mail={mail} />
      <details>
        <summary>Note, or hand on</summary>
        {match.clientId !== null && (
          <WriteNote on="writeNote" id={match.clientId} clientId={match.clientId} />
        )}
        <HandOn mail={mail} />
      </details>
    </>
  )
}

interface CameInProps {
  readonly id: string
  readonly group: string
  readonly onDone: () => void
}

/** A mail that came in: what they wrote, what followed, what it seems to want, and the ways to answer. */
export default function CameIn({ id, group, onDone }: CameInProps) {
  const { data, error, refetch } = useAsk('incoming', { parameters: { id } })
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  return (
    <article className={desk.detail} aria-label={`Mail from ${data.from.address}`}>
      <Link className={desk.back} to={`/desk/${group}`}>
        ← back to the list
      </Link>
      <Opened key={id} mail={data} onDone={onDone} />
    </article>
  )
}
