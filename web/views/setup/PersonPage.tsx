import { Select, Switch, TextInput } from '@mantine/core'
import { useForm, type UseFormReturnType } from '@mantine/form'
import type { SettingsView } from '#core/api/views.ts'
import { personInput } from '#core/engine/commands/peopleSettings.ts'
import { useBusiness } from '../../app/business.ts'
import { AwayFields } from './AwayFields.tsx'
import { Leaving } from './Leaving.tsx'
import { SignatureFields } from './SignatureFields.tsx'
import type { HoursDraft } from './businessDraft.ts'
import { ClosedDates } from './ClosedDates.tsx'
import { HolidaysField, HoursFields } from './HoursFields.tsx'
import { draftOfPerson, readPersonDraft, type PersonDraft } from './personDraft.ts'
import { EditPage } from './EditPage.tsx'
import { WayIn } from './WayIn.tsx'
import { SettingsForm, type Read } from './SettingsForm.tsx'
import styles from './setup.module.css'

type Person = SettingsView['people'][number]
type Form = UseFormReturnType<PersonDraft>

function OwnHours({ form }: { form: Form }) {
  const { hasHours, hours } = form.values
  const put = (part: Partial<HoursDraft>) => form.setFieldValue('hours', { ...hours, ...part })
  const faultOf = (index: number) => {
    const fault = form.errors[`hours.weekly.${index}`]
    return typeof fault === 'string' ? fault : null
  }
  return (
    <>
      <Switch
        label="Can be booked only at hours of their own"
        checked={hasHours}
        onChange={(event) => form.setFieldValue('hasHours', event.currentTarget.checked)}
      />
      {hasHours && (
        <>
          <HoursFields
            legend="Hours"
            hours={hours.weekly}
            onChange={(weekly) => put({ weekly })}
            faultOf={faultOf}
          />
          <HolidaysField value={hours.holidays} onChange={(holidays) => put({ holidays })} />
          <ClosedDates dates={hours.closedDates} onChange={(closedDates) => put({ closedDates })} />
        </>
      )}
    </>
  )
}

interface FieldsProps {
  readonly form: Form
  /** Null: somebody new. */
  readonly person: Person | null
  readonly people: readonly Person[]
}

function Fields({ form, person, people }: FieldsProps) {
  const isNew = person === null
  const others = people.filter(({ id, isActive }) => isActive && id !== person?.id)
  return (
    <div className={styles.form}>
      <TextInput label="Name" {...form.getInputProps('name')} />
      <TextInput
        label="E-mail"
        description="Messages to whoever is in charge go there."
        {...form.getInputProps('email')}
      />
      <Select
        label="Role"
        description={isNew ? 'Somebody new gets in once you have invited them, on their page.' : undefined}
        allowDeselect={false}
        data={[
          { value: 'owner', label: 'owner: may change everything' },
          { value: 'helper', label: 'helper: bookings, clients and messages' },
          { value: 'onlooker', label: 'looks only: sees everything, changes nothing' },
        ]}
        {...form.getInputProps('role')}
      />
      <TextInput
        label="Answers go to"
        description="Left empty: to their own address."
        inputMode="email"
        {...form.getInputProps('replyTo')}
      />
      <SignatureFields form={form} />
      <OwnHours form={form} />
      <AwayFields form={form} others={others} />
    </div>
  )
}

function Editor({ person, people }: { person: Person | null; people: readonly Person[] }) {
  const { isOwner } = useBusiness()
  const form = useForm<PersonDraft>({
    initialValues: draftOfPerson(person && personInput.strip().parse(person)),
  })
  const read = (draft: PersonDraft): Read => {
    const { person: meant, faults } = readPersonDraft(draft)
    if (meant === null) return { change: null, faults }
    const { id = null, revision = 0 } = person ?? {}
    return { change: { of: 'person', id, revision, person: meant }, faults: null }
  }
  return (
    <SettingsForm
      form={form}
      read={read}
      below={(look) =>
        person &&
        isOwner && (
          <>
            {person.isActive && <WayIn person={person} />}
            <Leaving
              person={person}
              people={people}
              onLook={(isActive, handedToId) => look({ ...form.values, isActive, handedToId })}
            />
          </>
        )
      }
    >
      <Fields form={form} person={person} people={people} />
    </SettingsForm>
  )
}

/** Somebody of the team, to be changed; `new`: somebody new. */
export default function PersonPage() {
  return (
    <EditPage what="person" itemsOf={({ people }) => people}>
      {(person, { people }) => <Editor key={person?.id ?? 'new'} person={person} people={people} />}
    </EditPage>
  )
}
