import { Button } from '@mantine/core'
import type { HouseTrouble } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { notify } from '../../app/notices.ts'
import { useTell } from '../../app/queries.ts'
import { When } from '../../parts/When.tsx'
import styles from './Desk.module.css'

function TryAccount({ accountId }: { accountId: string }) {
  const tell = useTell(
    'tryAccount',
    ({ sentence }) => void notify(sentence ?? 'The mail account takes messages again.'),
  )
  return (
    <Button
      size="compact-sm"
      variant="default"
      loading={tell.isPending}
      onClick={() => tell.mutate({ body: { accountId } })}
    >
      Try again now
    </Button>
  )
}

function TrustClock({ machineAt }: { machineAt: number }) {
  const tell = useTell('trustClock')
  return (
    <Button
      size="compact-sm"
      variant="default"
      loading={tell.isPending}
      onClick={() => tell.mutate({ body: { machineAt } })}
    >
      The new time is right
    </Button>
  )
}

function Act({ act }: Pick<HouseTrouble, 'act'>) {
  const { isOwner } = useBusiness()
  switch (act?.does) {
    case 'try account':
      return <TryAccount accountId={act.accountId} />
    case 'trust clock':
      return isOwner ? <TrustClock machineAt={act.machineAt} /> : <span>Only the owner can say so.</span>
    case undefined:
      return null
  }
}

/** What the house itself cannot do stands above every list: it may be why a list is short. */
export function House({ troubles }: { troubles: readonly HouseTrouble[] }) {
  if (troubles.length === 0) return null
  return (
    <ul className={styles.house} aria-label="Trouble in the house">
      {troubles.map(({ key, sentence, since, lines, act }) => (
        <li key={key}>
          ✕ {sentence}
          {since !== null && (
            <>
              {' '}
              Since <When at={since} />.
            </>
          )}{' '}
          {lines.length > 0 && (
            <ul>
              {lines.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          )}
          <Act act={act} />
        </li>
      ))}
    </ul>
  )
}
