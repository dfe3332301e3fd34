import { Button, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { SendLine, SendView } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import { isTrouble, type TroubleState } from '#core/model/sendState.ts'
import { deskKeys } from '../../app/keys.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SendDetail } from '../../parts/SendRows.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import table from '../../parts/timetable.module.css'
import { ToWhom } from '../../parts/ToWhom.tsx'
import { When } from '../../parts/When.tsx'
import { deciding } from './acts.ts'
import { AlsoMoves } from './AlsoMoves.tsx'
import styles from './Desk.module.css'
import type { Decision } from './useDecisions.ts'
import { KeyedActs } from './KeyedActs.tsx'
import { useForetold, type Action } from './useForetold.ts'

/** What a state in trouble means for the client. */
const meanings: Readonly<Record<TroubleState, string>> = {
  blocked: 'The client has heard nothing: it cannot go as it stands.',
  failed: 'The client has heard nothing: the mail server did not take it.',
  bounced: 'The client has heard nothing: it came back, so this address no longer works.',
  missed: 'The client has heard nothing: its moment passed while nothing could go.',
  stale: 'The client has heard nothing: nobody approved it before its last chance.',
  'in doubt':
    'The client may or may not have it. It is never sent again by itself: look it up in the sent mail, or ask the client.',
}

interface WayProps {
  readonly send: SendLine
  readonly view: SendView
}

/** Another address for the contact, and off it goes. */
function MendAddress({ send }: WayProps) {
  const [address, setAddress] = useState(send.address ?? '')
  const [asked, setAsked] = useState<string | null>(null)
  return (
    <form
      className={styles.way}
      onSubmit={(event) => {
        event.preventDefault()
        setAsked(address)
      }}
    >
      <TextInput
        label="Correct the address"
        type="email"
        autoComplete="off"
        required
        value={address}
        onChange={(event) => {
          setAddress(event.currentTarget.value)
          setAsked(null)
        }}
      />
      {asked === null ? (
        <Button type="submit" variant="default">
          Correct it and send…
        </Button>
      ) : (
        <ConsideredAct
          name="mendAddress"
          asked={{ parameters: { id: send.id }, body: { revision: send.revision, address: asked } }}
          word="Correct it and send"
          onClose={() => setAsked(null)}
        />
      )}
    </form>
  )
}

/** The same client, other words. */
function OtherLetter({ send }: WayProps) {
  const { data } = useAsk('settings')
  const [letterId, setLetterId] = useState<string | null>(null)
  const letters = (data?.letters ?? []).filter(({ id }) => id !== send.letterId)
  return (
    <div className={styles.way}>
      <Select
        label="Send another letter instead"
        placeholder="choose a letter"
        searchable
        nothingFoundMessage="No letter of that name"
        data={letters.map(({ id, name }) => ({ value: id, label: name }))}
        value={letterId}
        onChange={setLetterId}
      />
      {letterId !== null && (
        <ConsideredAct
          name="sendByLetter"
          asked={{ parameters: { id: send.id }, body: { revision: send.revision, letterId } }}
          word="Send that letter"
          onClose={() => setLetterId(null)}
        />
      )}
    </div>
  )
}

/** Looks for a message in the account's sent mail, to tell whether it went. */
function LookUp({ send, view }: WayProps) {
  const [isAsked, setAsked] = useState(false)
  const found = useAsk('sentMail', { parameters: { id: send.id } }, { enabled: isAsked })
  return (
    <div className={styles.way}>
      <p className={styles.messageId}>
        Message-ID: <code>{view.send.messageId}</code>
      </p>
      <Button variant="default" loading={found.isFetching} onClick={() => setAsked(true)}>
        Look it up in the sent mail
      </Button>
      <div role="status">
        {found.data?.isFound === true && found.data.at !== null && (
          <p>
            ✓ It is there, taken <When at={found.data.at} />. So it went.
          </p>
        )}
        {found.data?.isFound === false && <p>– It is not there. So it did not go.</p>}
        {found.data?.isFound === null && (
          <p>The sent mail of this account cannot be looked into from here. Search it for the Message-ID.</p>
        )}
      </div>
      <Problem of={found.error} />
    </div>
  )
}

/** What blocked it, as a way to where that can be put right. */
function Mending({ send }: { send: SendLine }) {
  const code = send.reason?.code
  if (code === 'unread letter' && send.letterId !== null) {
    return <Link to={`/letter/${send.letterId}`}>Publish the letter first</Link>
  }
  if (code === 'no consent') return <Link to={`/client/${send.clientId}`}>Look at what the client takes</Link>
  return <Link to={`/client/${send.clientId}/change`}>Fill in what is missing at the client</Link>
}

const actions: readonly Action[] = ['send now', 'called', 'skip']
const doubtActions: readonly Action[] = ['it went', ...actions]

interface TroubleProps {
  readonly send: SendLine
  readonly onDecide: (decision: Decision) => void
}

function Ways({ send, view, onDecide }: TroubleProps & WayProps) {
  const isInDoubt = send.state === 'in doubt'
  const foretold = useForetold(send, isInDoubt ? doubtActions : actions)
  const sendWords = isInDoubt ? 'It did not go: send it' : 'Send it now'
  const isMail = send.stepKind === 'mail'
  const decide = (decision: SendDecision, word?: string) => () =>
    onDecide(deciding(send, decision, foretold[decision], word))
  const acts = [
    ...(isInDoubt
      ? [
          {
            key: deskKeys.delivered,
            word: 'It was delivered; don’t send again',
            act: decide('it went'),
          },
        ]
      : []),
    ...(isTrouble(send.state) ? [{ key: deskKeys.sendNow, word: sendWords, act: decide('send now') }] : []),
    { key: deskKeys.called, word: 'I called instead', act: decide('called') },
    { key: deskKeys.skip, word: 'Let it go', act: decide('skip', 'Let go') },
  ]
  return (
    <>
      {send.state === 'blocked' && (
        <p>
          <Mending send={send} />
        </p>
      )}
      {isInDoubt && <LookUp send={send} view={view} />}
      {!isInDoubt && view.isToContact && send.reason?.code !== 'no consent' && (
        <MendAddress send={send} view={view} />
      )}
      {!isInDoubt && isMail && <OtherLetter send={send} view={view} />}
      <p>
        {view.phone === '' ? (
          <span className={table.quiet}>No telephone number is known.</span>
        ) : (
          <>
            Or call {view.recipientName}: <a href={`tel:${view.phone.replace(/\s/g, '')}`}>{view.phone}</a>
          </>
        )}
      </p>
      <KeyedActs acts={acts} hasMain={isInDoubt} />
      <AlsoMoves
        sendIds={[send.id]}
        actions={[
          ['It went', foretold['it went']],
          [sendWords, foretold['send now']],
          ['I called instead', foretold.called],
          ['Let it go', foretold.skip],
        ]}
      />
    </>
  )
}

/** When it was meant to go, whether it still makes sense, and what it would have said. */
function Meant({ send }: { send: SendLine }) {
  const { now } = useBusiness()
  const { data } = useAsk('sendPreview', { parameters: { id: send.id } })
  if (!data) return null
  const { meantAt, notAfter, bookingStartAt: day0 } = data
  return (
    <>
      <p>
        {meantAt !== null && (
          <>
            It was due <When at={meantAt} />.{' '}
          </>
        )}
        {notAfter !== null && notAfter < now && (
          <>
            It made sense until <When at={notAfter} />.{' '}
          </>
        )}
        {day0 !== null && (
          <b>
            {day0 < now ? 'Its event was on ' : 'Its event is still ahead: '}
            <When at={day0} />.
          </b>
        )}
      </p>
      {data.problem === null && data.text !== '' && (
        <details>
          <summary>Its words: {data.subject}</summary>
          <pre className={styles.plain}>{data.text}</pre>
        </details>
      )}
    </>
  )
}

/** A message in trouble: what happened, what it means for the client, and the ways out. */
export default function Trouble({ send, onDecide }: TroubleProps) {
  const { data } = useAsk('send', { parameters: { id: send.id } })
  return (
    <article className={styles.detail} aria-label={`${send.letterName} to ${send.clientName}`}>
      <Link className={styles.back} to="/desk/trouble">
        ← back to the list
      </Link>
      <h2 tabIndex={-1} className={styles.heading}>
        {send.letterName} <ToWhom send={send} />
      </h2>
      <p className={table.quiet}>
        {send.serviceName !== null && `${send.serviceName} · `}
        <StateMark state={send.state} /> since <When at={send.stateSince} />
      </p>
      <p className={styles.changed}>{send.reason?.sentence ?? 'It came back.'}</p>
      <p className={styles.meaning}>{isTrouble(send.state) && meanings[send.state]}</p>
      <Meant send={send} />
      {data && <Ways key={send.id} send={send} view={data} onDecide={onDecide} />}
      <details>
        <summary>Everything about it</summary>
        <SendDetail id={send.id} />
      </details>
    </article>
  )
}
