import { Checkbox } from '@mantine/core'
import type { Consequence } from '#core/api/views.ts'
import { changeWords } from './changeWords.ts'
import styles from './Consequences.module.css'
import { When } from './When.tsx'

interface ConsequencesProps {
  readonly lines: readonly Consequence[] | null
  /** Messages that are to wait for a person all the same. */
  readonly holdBack: readonly string[]
  readonly onHoldBack: (names: readonly string[]) => void
}

const messageKinds: readonly Consequence['stepKind'][] = ['mail', 'text message', 'note to staff']

function Line({ line, isHeld, onHold }: { line: Consequence; isHeld: boolean; onHold: () => void }) {
  const { kind, letterName, stepKind, beforeAt, afterAt, waits, reason } = line
  const canHold = kind !== 'dropped' && messageKinds.includes(stepKind) && !waits
  return (
    <li>
      <span className={styles.kind}>{changeWords[kind]}</span>
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
          {waits && ' ◐ waits for you'}
        </span>
      </span>
      {canHold && (
        <Checkbox
          size="xs"
          label="hold back"
          aria-label={`Hold back ${letterName}`}
          checked={isHeld}
          onChange={onHold}
        />
      )}
    </li>
  )
}

/** What an act would do, before it is done, by the planner itself. Nothing has happened yet. */
export function Consequences({ lines, holdBack, onHoldBack }: ConsequencesProps) {
  return (
    <section className={styles.consequences} aria-label="What it will do" aria-live="polite">
      <h2>
        What it will do <small>Nothing has happened yet.</small>
      </h2>
      {lines?.length === 0 && <p className={styles.quiet}>No message is added, moved or dropped.</p>}
      <ul>
        {lines?.map((line) => {
          const isHeld = holdBack.includes(line.name)
          return (
            <Line
              key={`${line.kind}${line.name}`}
              line={line}
              isHeld={isHeld}
              onHold={() =>
                onHoldBack(isHeld ? holdBack.filter((name) => name !== line.name) : [...holdBack, line.name])
              }
            />
          )
        })}
      </ul>
    </section>
  )
}
