import { Button } from '@mantine/core'
import { DateField } from '../../parts/DateField.tsx'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { AskedManyAct } from '#core/api/messageEndpoints.ts'
import type { Consequence } from '#core/api/views.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { call, type ApiProblem, type Answer, type Of } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { changeWords } from '../../parts/changeWords.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import type { Chosen } from '../../parts/useChosen.ts'
import { When } from '../../parts/When.tsx'
import styles from './Ahead.module.css'

type Act = AskedManyAct['act']

const words: Readonly<Record<Act, { ask: string; doIt: (count: number) => string; done: string }>> = {
  'hold back': {
    ask: 'Hold back',
    doIt: (count) => `Hold these ${count} for approval`,
    done: 'wait for approval now',
  },
  release: { ask: 'Release', doIt: (count) => `Release these ${count}`, done: 'are approved' },
  skip: { ask: 'Skip', doIt: (count) => `Skip these ${count}`, done: 'are skipped' },
  move: { ask: 'Move…', doIt: (count) => `Move these ${count}`, done: 'have another time' },
}

type Asked = Answer<Of<'askAboutSends'>>

function Moved({ line }: { line: Consequence & { clientName: string } }) {
  const { kind, letterName, clientName, beforeAt, afterAt, reason } = line
  return (
    <li>
      <span className={table.quiet}>{changeWords[kind]}</span> {letterName} to {clientName}{' '}
      {beforeAt !== null && (
        <s>
          <When at={beforeAt} />
        </s>
      )}{' '}
      {kind !== 'dropped' && afterAt !== null && <When at={afterAt} />}
      {kind === 'dropped' && reason}
    </li>
  )
}

/** What one act on all that is chosen would do. */
function Would({ asked }: { asked: Asked }) {
  return (
    <>
      <ul className={styles.would}>
        {asked.consequences.map((line) => (
          <Moved key={`${line.kind}${line.clientName}${line.name}`} line={line} />
        ))}
        {asked.refused.map(({ id, clientName, sentence }) => (
          <li key={id}>
            ✕ {clientName}: {sentence}
          </li>
        ))}
      </ul>
      {asked.consequences.length === 0 && asked.refused.length === 0 && (
        <p className={table.quiet}>No message is added, moved or dropped by it.</p>
      )}
    </>
  )
}

function Considering({ act, ids, onClose, onDone }: ConsideringProps) {
  const { zone, now } = useBusiness()
  const [date, setDate] = useState<string | null>(isoDateOf(dayAt(zone, now) + 1))
  const [time, setTime] = useState('09:00')
  const isWhole = act !== 'move' || (date !== null && time !== '')
  const body: AskedManyAct = act === 'move' ? { act, toLocal: `${date ?? ''}T${time}` } : { act }
  const would = useQuery<Asked, ApiProblem>({
    queryKey: ['askAboutSends', ids, body, now],
    queryFn: () => call('askAboutSends', { body: { ids: [...ids], act: body } }),
    enabled: isWhole,
    gcTime: 0,
    retry: false,
  })
  const carryOut = useTell('actOnSends', ({ done }) => onDone(done))
  const announcementId = would.data?.announcementId ?? null
  return (
    <section className={styles.considering} aria-label="What it will do">
      <h2>
        {words[act].ask.replace('…', '')}: what it will do <small>Nothing has happened yet.</small>
      </h2>
      {act === 'move' && (
        <div className={styles.filters}>
          <DateField label="To" value={date} onChange={setDate} />
          <ClockField label="at" value={time} onChange={setTime} />
        </div>
      )}
      <Problem of={would.error} />
      {would.data && <Would asked={would.data} />}
      <Problem of={carryOut.error} />
      <div className={table.acts}>
        <Button
          disabled={!would.data || would.data.done === 0}
          loading={carryOut.isPending}
          onClick={() => carryOut.mutate({ body: { ids: [...ids], act: body, announcementId } })}
        >
          {words[act].doIt(would.data?.done ?? ids.length)}
        </Button>
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </section>
  )
}

interface ConsideringProps {
  readonly act: Act
  readonly ids: readonly string[]
  readonly onClose: () => void
  readonly onDone: (count: number) => void
}

/** What can be done with all that is chosen; each act shows first what it does. */
export function Many({ chosen }: { chosen: Chosen }) {
  const [act, setAct] = useState<Act | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const ids = [...chosen.ids]
  if (ids.length === 0) {
    return said === null ? null : (
      <p className={styles.bar} role="status">
        ✓ {said}
      </p>
    )
  }
  return (
    <div className={styles.bar}>
      <div className={table.acts}>
        <b role="status">{ids.length} chosen</b>
        {(['hold back', 'release', 'skip', 'move'] as const).map((one) => (
          <Button
            key={one}
            size="compact-md"
            variant={one === act ? 'filled' : 'default'}
            aria-expanded={one === act}
            onClick={() => setAct(one === act ? null : one)}
          >
            {words[one].ask}
          </Button>
        ))}
        <Button size="compact-md" variant="subtle" onClick={chosen.clear}>
          Choose none
        </Button>
      </div>
      {act !== null && (
        <Considering
          key={act}
          act={act}
          ids={ids}
          onClose={() => setAct(null)}
          onDone={(count) => {
            setSaid(`${count === 1 ? '1 message' : `${count} messages`}: ${words[act].done}.`)
            setAct(null)
            chosen.clear()
          }}
        />
      )}
    </div>
  )
}
