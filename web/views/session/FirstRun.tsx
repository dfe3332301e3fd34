import { Button, NumberInput, PasswordInput, Select, TextInput } from '@mantine/core'
import { schemaResolver, useForm, type UseFormReturnType } from '@mantine/form'
import { useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { firstRunInput, type FirstRunInput } from '#core/api/endpoints.ts'
import { realZones } from '#core/time/realZones.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import styles from './session.module.css'

type Draft = FirstRunInput & { service: NonNullable<FirstRunInput['service']> }
type Form = UseFormReturnType<Draft>

const empty: Draft = {
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
}

function You({ form }: { form: Form }) {
  return (
    <>
      <TextInput
        label="Word from the terminal"
        description="It stands where Vorfreude was started: only who started it sets it up."
        autoComplete="off"
        {...form.getInputProps('word')}
      />
      <TextInput label="Your name" autoComplete="name" {...form.getInputProps('personName')} />
      <TextInput label="Your e-mail address" autoComplete="username" {...form.getInputProps('personEmail')} />
      <PasswordInput label="Password" autoComplete="new-password" {...form.getInputProps('password')} />
    </>
  )
}

function Business({ form }: { form: Form }) {
  return (
    <>
      <TextInput label="Name" {...form.getInputProps('businessName')} />
      <Select label="Time zone" searchable data={[...realZones.names()]} {...form.getInputProps('zone')} />
      <TextInput label="Messages come from (e-mail address)" {...form.getInputProps('senderAddress')} />
      <TextInput label="Postal address" {...form.getInputProps('postalAddress')} />
      <TextInput label="Telephone" {...form.getInputProps('phone')} />
    </>
  )
}

function Service({ form }: { form: Form }) {
  return (
    <>
      <TextInput label="Name of the service" {...form.getInputProps('service.name')} />
      <TextInput label="Place" {...form.getInputProps('service.place')} />
      <div className={styles.pair}>
        <NumberInput label="Minutes" min={1} {...form.getInputProps('service.durationMinutes')} />
        <NumberInput label="People at one time" min={1} {...form.getInputProps('service.seats')} />
      </div>
    </>
  )
}

interface Page {
  readonly title: string
  /** Which fields stand on it: a fault elsewhere is found on another page. */
  readonly fields: readonly (keyof Draft)[]
  readonly Fields: (props: { form: Form }) => ReactNode
}

const pages: readonly Page[] = [
  { title: 'Who you are', fields: ['word', 'personName', 'personEmail', 'password'], Fields: You },
  {
    title: 'The business',
    fields: ['businessName', 'zone', 'senderAddress', 'postalAddress', 'phone'],
    Fields: Business,
  },
  { title: 'What people can book', fields: ['service'], Fields: Service },
]

/** On which page something is wrong first; -1: nowhere. */
const pageAtFault = (faults: Readonly<Record<string, unknown>>) =>
  pages.findIndex(({ fields }) =>
    fields.some((field) => Object.keys(faults).some((path) => path.split('.')[0] === field)),
  )

function useFirstRun() {
  const client = useQueryClient()
  const navigate = useNavigate()
  const [at, setAt] = useState(0)
  const form = useForm<Draft>({
    initialValues: empty,
    validate: schemaResolver(firstRunInput, { sync: true }),
  })
  const setUp = useTell('firstRun', (answer) => {
    client.setQueryData(['session', {}], answer)
    void navigate('/begin/hours')
  })
  const begin = (body: FirstRunInput) =>
    setUp.mutate(
      { body },
      {
        onError: (problem) => {
          const faults = fieldErrors(problem)
          form.setErrors(faults)
          const page = pageAtFault(faults)
          if (page !== -1) setAt(page)
        },
      },
    )
  /** Goes on where what stands on this page and before it is whole. */
  const goOn = () => {
    const { errors } = form.validate()
    const page = pageAtFault(errors)
    const isOver = page === -1 || page > at
    form.setErrors(isOver ? {} : errors)
    if (!isOver) setAt(page)
    else if (at < pages.length - 1) setAt(at + 1)
    else begin(form.values)
  }
  return { form, at, setAt, goOn, setUp, beginWithout: () => begin({ ...form.values, service: null }) }
}

/** The first pages of an empty database: who somebody is, their business, and what can be booked. */
export default function FirstRun() {
  const { form, at, setAt, goOn, setUp, beginWithout } = useFirstRun()
  const page = pages[at]
  const isLast = at === pages.length - 1
  if (!page) return null
  return (
    <main className={styles.page}>
      <h1>Set up your business</h1>
      <p aria-live="polite">
        {at + 1} of {pages.length} · <b>{page.title}</b>
      </p>
      <form
        className={styles.form}
        noValidate
        onSubmit={(event) => {
          event.preventDefault()
          goOn()
        }}
      >
        <page.Fields form={form} />
        <Problem of={setUp.error} />
        <div className={styles.acts}>
          {at > 0 && (
            <Button variant="default" onClick={() => setAt(at - 1)}>
              Back
            </Button>
          )}
          <Button type="submit" loading={setUp.isPending}>
            {isLast ? 'Begin' : 'Next'}
          </Button>
          {isLast && (
            <Button variant="subtle" disabled={setUp.isPending} onClick={beginWithout}>
              Leave it for later
            </Button>
          )}
        </div>
      </form>
    </main>
  )
}
