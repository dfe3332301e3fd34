import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import type { Consequence } from '#core/api/views.ts'
import { call, type ApiProblem, type CallArguments, type Of } from '../../app/api.ts'
import { When } from '../../parts/When.tsx'
import styles from './Consequences.module.css'

export type Asked = NonNullable<CallArguments<Of<'askAboutBooking'>>['body']>

const words: Readonly<Record<Consequence['kind'], string>> = {
  added: 'new',
  dropped: 'dropped',
  moved: 'moves',
  again: 'again',
  'changed recipient': 'other address',
  'changed text': 'other letter',
}

function Line({ line }: { line: Consequence }) {
  const { kind, letterName, beforeAt, afterAt, reason } = line
  return (
    <li>
      <span className={styles.kind}>{words[kind]}</span>
      <span>
        <b>{letterName}</b>{' '}
        <span className={styles.times}>
          {beforeAt !== null && kind !== 'again' && (
            <s>
              <When at={beforeAt} />
            </s>
          )}{' '}
          {afterAt !== null && <When at={afterAt} />}
          {kind === 'dropped' && reason !== null && ` ${reason}`}
        </span>
      </span>
    </li>
  )
}

interface ConsequencesProps {
  readonly bookingId: string
  /** What is being considered; null: nothing complete yet. */
  readonly asked: Asked | null
}

/** What an act would do, before it is done, by the planner itself. Nothing has happened yet. */
export function Consequences({ bookingId, asked }: ConsequencesProps) {
  const [settled] = useDebouncedValue(asked, 150)
  const { data, error } = useQuery<readonly Consequence[], ApiProblem>({
    queryKey: ['booking', bookingId, 'consequences', settled],
    queryFn: async () => {
      if (settled === null) return []
      const answer = await call('askAboutBooking', { parameters: { id: bookingId }, body: settled })
      return answer.consequences
    },
    enabled: settled !== null,
    placeholderData: (before) => before,
  })
  if (settled === null || error) return <p className={styles.quiet}>Nothing has happened yet.</p>
  return (
    <section className={styles.consequences} aria-label="What it will do" aria-live="polite">
      <h3>
        What it will do <small>Nothing has happened yet.</small>
      </h3>
      {data?.length === 0 && <p className={styles.quiet}>No message is added, moved or dropped.</p>}
      <ul>
        {data?.map((line) => (
          <Line
            key={`${line.kind}${line.letterName}${line.beforeAt ?? ''}${line.afterAt ?? ''}`}
            line={line}
          />
        ))}
      </ul>
    </section>
  )
}
