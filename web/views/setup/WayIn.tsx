import { Button } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { Copied } from '../../parts/Copied.tsx'
import styles from './setup.module.css'

/** How somebody of the team gets in: invited, let in without a lost second factor. */
export function WayIn({ person }: { person: SettingsView['people'][number] }) {
  const { data } = useAsk('waysIn')
  const invite = useTell('invite')
  const without = useTell('endSecondFactorOf')
  const way = data?.people.find(({ personId }) => personId === person.id)
  if (!way) return null
  const { hasPassword, hasSecondFactor, invitedUntil } = way
  const given = invite.data
  const tell = { parameters: { id: person.id }, body: {} }
  return (
    <section className={table.sheet} aria-label="Coming in" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Coming in</h2>
      <div className={styles.form}>
        <p>
          {hasPassword
            ? `${person.name} has a password${hasSecondFactor ? ', and gives a code besides' : ''}.`
            : `${person.name} has no password yet and cannot sign in.`}
          {invitedUntil !== null && (
            <>
              {' '}
              An invitation is on its way, good until <When at={invitedUntil} />.
            </>
          )}
        </p>
        {given && (
          <>
            <p role="status">
              {given.notSent === null
                ? `The link is on its way to ${person.email}.`
                : `The link was not sent by mail. ${given.notSent} Hand it on yourself.`}
            </p>
            <Copied label="Good once; whoever has it chooses the password" text={given.url} />
          </>
        )}
        <Problem of={invite.error ?? without.error} />
        <div className={table.acts}>
          <Button variant="default" loading={invite.isPending} onClick={() => invite.mutate(tell)}>
            {hasPassword ? 'Give a link for a new password' : 'Invite'}
          </Button>
          {hasSecondFactor && (
            <Button variant="default" loading={without.isPending} onClick={() => without.mutate(tell)}>
              Let in without a code
            </Button>
          )}
        </div>
      </div>
    </section>
  )
}
