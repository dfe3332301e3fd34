import { Button, TextInput } from '@mantine/core'
import { Link, useNavigate, useParams } from 'react-router'
import type { IncomingMailboxInput } from '#core/model/incomingMailbox.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { FindMailAccount } from './FindMailAccount.tsx'
import { MailAccountFields } from './MailAccountFields.tsx'
import {
  draftOfMailbox,
  readMailboxDraft,
  stateWords,
  type Mailbox,
  type MailboxDraft,
} from './mailboxDraft.ts'
import styles from './setup.module.css'
import { TakeAway } from './TakeAway.tsx'
import { TriedSteps } from './TriedSteps.tsx'
import { useAccountForm } from './useAccountForm.ts'

/** The form of a mailbox: typed, tried, read from then on. */
function useMailbox(present: Mailbox | null, onDone: () => void) {
  const attempt = useTell('tryIncomingMailbox')
  const add = useTell('addIncomingMailbox', onDone)
  const change = useTell('changeIncomingMailbox', onDone)
  const form = useAccountForm<MailboxDraft, IncomingMailboxInput>({
    first: () => draftOfMailbox(present),
    read: (draft) => {
      const read = readMailboxDraft(draft, present)
      return 'errors' in read ? read : { input: read.mailbox }
    },
    part: 'mailbox',
    told: [attempt, add, change],
    onTry: (mailbox, refused) => attempt.mutate({ body: { mailbox } }, refused),
    onKeep: (mailbox, refused) => {
      if (present === null) add.mutate({ body: { mailbox } }, refused)
      else {
        const { id, revision } = present
        change.mutate({ parameters: { id }, body: { revision, mailbox } }, refused)
      }
    },
  })
  return { ...form, attempt, isKeeping: add.isPending || change.isPending }
}

function ReadNoMore({ id, onDone }: { id: string; onDone: () => void }) {
  const remove = useTell('removeIncomingMailbox', onDone)
  const take = () => remove.mutate({ parameters: { id }, body: {} })
  return (
    <TakeAway what="mailbox" isPending={remove.isPending} error={remove.error} onTake={take}>
      It is read no more and its password is forgotten. What came in stays here, and everything in the mailbox
      stays there.
    </TakeAway>
  )
}

function Editor({ present }: { present: Mailbox | null }) {
  const navigate = useNavigate()
  const back = () => void navigate('/set-up/answers')
  const { draft, errors, attempt, problem, isKeeping, set, tryIt, keep } = useMailbox(present, back)
  const kept = { account: present?.account ?? null, hasPassword: present?.hasPassword ?? false }
  return (
    <section className={table.sheet} aria-label="The mailbox">
      <SheetForm style={{ maxWidth: '54rem' }} onSubmit={keep}>
        <TextInput
          label="What you call it"
          placeholder="Front desk"
          value={draft.name}
          error={errors['name']}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        <FindMailAccount use="reading" onFound={(found) => set({ mail: { ...draft.mail, ...found } })} />
        <MailAccountFields
          use="reading"
          kept={kept}
          draft={draft.mail}
          errors={errors}
          set={(part) => set({ mail: { ...draft.mail, ...part } })}
        />
        <TextInput
          label="Folder"
          description="what comes in lies in INBOX, more often than not"
          value={draft.folder}
          error={errors['folder']}
          onChange={(event) => set({ folder: event.currentTarget.value })}
        />
        <TriedSteps steps={attempt.data?.steps ?? null} isTrying={attempt.isPending} to={null} />
        <Problem of={problem} />
        <div className={table.acts}>
          <Button variant="default" loading={attempt.isPending} onClick={tryIt}>
            Try it
          </Button>
          <Button type="submit" loading={isKeeping}>
            {present === null ? 'Read this mailbox' : 'Keep the changes'}
          </Button>
        </div>
        {present && <ReadNoMore id={present.id} onDone={back} />}
      </SheetForm>
    </section>
  )
}

/** A mailbox that is read: the owner's to set up. */
export default function IncomingMailboxPage() {
  const { id = 'new' } = useParams()
  const { isOwner, session } = useBusiness()
  const ways = useAsk('waysBack', {}, { enabled: isOwner })
  if (!isOwner) return <EmptyState title="Only the owner sees to how answers come in." />
  if (ways.error) return <ErrorState problem={ways.error} onAgain={() => void ways.refetch()} />
  if (!ways.data) return <Waiting />
  const present = ways.data.mailboxes.find((one) => one.id === id) ?? null
  const toAll = <Link to="/set-up/answers">What comes back</Link>
  if (id !== 'new' && present === null) {
    return (
      <EmptyState title="This mailbox is not read any more.">
        <p>{toAll}</p>
      </EmptyState>
    )
  }
  if (session.isDemo) {
    return (
      <EmptyState title="The demo reads the mailbox of its own post office, and no other.">
        <p>{toAll}</p>
      </EmptyState>
    )
  }
  return (
    <SetUpPage title={present?.name ?? 'A mailbox that is read'}>
      <p>{toAll}</p>
      {present?.state.kind === 'fault' && <p className={styles.fault}>{stateWords(present.state)}</p>}
      <Editor key={present?.revision ?? 0} present={present} />
    </SetUpPage>
  )
}
