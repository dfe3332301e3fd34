import {
  Button,
  Checkbox,
  Fieldset,
  NumberInput,
  PasswordInput,
  Select,
  TextInput,
  type TextInputProps,
} from '@mantine/core'
import { schemaResolver, useForm } from '@mantine/form'
import { useQueryClient } from '@tanstack/react-query'
import { firstRunInput, type FirstRunInput } from '#core/api/endpoints.ts'
import { realZones } from '#core/time/realZones.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import styles from './session.module.css'

const empty: FirstRunInput = {
  word: '',
  businessName: '',
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  senderAddress: '',
  postalAddress: '',
  phone: '',
  personName: '',
  personEmail: '',
  password: '',
  service: { name: '', place: '', durationMinutes: 60, seats: 1 },
  startWithReminders: true,
}

function Word(props: TextInputProps) {
  return (
    <TextInput
      label="Word from the terminal"
      description="It stands where Vorfreude was started: only who started it sets it up."
      autoComplete="off"
      {...props}
    />
  )
}

/** The first page of an empty database: enough to take bookings and send messages. */
export default function FirstRun() {
  const client = useQueryClient()
  const form = useForm<FirstRunInput>({
    initialValues: empty,
    validate: schemaResolver(firstRunInput, { sync: true }),
  })
  const setUp = useTell('firstRun', (answer) => client.setQueryData(['session', {}], answer))
  const submit = form.onSubmit((values) =>
    setUp.mutate({ body: values }, { onError: (problem) => form.setErrors(fieldErrors(problem)) }),
  )
  return (
    <main className={styles.page}>
      <h1>Set up your business</h1>
      <form className={styles.form} onSubmit={submit} noValidate>
        <Word {...form.getInputProps('word')} />
        <Fieldset legend="The business">
          <TextInput label="Name" {...form.getInputProps('businessName')} />
          <Select
            label="Time zone"
            searchable
            data={[...realZones.names()]}
            {...form.getInputProps('zone')}
          />
          <TextInput label="Messages come from (e-mail address)" {...form.getInputProps('senderAddress')} />
          <TextInput label="Postal address" {...form.getInputProps('postalAddress')} />
          <TextInput label="Telephone" {...form.getInputProps('phone')} />
        </Fieldset>
        <Fieldset legend="You">
          <TextInput label="Your name" autoComplete="name" {...form.getInputProps('personName')} />
          <TextInput
            label="Your e-mail address"
            autoComplete="username"
            {...form.getInputProps('personEmail')}
          />
          <PasswordInput label="Password" autoComplete="new-password" {...form.getInputProps('password')} />
        </Fieldset>
        <Fieldset legend="What people can book">
          <TextInput label="Name of the service" {...form.getInputProps('service.name')} />
          <TextInput label="Place" {...form.getInputProps('service.place')} />
          <div className={styles.pair}>
            <NumberInput label="Minutes" min={1} {...form.getInputProps('service.durationMinutes')} />
            <NumberInput label="People at one time" min={1} {...form.getInputProps('service.seats')} />
          </div>
        </Fieldset>
        <Checkbox
          label="Send a confirmation at once and a reminder at 18:00 the day before"
          {...form.getInputProps('startWithReminders', { type: 'checkbox' })}
        />
        <Problem of={setUp.error} />
        <Button type="submit" loading={setUp.isPending}>
          Begin
        </Button>
      </form>
    </main>
  )
}
