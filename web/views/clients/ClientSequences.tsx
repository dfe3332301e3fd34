import { Button, Checkbox } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { ClientView } from '#core/api/views.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './ClientSequences.module.css'

type Run = ClientView['runs'][number]

type Act = 'stop' | 'resume'

function Row({ view, one }: { view: ClientView; one: Run }) {
  const [asked, setAsked] = useState<Act | null>(null)
  const { run, sequenceName, sequenceState, serviceName } = one
  const toggle = (act: Act) => setAsked(asked === act ? null : act)
  return (
    <li>
      <div className={`${table.row ?? ''} ${table.dated ?? ''} ${styles.row ?? ''}`}>
        <span>
          <Link to={`/sequence/${run.sequenceId}`}>{sequenceName}</Link>
          {serviceName !== null && <span className={table.quiet}> · {serviceName}</span>}
          {sequenceState === 'paused' && <span className={table.quiet}> · paused for everybody</span>}
          {run.held && <span> · ‖ asks before each message: {run.held.reason}</span>}
        </span>
        <span className={table.quiet}>
          since <When at={run.startedAt} />
        </span>
        <span className={table.acts}>
          {run.held && (
            <Button size="compact-sm" variant="default" onClick={() => toggle('resume')}>
              Let it go on…
            </Button>
          )}
          <Button size="compact-sm" variant="default" onClick={() => toggle('stop')}>
            Stop…
          </Button>
        </span>
      </div>
      {asked === 'resume' && (
        <ConsideredAct
          name="resumeSequence"
          asked={{ parameters: { id: view.client.id }, body: { sequenceId: run.sequenceId } }}
          word="Let it go on"
          onClose={() => setAsked(null)}
        />
      )}
      {asked === 'stop' && (
        <ConsideredAct
          name="stopSequence"
          asked={{ parameters: { id: view.client.id }, body: { sequenceId: run.sequenceId } }}
          word="Stop it"
          color="brick"
          onClose={() => setAsked(null)}
        />
      )}
    </li>
  )
}

/** The sequences that are at work for a client, each with the way to end it. */
export function ClientSequences({ view }: { view: ClientView }) {
  if (view.runs.length === 0) return <p className={styles.none}>No sequence is at work for this client.</p>
  return (
    <ul className={table.list}>
      {view.runs.map((one) => (
        <Row key={one.run.id} view={view} one={one} />
      ))}
    </ul>
  )
}

/** The switch of one client: nothing goes until it is lifted, and lifting it lists what was missed. */
export function HoldBack({ view }: { view: ClientView }) {
  const [isAsking, setAsking] = useState(false)
  const { id, isHeldBack } = view.client
  const words = isHeldBack ? 'Let messages go again' : 'Hold everything back'
  return (
    <div className={styles.hold}>
      {isHeldBack && <p className={styles.held}>‖ Everything to this client is held back.</p>}
      {!isAsking && (
        <Button size="compact-md" variant="default" onClick={() => setAsking(true)}>
          {words}…
        </Button>
      )}
      {isAsking && (
        <div>
          <p>
            {isHeldBack
              ? 'What fell due meanwhile does not go by itself: it stands in Trouble then.'
              : 'None of them goes until you lift this; planning goes on.'}
          </p>
          <ConsideredAct
            name="holdBackClient"
            asked={{ parameters: { id }, body: { isHeldBack: !isHeldBack } }}
            word={words}
            onClose={() => setAsking(false)}
          />
        </div>
      )}
    </div>
  )
}

/** Whether it is noticed what a client opens and follows. */
export function Noticed({ view }: { view: ClientView }) {
  const { isNoticed, client } = view
  const set = useTell('noticeClient')
  if (isNoticed === null) return null
  return (
    <div className={styles.hold}>
      <Checkbox
        label="Notice which messages are opened and links followed"
        checked={isNoticed}
        disabled={set.isPending}
        onChange={(event) =>
          set.mutate({ parameters: { id: client.id }, body: { isNoticed: event.currentTarget.checked } })
        }
      />
      <Problem of={set.error} />
    </div>
  )
}
