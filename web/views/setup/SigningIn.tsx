import { Button, PasswordInput } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import type { z } from 'zod'
import type { endpoints } from '#core/api/endpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { SecondFactor } from './SecondFactor.tsx'
import styles from './SigningIn.module.css'

type Session = z.output<typeof endpoints.sessions.answer>['sessions'][number]

const empty = { present: '', password: '' }

/** The password changed: whoever knew the old one is out. */
function Password() {
  const [draft, setDraft] = useState(empty)
  const [isChanged, setChanged] = useState(false)
  const change = useTell('changePassword', () => {
    setDraft(empty)
    setChanged(true)
  })
  const errors = change.error ? fieldErrors(change.error) : {}
  return (
    <SheetForm
      style={{ maxWidth: '36rem' }}
      onSubmit={() => {
        setChanged(false)
        change.mutate({ body: draft })
      }}
    >
      <PasswordInput
        label="Present password"
        autoComplete="current-password"
        value={draft.present}
        error={errors['present']}
        onChange={(event) => setDraft({ ...draft, present: event.currentTarget.value })}
      />
      <PasswordInput
        label="New password"
        description="At least 10 characters."
        autoComplete="new-password"
        value={draft.password}
        error={errors['password']}
        onChange={(event) => setDraft({ ...draft, password: event.currentTarget.value })}
      />
      <Problem of={change.error} />
      {isChanged && <p role="status">The password is changed. You are signed out everywhere else.</p>}
      <div className={table.acts}>
        <Button
          {...looking}
          type="submit"
          disabled={draft.present === '' || draft.password === ''}
          loading={change.isPending}
        >
          Change password
        </Button>
      </div>
    </SheetForm>
  )
}

/** A browser and its system, as far as they can be told by what it calls itself. */
function browserOf(agent: string): string {
  const browser = /(Firefox|Edg|Chrome|Safari)\b/.exec(agent)?.[1] ?? ''
  const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)\b/.exec(agent)?.[1] ?? ''
  const names = [browser === 'Edg' ? 'Edge' : browser, system].filter(Boolean).join(', ')
  return names === '' ? 'Another program' : names
}

function SessionRow({ session }: { session: Session }) {
  const end = useTell('endSession')
  const { id, agent, startedAt, seenAt, isThis } = session
  return (
    <li className={styles.session}>
      <span>
        {browserOf(agent)}
        {isThis && <b> · here</b>}
      </span>
      <span className={table.quiet}>
        since <When at={startedAt} />, last seen <When at={seenAt} />
      </span>
      {!isThis && (
        <Button
          {...looking}
          size="compact-sm"
          variant="default"
          loading={end.isPending}
          onClick={() => end.mutate({ parameters: { id }, body: {} })}
        >
          Sign out there
        </Button>
      )}
      <Problem of={end.error} />
    </li>
  )
}

/** Where the person who is signed in is signed in, and their password. */
export function SigningIn() {
  const { session } = useBusiness()
  const { data } = useAsk('sessions')
  if (!data) return null
  return (
    <section className={table.sheet} aria-label="Signing in" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Signing in</h2>
      <ul className={styles.sessions} aria-label="Where you are signed in">
        {data.sessions.map((one) => (
          <SessionRow key={one.id} session={one} />
        ))}
      </ul>
      {!session.isDemo && (
        <>
          <Password />
          <SecondFactor />
        </>
      )}
    </section>
  )
}
