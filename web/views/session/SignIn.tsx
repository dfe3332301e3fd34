import { Button, PasswordInput, TextInput } from '@mantine/core'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { SessionView } from '#core/api/views.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
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

/** Sends a link for a new password, whether or not somebody has this address. */
function Forgotten({ email, onBack }: { email: string; onBack: () => void }) {
  const [address, setAddress] = useState(email)
  const ask = useTell('forgotten')
  return (
    <form
      className={styles.form}
      onSubmit={(event) => {
        event.preventDefault()
        ask.mutate({ body: { email: address } })
      }}
    >
      <TextInput
        label="E-mail address"
        description="A link for a new password goes there."
        type="email"
        autoComplete="username"
        required
        value={address}
        onChange={(event) => setAddress(event.currentTarget.value)}
      />
      <Problem of={ask.error} />
      {ask.isSuccess && (
        <p role="status">
          If somebody of the team has this address, a link is on its way; it is good for an hour. Nothing
          came? An owner can give you a link in Set-up, under your name.
        </p>
      )}
      <Button type="submit" loading={ask.isPending}>
        Send the link
      </Button>
      <Button variant="subtle" onClick={onBack}>
        Back to signing in
      </Button>
    </form>
  )
}

function PasswordForm() {
  const client = useQueryClient()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const [isForgotten, setForgotten] = useState(false)
  const signIn = useTell('signIn', (answer) => client.setQueryData(['session', {}], answer))
  const codeError = signIn.error ? fieldErrors(signIn.error)['code'] : undefined
  const [isCodeAsked, setCodeAsked] = useState(false)
  if (isForgotten) return <Forgotten email={email} onBack={() => setForgotten(false)} />
  return (
    <form
      className={styles.form}
      onSubmit={(event) => {
        event.preventDefault()
        signIn.mutate(
          { body: { email, password, ...(isCodeAsked ? { code } : {}) } },
          { onError: (problem) => setCodeAsked(fieldErrors(problem)['code'] !== undefined) },
        )
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
      {isCodeAsked && (
        <TextInput
          label="Code"
          description="Of your authenticator, or one of your recovery words."
          autoComplete="one-time-code"
          autoFocus
          value={code}
          // What was asked for first is no fault yet.
          error={code === '' ? undefined : codeError}
          onChange={(event) => setCode(event.currentTarget.value)}
        />
      )}
      <Problem of={signIn.error} />
      <Button type="submit" loading={signIn.isPending}>
        Sign in
      </Button>
      <Button variant="subtle" onClick={() => setForgotten(true)}>
        I have forgotten my password
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
