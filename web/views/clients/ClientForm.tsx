import { Autocomplete, Button, Checkbox, Fieldset, Radio, Select, TagsInput, TextInput } from '@mantine/core'
import { useForm, type UseFormReturnType } from '@mantine/form'
import { useDebouncedValue } from '@mantine/hooks'
import type { Client } from '#core/model/client.ts'
import { useDateLabels } from '../../app/dateLabels.ts'
import { useTell } from '../../app/queries.ts'
import { Consequences } from '../../parts/Consequences.tsx'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { ZoneSelect } from '../../parts/ZoneSelect.tsx'
import { useConsidered } from '../../parts/useConsidered.ts'
import { draftOf, emptyContact, readClientDraft, type ClientDraft } from './clientDraft.ts'
import styles from './ClientForm.module.css'

type Form = UseFormReturnType<ClientDraft>

function Contacts({ form }: { form: Form }) {
  const { contacts } = form.values
  const makePrimary = (chosen: number) =>
    form.setFieldValue(
      'contacts',
      contacts.map((contact, index) => ({ ...contact, isPrimary: index === chosen })),
    )
  return contacts.map((_, index) => (
    <Fieldset key={index} legend={contacts.length === 1 ? 'Contact' : `Contact ${index + 1}`}>
      <div className={styles.pair}>
        <TextInput label="First name" {...form.getInputProps(`contacts.${index}.firstName`)} />
        <TextInput label="Last name" {...form.getInputProps(`contacts.${index}.lastName`)} />
      </div>
      <TextInput
        label="E-mail address"
        inputMode="email"
        {...form.getInputProps(`contacts.${index}.email`)}
      />
      <TextInput label="Telephone" {...form.getInputProps(`contacts.${index}.phone`)} />
      {contacts.length > 1 && (
        <div className={styles.between}>
          <Radio
            name="primary"
            label="Messages go to this contact"
            checked={contacts[index]?.isPrimary ?? false}
            onChange={() => makePrimary(index)}
          />
          <Button
            size="compact-sm"
            variant="subtle"
            disabled={contacts[index]?.isPrimary ?? false}
            onClick={() => form.removeListItem('contacts', index)}
          >
            Remove
          </Button>
        </div>
      )}
    </Fieldset>
  ))
}

function NamedDates({ form }: { form: Form }) {
  const labels = useDateLabels()
  return (
    <>
      {form.values.namedDates.map((_, index) => (
        <div key={index} className={styles.date}>
          <Autocomplete
            label="Yearly date"
            placeholder="birthday"
            data={[...labels]}
            {...form.getInputProps(`namedDates.${index}.label`)}
          />
          <TextInput
            label="Day"
            placeholder="29 February 1992, or 29.2."
            {...form.getInputProps(`namedDates.${index}.day`)}
          />
          <Button size="compact-sm" variant="subtle" onClick={() => form.removeListItem('namedDates', index)}>
            Remove
          </Button>
        </div>
      ))}
    </>
  )
}

/** Further contacts and yearly dates. */
function More({ form }: { form: Form }) {
  return (
    <div className={table.acts}>
      <Button
        size="compact-sm"
        variant="default"
        onClick={() => form.insertListItem('contacts', emptyContact)}
      >
        Add a contact
      </Button>
      <Button
        size="compact-sm"
        variant="default"
        onClick={() =>
          form.insertListItem('namedDates', {
            label: form.values.namedDates.length === 0 ? 'birthday' : '',
            day: '',
          })
        }
      >
        Add a yearly date
      </Button>
    </div>
  )
}

function Fields({ form }: { form: Form }) {
  return (
    <>
      <TextInput
        label="Name of the client"
        description="Left empty: first and last name of the contact"
        {...form.getInputProps('name')}
      />
      <Contacts form={form} />
      <NamedDates form={form} />
      <More form={form} />
      <div className={styles.pair}>
        <ZoneSelect label="Time zone" {...form.getInputProps('zone')} />
        <Select
          label="Language"
          allowDeselect={false}
          data={[
            { value: 'en', label: 'English' },
            { value: 'de', label: 'German' },
          ]}
          {...form.getInputProps('language')}
        />
      </div>
      <TagsInput label="Tags" placeholder="type a tag, then Enter" {...form.getInputProps('tags')} />
      <Checkbox
        label="Takes promotional mail"
        {...form.getInputProps('takesPromotional', { type: 'checkbox' })}
      />
      <Checkbox
        label="Active: inactive clients get no messages"
        {...form.getInputProps('isActive', { type: 'checkbox' })}
      />
    </>
  )
}

interface ClientFormProps {
  /** Null: a new client. */
  readonly client: Client | null
  /** With the id once it is saved, with null when it is left. */
  readonly onClose: (id: string | null) => void
}

/** Adds a client or changes one. */
export function ClientForm({ client, onClose }: ClientFormProps) {
  const form = useForm<ClientDraft>({ initialValues: draftOf(client) })
  const add = useTell('addClient', ({ id }) => onClose(id))
  const change = useTell('changeClient', ({ id }) => onClose(id))
  const [values] = useDebouncedValue(form.values, 200)
  const typed = client === null ? null : readClientDraft(values)
  const body = typed && client && 'input' in typed ? { revision: client.revision, client: typed.input } : null
  const considered = useConsidered('changeClient', body && { parameters: { id: client?.id ?? '' }, body })
  const submit = form.onSubmit((draft) => {
    const read = readClientDraft(draft)
    if ('errors' in read) {
      form.setErrors(read.errors)
      return
    }
    const onError = (problem: Parameters<typeof fieldErrors>[0]) => {
      form.setErrors(fieldErrors(problem, 'client'))
      if (problem.details.code === 'changed meanwhile') considered.again()
    }
    if (client === null) add.mutate({ body: { client: read.input } }, { onError })
    else {
      const isSeen = considered.isCurrent && JSON.stringify(body?.client) === JSON.stringify(read.input)
      const told = { client: read.input, revision: client.revision, ...(isSeen ? considered.seen : {}) }
      change.mutate({ parameters: { id: client.id }, body: told }, { onError })
    }
  })
  return (
    <form className={table.form} onSubmit={submit} noValidate>
      <h2>{client === null ? 'Add a client' : 'Change the client'}</h2>
      <Fields form={form} />
      {considered.lines !== null && form.isDirty() && <Consequences considered={considered} />}
      <Problem of={add.error ?? change.error} />
      <div className={table.acts}>
        <Button type="submit" loading={add.isPending || change.isPending}>
          {client === null ? 'Add the client' : 'Save'}
        </Button>
        <Button variant="default" onClick={() => onClose(null)}>
          Cancel
        </Button>
      </div>
    </form>
  )
}
