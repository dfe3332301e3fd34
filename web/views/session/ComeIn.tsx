import { Button, PasswordInput } from '@mantine/core'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import type { Answer, Of } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { Waiting } from '../../parts/States.tsx'
import styles from './session.module.css'

type Whose = Answer<Of<'lookAtWayIn'>>

const words = {
  invitation: { title: 'Come in', act: 'Come in' },
  'new password': { title: 'A new password', act: 'Use this password' },
} as const

interface ChooseProps {
  readonly token: string
  readonly whose: Whose
}

function Choose({ token, whose }: ChooseProps) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const [password, setPassword] = useState('')
  const take = useTell('takeWayIn', (answer) => {
    client.setQueryData(['session', {}], answer)
    void navigate('/desk', { replace: true })
  })
  const error = take.error ? fieldErrors(take.error)['password'] : undefined
  const { title, act } = words[whose.purpose]
  return (
    <>
      <h1>
        {title}: {whose.businessName}
      </h1>
      <p>
        {whose.name}, choose the password with which you sign in as <b>{whose.email}</b>.
      </p>
      <form
        className={styles.form}
        onSubmit={(event) => {
          event.preventDefault()
          take.mutate({ body: { token, password } })
        }}
      >
        {/* Kept with the password by what keeps passwords. */}
        <input type="hidden" name="username" autoComplete="username" value={whose.email} />
        <PasswordInput
          label="Password"
          description="At least 10 characters. Several words that have nothing to do with each other are good."
          autoComplete="new-password"
          required
          value={password}
          error={error}
          onChange={(event) => setPassword(event.currentTarget.value)}
        />
        {error === undefined && <Problem of={take.error} />}
        <Button type="submit" loading={take.isPending}>
          {act}
        </Button>
      </form>
    </>
  )
}

/** Behind a link by which somebody of the team chooses a password. */
export default function ComeIn() {
  const { hash } = useLocation()
  const token = hash.slice(1)
  const look = useTell('lookAtWayIn')
  const { mutate } = look
  useEffect(() => mutate({ body: { token: token === '' ? '-' : token } }), [mutate, token])
  return (
    <main className={styles.page}>
      {look.data && <Choose token={token} whose={look.data} />}
      {look.error && (
        <>
          <h1>This link does not let you in</h1>
          <Problem of={look.error} />
          <p>
            <a href="/desk">To signing in</a>
          </p>
        </>
      )}
      {!look.data && !look.error && <Waiting />}
    </main>
  )
}
