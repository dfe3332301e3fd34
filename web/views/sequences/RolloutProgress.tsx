import { Button, Group, Progress } from '@mantine/core'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { ClientLinks, clientsIn } from '../../parts/ClientLinks.tsx'
import table from '../../parts/timetable.module.css'
import styles from './sequences.module.css'

type Rollout = NonNullable<SequenceView['rollout']>

function Others({ others }: { others: Rollout['others'] }) {
  if (others.length === 0) return null
  return (
    <p>
      For {clientsIn(others.length)} something else would have happened than was shown, so nothing did; they
      keep the version before: <ClientLinks clients={others} />.
    </p>
  )
}

function UnderWay({ sequenceId, rollout }: { sequenceId: string; rollout: Rollout }) {
  const { isOwner } = useBusiness()
  const stop = useTell('stopRollout')
  const done = rollout.total - rollout.ahead
  return (
    <>
      <h2>
        Going into effect <small>Everything else goes on meanwhile.</small>
      </h2>
      <Progress value={(100 * done) / Math.max(1, rollout.total)} aria-label="How far it is" />
      <p role="status">
        {done} of {clientsIn(rollout.total)}
      </p>
      <Problem of={stop.error} />
      {isOwner && (
        <Group>
          <Button
            variant="default"
            loading={stop.isPending}
            onClick={() => stop.mutate({ parameters: { id: sequenceId }, body: {} })}
          >
            Stop here
          </Button>
        </Group>
      )}
    </>
  )
}

function Stopped({ sequenceId, ahead }: { sequenceId: string; ahead: number }) {
  const { isOwner } = useBusiness()
  const takeUp = useTell('takeUpRollout')
  return (
    <>
      <p>It was stopped: {clientsIn(ahead)} that were still ahead keep the version before.</p>
      <Problem of={takeUp.error} />
      {isOwner && (
        <Group>
          <Button
            variant="default"
            loading={takeUp.isPending}
            onClick={() => takeUp.mutate({ parameters: { id: sequenceId }, body: {} })}
          >
            Go on with them
          </Button>
        </Group>
      )}
    </>
  )
}

/** What is going into effect client by client: how far it is, and for whom it did nothing. */
export function RolloutProgress({ view }: { view: SequenceView }) {
  const { rollout, sequence } = view
  if (!rollout) return null
  const { isUnderWay, isStopped, ahead, others } = rollout
  return (
    <section className={`${table.sheet ?? ''} ${styles.effect ?? ''}`} aria-label="Going into effect">
      {isUnderWay && <UnderWay sequenceId={sequence.id} rollout={rollout} />}
      {isStopped && <Stopped sequenceId={sequence.id} ahead={ahead} />}
      <Others others={others} />
    </section>
  )
}
