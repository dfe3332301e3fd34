import { Button } from '@mantine/core'
import { DateField } from './DateField.tsx'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { AskedManyAct } from '#core/api/messageEndpoints.ts'
import type { Consequence } from '#core/api/announcements.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { call, type ApiProblem, type Answer, type Of } from '../app/api.ts'
import { useBusiness } from '../app/business.ts'
import { useTell } from '../app/queries.ts'
import { changeWords } from './changeWords.ts'
import { ClockField } from './ClockField.tsx'
import { Problem } from './Problem.tsx'
import table from './timetable.module.css'
import type { Chosen } from './useChosen.ts'
import { When } from './When.tsx'
import styles from './Many.module.css'

type Act = AskedManyAct['act']

/** What is offered, in the words of the place it is offered at. */
export interface ManyWords {
  readonly act: Act
  readonly ask: string
  readonly doIt: (count: number) => string
  readonly done: string
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

function Considering({ words, ids, onClose, onDone }: ConsideringProps) {
  const { act } = words
  const { zone, now } = useBusiness()
  const [date, setDate] = useState<string | null>(isoDateOf(dayAt(zone, now) + 1))
  const [time, setTime] = useState('09:00')
  const isWhole = act !== 'move' || (date !== null && time !== '')
  const body: AskedManyAct = act === 'move' ? { act, toLocal: `${date ?? ''}T${time}` } : { act }
  const would = useQuery<Asked, ApiProblem>({
    queryKey: ['askAboutSends', ids, body],
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
        {words.ask.replace('…', '')}: what it will do <small>Nothing has happened yet.</small>
      </h2>
      {act === 'move' && (
        <div className={table.when}>
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
          {words.doIt(would.data?.done ?? ids.length)}
        </Button>
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </section>
  )
}

interface ConsideringProps {
  readonly words: ManyWords
  readonly ids: readonly string[]
  readonly onClose: () => void
  readonly onDone: (count: number) => void
}

/** What can be done with all that is chosen; each act shows first what it does. */
export function Many({ chosen, offers }: { chosen: Chosen; offers: readonly ManyWords[] }) {
  const [open, setOpen] = useState<ManyWords | null>(null)
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
        {offers.map((one) => (
          <Button
            key={one.act}
            size="compact-md"
            variant={one === open ? 'filled' : 'default'}
            aria-expanded={one === open}
            onClick={() => setOpen(one === open ? null : one)}
          >
            {one.ask}
          </Button>
        ))}
        <Button size="compact-md" variant="subtle" onClick={chosen.clear}>
          Choose none
        </Button>
      </div>
      {open !== null && (
        <Considering
          key={open.act}
          words={open}
          ids={ids}
          onClose={() => setOpen(null)}
          onDone={(count) => {
            setSaid(`${count === 1 ? '1 message' : `${count} messages`}: ${open.done}.`)
            setOpen(null)
            chosen.clear()
          }}
        />
      )}
    </div>
  )
}
