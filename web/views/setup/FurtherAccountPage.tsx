import { Button, Checkbox, Group, MultiSelect, TextInput } from '@mantine/core'
import { Link, useNavigate, useParams } from 'react-router'
import type { FurtherAccountInput } from '#core/model/furtherAccount.ts'
import { messagePurpose } from '#core/model/furtherAccount.ts'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { AllowanceFields } from './AllowanceFields.tsx'
import { FindMailAccount } from './FindMailAccount.tsx'
import { draftOfFurther, readFurtherDraft, type Further, type FurtherDraft } from './furtherDraft.ts'
import { MailAccountFields } from './MailAccountFields.tsx'
import styles from './setup.module.css'
import { TakeAway } from './TakeAway.tsx'
import { TriedSteps } from './TriedSteps.tsx'
import { useAccountForm } from './useAccountForm.ts'

type Person = SettingsView['people'][number]

interface FieldsProps {
  readonly draft: FurtherDraft
  readonly errors: Readonly<Record<string, string>>
  readonly people: readonly Person[]
  readonly set: (part: Partial<FurtherDraft>) => void
}

/** What goes through it. */
function Carries({ draft, errors, people, set }: FieldsProps) {
  return (
    <>
      <Checkbox.Group
        label="Messages of these purposes"
        description="of the steps in your sequences"
        value={[...draft.purposes]}
        error={errors['purposes']}
        onChange={(purposes) => set({ purposes: messagePurpose.array().parse(purposes) })}
      >
        <Group gap="md" mt="xs">
          {messagePurpose.options.map((one) => (
            <Checkbox key={one} value={one} label={one} />
          ))}
        </Group>
      </Checkbox.Group>
      <MultiSelect
        searchable
        label="What these people sign"
        description="where a step says that who is in charge signs; this counts before the purpose"
        data={people
          .filter(({ isActive, id }) => isActive || draft.personIds.includes(id))
          .map(({ id, name }) => ({ value: id, label: name }))}
        value={[...draft.personIds]}
        error={errors['personIds']}
        onChange={(personIds) => set({ personIds })}
      />
      <Checkbox
        label="While the main account takes none, carry its messages, too"
        checked={draft.stepsIn}
        error={errors['stepsIn']}
        onChange={(event) => set({ stepsIn: event.currentTarget.checked })}
      />
      <Checkbox
        label="While this one takes none, let the main account carry its messages; else they wait"
        checked={draft.fallsBack}
        onChange={(event) => set({ fallsBack: event.currentTarget.checked })}
      />
    </>
  )
}

/** The form of one: typed, tried, used. */
function useFurtherAccount(present: Further | null, onDone: () => void) {
  const attempt = useTell('tryMailAccount')
  const add = useTell('addFurtherAccount', onDone)
  const change = useTell('changeFurtherAccount', onDone)
  const form = useAccountForm<FurtherDraft, FurtherAccountInput>({
    first: () => draftOfFurther(present),
    read: (draft) => {
      const read = readFurtherDraft(draft, present)
      return 'errors' in read ? read : { input: read.account }
    },
    part: 'account',
    told: [attempt, add, change],
    onTry: ({ account, senderAddress }, refused) =>
      attempt.mutate({ body: { account, senderAddress } }, refused),
    onKeep: (account, refused) => {
      if (present === null) add.mutate({ body: { account } }, refused)
      else {
        const { id, revision } = present
        change.mutate({ parameters: { id }, body: { revision, account } }, refused)
      }
    },
  })
  return { ...form, attempt, isKeeping: add.isPending || change.isPending }
}

/** What goes through it goes through the main account. */
function ToMain({ id, onDone }: { id: string; onDone: () => void }) {
  const remove = useTell('removeFurtherAccount', onDone)
  const take = () => remove.mutate({ parameters: { id }, body: {} })
  return (
    <TakeAway isPending={remove.isPending} error={remove.error} onTake={take}>
      Its password is forgotten, and what would go through it goes through the main account.
    </TakeAway>
  )
}

interface EditorProps {
  readonly present: Further | null
  readonly people: readonly Person[]
  readonly ownAddress: string
}

function Editor({ present, people, ownAddress }: EditorProps) {
  const navigate = useNavigate()
  const back = () => void navigate('/set-up/mail')
  const { draft, errors, attempt, problem, isKeeping, set, tryIt, keep } = useFurtherAccount(present, back)
  const kept = { account: present?.account ?? null, hasPassword: present?.hasPassword ?? false }
  return (
    <section className={table.sheet} aria-label="The account">
      <SheetForm style={{ maxWidth: '54rem' }} onSubmit={keep}>
        <TextInput
          label="What you call it"
          placeholder="Newsletter"
          value={draft.name}
          error={errors['name']}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        <h2 className={table.group}>What goes through it</h2>
        <Carries draft={draft} errors={errors} people={people} set={set} />
        <h2 className={table.group}>How it is reached</h2>
        <FindMailAccount onFound={(found) => set({ mail: { ...draft.mail, ...found } })} />
        <MailAccountFields
          kept={kept}
          draft={draft.mail}
          errors={errors}
          set={(part) => set({ mail: { ...draft.mail, ...part } })}
        />
        <TextInput
          label="Its messages come from (e-mail address)"
          description="left empty: from the same address as all others"
          value={draft.senderAddress}
          error={errors['senderAddress']}
          onChange={(event) => set({ senderAddress: event.currentTarget.value })}
        />
        <h2 className={table.group}>How much it takes</h2>
        <AllowanceFields
          draft={draft.allowance}
          errorOf={(part) => errors[`allowance.${part}`]}
          set={(allowance) => set({ allowance })}
        />
        <TriedSteps steps={attempt.data?.steps ?? null} isTrying={attempt.isPending} to={ownAddress} />
        <Problem of={problem} />
        <div className={table.acts}>
          <Button variant="default" loading={attempt.isPending} onClick={tryIt}>
            Try it
          </Button>
          <Button type="submit" loading={isKeeping}>
            {present === null ? 'Use this account' : 'Keep the changes'}
          </Button>
        </div>
        {present && <ToMain id={present.id} onDone={back} />}
      </SheetForm>
    </section>
  )
}

/** A mail account beside the main one: the owner's to set up. */
export default function FurtherAccountPage() {
  const { id = 'new' } = useParams()
  const { isOwner } = useBusiness()
  const ways = useAsk('waysOut', {}, { enabled: isOwner })
  const settings = useAsk('settings')
  if (!isOwner) return <EmptyState title="Only the owner sees to how messages go out." />
  if (ways.error) return <ErrorState problem={ways.error} onAgain={() => void ways.refetch()} />
  if (!ways.data || !settings.data) return <Waiting />
  const present = ways.data.further.find((one) => one.id === id) ?? null
  const isGone = id !== 'new' && present === null
  const toMain = <Link to="/set-up/mail">How messages go out</Link>
  if (isGone)
    return (
      <EmptyState title="This account is not there any more.">
        <p>{toMain}</p>
      </EmptyState>
    )
  if (ways.data.way === 'post office') {
    return (
      <EmptyState title="Set the main mail account up first.">
        <p>{toMain}</p>
      </EmptyState>
    )
  }
  return (
    <SetUpPage title={present?.name ?? 'Another mail account'}>
      <p>{toMain}</p>
      {present?.trouble && <p className={styles.fault}>{present.trouble}</p>}
      <Editor
        key={present?.revision ?? 0}
        present={present}
        people={settings.data.people}
        ownAddress={ways.data.ownAddress}
      />
    </SetUpPage>
  )
}
