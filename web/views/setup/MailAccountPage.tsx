import { Button } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import table from '../../parts/timetable.module.css'
import { FindMailAccount } from './FindMailAccount.tsx'
import { MailAccountFields } from './MailAccountFields.tsx'
import { MainAllowance } from './AllowanceFields.tsx'
import { FurtherAccounts } from './FurtherAccounts.tsx'
import { draftOf, readMailDraft, type MailDraft } from './mailDraft.ts'
import { DomainRecords } from './DomainRecords.tsx'
import { PublicAddress } from './PublicAddress.tsx'
import styles from './setup.module.css'
import { TakeAway } from './TakeAway.tsx'
import { TriedSteps } from './TriedSteps.tsx'
import { wayWords } from './wayWords.ts'

const heldBackWords =
  'Messages are real from now on, so sending is held back. Look at what is planned, then switch it on at the top.'

/** The form of the account: typed, tried, used. */
function useMailAccount(ways: WaysOut) {
  const [draft, setDraft] = useState(() => draftOf(ways))
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({})
  const [said, setSaid] = useState('')
  const attempt = useTell('tryMailAccount')
  const use = useTell('setMailAccount', ({ isHeldBack }) => {
    setDraft({ ...draft, password: '' })
    setSaid(isHeldBack ? heldBackWords : 'Messages go out through this account from now on.')
  })
  const asked = (act: (account: Parameters<typeof use.mutate>[0]['body']['account']) => void) => {
    setSaid('')
    const read = readMailDraft(draft, ways)
    if ('errors' in read) setErrors(read.errors)
    else act(read.account)
  }
  const onError = (problem: Parameters<typeof fieldErrors>[0]) => setErrors(fieldErrors(problem, 'account'))
  return {
    draft,
    errors,
    said,
    attempt,
    use,
    set: (part: Partial<MailDraft>) => {
      setDraft({ ...draft, ...part })
      setErrors({})
      attempt.reset()
    },
    tryIt: () => asked((account) => attempt.mutate({ body: { account } }, { onError })),
    applyIt: () => asked((account) => use.mutate({ body: { account } }, { onError })),
  }
}

/** Back to the post office that came with it. */
function ToPostOffice() {
  const remove = useTell('removeMailAccount')
  return (
    <TakeAway isPending={remove.isPending} error={remove.error} onTake={() => remove.mutate({ body: {} })}>
      Its password is forgotten, and messages go to the built-in post office: clients get none of them.
    </TakeAway>
  )
}

function Account({ ways }: { ways: WaysOut }) {
  const { draft, errors, said, attempt, use, set, tryIt, applyIt } = useMailAccount(ways)
  return (
    <section className={table.sheet} aria-label="The mail account">
      <h2 className={table.group}>The mail account</h2>
      <form
        className={styles.form}
        noValidate
        onSubmit={(event) => {
          event.preventDefault()
          applyIt()
        }}
      >
        <p>{wayWords(ways)}</p>
        <FindMailAccount onFound={(found) => set(found)} />
        <MailAccountFields kept={ways} draft={draft} errors={errors} set={set} />
        <TriedSteps steps={attempt.data?.steps ?? null} isTrying={attempt.isPending} to={ways.ownAddress} />
        <Problem of={attempt.error ?? use.error} />
        {said !== '' && <p role="status">{said}</p>}
        <div className={table.acts}>
          <Button variant="default" loading={attempt.isPending} onClick={tryIt}>
            Try it
          </Button>
          <Button type="submit" loading={use.isPending}>
            Use this account
          </Button>
        </div>
        {ways.way === 'set' && ways.further.length === 0 && <ToPostOffice />}
      </form>
    </section>
  )
}

/** The account messages go out through, to be changed where that can be done here. */
export function AccountOrWhyNot({ ways }: { ways: WaysOut }) {
  const { session } = useBusiness()
  if (!session.isDemo && ways.way !== 'given') return <Account ways={ways} />
  return (
    <section className={table.sheet} aria-label="The mail account">
      <h2 className={table.group}>The mail account</h2>
      <div className={styles.form}>
        <p>{wayWords(ways)}</p>
        <p>
          {session.isDemo
            ? 'The demo works with its made-up mailboxes only.'
            : 'Start Vorfreude without it to set an account up here.'}
        </p>
      </div>
    </section>
  )
}

/** Where messages go out, and where their links lead: the owner's to say. */
export default function MailAccountPage() {
  const { isOwner } = useBusiness()
  const ways = useAsk('waysOut', {}, { enabled: isOwner })
  if (!isOwner) {
    return (
      <EmptyState title="Only the owner sees to how messages go out.">
        <p>
          <Link to="/set-up">To Set-up</Link>
        </p>
      </EmptyState>
    )
  }
  if (ways.error) return <ErrorState problem={ways.error} onAgain={() => void ways.refetch()} />
  if (!ways.data) return <Waiting />
  return (
    <SetUpPage title="How messages go out">
      {ways.data.obstacle !== null && <p className={styles.fault}>{ways.data.obstacle}</p>}
      <AccountOrWhyNot ways={ways.data} />
      {ways.data.way !== 'post office' && <MainAllowance allowance={ways.data.allowance} />}
      <FurtherAccounts ways={ways.data} />
      <PublicAddress ways={ways.data} />
      <DomainRecords further={ways.data.further} />
    </SetUpPage>
  )
}
