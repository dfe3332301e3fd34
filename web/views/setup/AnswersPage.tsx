import { Button, Checkbox, Progress } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { WaysBack } from '#core/api/mailboxEndpoints.ts'
import type { ReadingState } from '#core/model/incomingMailbox.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { stateWords } from './mailboxDraft.ts'
import styles from './setup.module.css'

/** How far one is read. */
function State({ state }: { state: ReadingState }) {
  const words = stateWords(state)
  return (
    <div>
      <span className={state.kind === 'fault' ? styles.fault : table.quiet}>
        {state.kind === 'fault' ? '✕ ' : ''}
        {words}
      </span>
      {state.kind === 'noting what is old' && (
        <Progress
          value={(100 * state.noted) / Math.max(1, state.of)}
          aria-label="What lay there before, looked through"
          mt="xs"
        />
      )}
    </div>
  )
}

function LookNow() {
  const [said, setSaid] = useState('')
  const look = useTell('lookForMail', ({ cameIn }) =>
    setSaid(cameIn === 0 ? 'Nothing new.' : cameIn === 1 ? 'One mail came in.' : `${cameIn} mails came in.`),
  )
  return (
    <div className={table.acts}>
      <Button
        variant="default"
        loading={look.isPending}
        onClick={() => {
          setSaid('')
          look.mutate({ body: {} })
        }}
      >
        Look now
      </Button>
      <span role="status">{said}</span>
      <Problem of={look.error} />
    </div>
  )
}

function Mailboxes({ ways, isDemo }: { ways: WaysBack; isDemo: boolean }) {
  const { mailboxes, ownMailbox } = ways
  return (
    <section className={table.sheet} aria-label="Mailboxes that are read">
      <h2 className={table.group}>Mailboxes that are read</h2>
      <div className={styles.form}>
        <p>
          What lies in the mailbox your answers go to is read by IMAP. Nothing in it is changed or deleted,
          and nothing follows from what lay there before: only what comes from now on is taken in.
        </p>
        {mailboxes.length === 0 && ownMailbox === null && (
          <p>No mailbox is read yet: answers of clients stop nothing before somebody says so.</p>
        )}
        <ul className={styles.accounts}>
          {ownMailbox && (
            <li>
              <b>{ownMailbox.name}</b> · in the post office that came with the demo
              <State state={ownMailbox.state} />
            </li>
          )}
          {mailboxes.map(({ id, name, account, folder, state }) => (
            <li key={id}>
              <Link to={`/set-up/answers/${id}`}>{name}</Link> · {account.user} · {folder}
              <State state={state} />
            </li>
          ))}
        </ul>
        {!isDemo && (
          <p>
            <Link to="/set-up/answers/new">
              {mailboxes.length === 0 ? 'Read a mailbox' : 'Another mailbox'}
            </Link>
          </p>
        )}
        {(mailboxes.length > 0 || ownMailbox !== null) && <LookNow />}
      </div>
    </section>
  )
}

function Mark({ isMarked }: { isMarked: boolean }) {
  const set = useTell('setMarkedAnswers')
  return (
    <section className={table.sheet} aria-label="A mark for answers" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>A mark for answers</h2>
      <div className={styles.form}>
        <p>
          Some mail programs answer without saying which message they answer. Where your mail server delivers
          what goes to <i>office+anything@place.example</i> to <i>office@place.example</i>, each message can
          ask for answers to an address with its own mark. Try it first: write to your own address with{' '}
          <i>+try</i> before the @ and see whether it arrives.
        </p>
        <Checkbox
          label="Put a mark of the message into the address that answers go to"
          checked={isMarked}
          disabled={set.isPending}
          onChange={(event) => set.mutate({ body: { isOn: event.currentTarget.checked } })}
        />
        <Problem of={set.error} />
      </div>
    </section>
  )
}

function Noticed({ noticing }: { noticing: WaysBack['noticing'] }) {
  const set = useTell('setNoticing')
  const choose = (part: Partial<WaysBack['noticing']>) =>
    set.mutate({ body: { noticing: { ...noticing, ...part } } })
  return (
    <section className={table.sheet} aria-label="What is noticed" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>What is noticed</h2>
      <div className={styles.form}>
        <p>
          It holds for messages that go from now on, and can be switched off for a letter and for a client;
          clients can do that themselves, where they choose what they get. Programs that look at mail
          beforehand are told apart as well as one can.
        </p>
        <Checkbox
          label="Links that are followed"
          description="They lead through your own web address to where the letter leads, and nowhere else."
          checked={noticing.links}
          disabled={set.isPending}
          onChange={(event) => choose({ links: event.currentTarget.checked })}
        />
        <Checkbox
          label="Messages that are opened"
          description="By a picture nobody sees. It is uncertain: many mail programs load no pictures, others load all of them."
          checked={noticing.opens}
          disabled={set.isPending}
          onChange={(event) => choose({ opens: event.currentTarget.checked })}
        />
        <Problem of={set.error} />
      </div>
    </section>
  )
}

/** What comes back: the owner's to set up. */
export default function AnswersPage() {
  const { isOwner, session } = useBusiness()
  const ways = useAsk('waysBack', {}, { enabled: isOwner })
  if (!isOwner) {
    return (
      <EmptyState title="Only the owner sees to how answers come in.">
        <Link to="/set-up">To Set-up</Link>
      </EmptyState>
    )
  }
  if (ways.error) return <ErrorState problem={ways.error} onAgain={() => void ways.refetch()} />
  if (!ways.data) return <Waiting />
  const { listensAt, isMarked, noticing } = ways.data
  return (
    <SetUpPage title="What comes back">
      <Mailboxes ways={ways.data} isDemo={session.isDemo} />
      <section className={table.sheet} aria-label="Handed over" style={{ marginTop: '1rem' }}>
        <h2 className={table.group}>Handed over</h2>
        <div className={styles.form}>
          <p>
            {listensAt === null
              ? 'No mail server hands anything over here. Where yours can forward by SMTP to this machine, start Vorfreude with VORFREUDE_INCOMING_PORT.'
              : `What a mail server hands over by SMTP is taken at port ${listensAt} of this machine.`}{' '}
            What comes by both ways counts once.
          </p>
        </div>
      </section>
      <Mark isMarked={isMarked} />
      <Noticed noticing={noticing} />
    </SetUpPage>
  )
}
