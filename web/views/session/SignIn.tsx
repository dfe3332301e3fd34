import { Button, PasswordInput, TextInput } from '@mantine/core'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { SessionView } from '#core/api/views.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import styles from './session.module.css'

function DemoPeople({ session }: { session: SessionView }) {
  const client = useQueryClient()
  const signIn = useTell('signInToDemo', (answer) => client.setQueryData(['session', {}], answer))
  return (
    <>
      <p>
        This is the demo: its people, clients and mailboxes are made up, and its clock stands until you move
        it.
      </p>
      <div className={styles.people}>
        {session.people.map((person) => (
          <Button
            key={person.id}
            variant="default"
            size="md"
            justify="start"
            loading={signIn.isPending && signIn.variables.body.personId === person.id}
            onClick={() => signIn.mutate({ body: { personId: person.id } })}
          >
            Come in as {person.name}
          </Button>
        ))}
      </div>
      <Problem of={signIn.error} />
    </>
  )
}

function PasswordForm() {
  const client = useQueryClient()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useTell('signIn', (answer) => client.setQueryData(['session', {}], answer))
  return (
    <form
      className={styles.form}
      onSubmit={(event) => {
        event.preventDefault()
        signIn.mutate({ body: { email, password } })
      }}
    >
      <TextInput
        label="E-mail address"
        type="email"
        autoComplete="username"
        required
        value={email}
        onChange={(event) => setEmail(event.currentTarget.value)}
      />
      <PasswordInput
        label="Password"
        autoComplete="current-password"
        required
        value={password}
        onChange={(event) => setPassword(event.currentTarget.value)}
      />
      <Problem of={signIn.error} />
      <Button type="submit" loading={signIn.isPending}>
        Sign in
      </Button>
    </form>
  )
}

export default function SignIn({ session }: { session: SessionView }) {
  return (
    <main className={styles.page}>
      <h1>{session.businessName ?? 'Vorfreude'}</h1>
      {session.isDemo ? <DemoPeople session={session} /> : <PasswordForm />}
    </main>
  )
}
