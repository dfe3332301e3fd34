import { Checkbox } from '@mantine/core'
import type { Consequence } from '#core/api/announcements.ts'
import { stepTraits } from '#core/model/step.ts'
import { isOff } from '#core/planning/changeKind.ts'
import { changeWords } from './changeWords.ts'
import styles from './Consequences.module.css'
import type { Considered } from './useConsidered.ts'
import { When } from './When.tsx'

/** Who gets it, and at which address; nothing for a step that writes to nobody. */
export function Recipient({ line: { recipientName, address } }: { line: Consequence }) {
  if (recipientName === '' && address === null) return null
  return <span className={styles.recipient}>to {[recipientName, address].filter(Boolean).join(' · ')}</span>
}

/** More of a repeat are counted, not listed. */
const mostFurther = 3

/** The occurrences of a repeat that follow, as far as they can be known. */
export function Further({ moments }: { moments: readonly number[] }) {
  if (moments.length === 0) return null
  const more = moments.length - mostFurther
  return (
    <span>
      , unless it ends before also{' '}
      {moments.slice(0, mostFurther).map((at, index) => (
        <span key={at}>
          {index > 0 && ', '}
          <When at={at} />
        </span>
      ))}
      {more > 0 && ` and ${more} more`}
    </span>
  )
}

function Line({ line, isHeld, onHold }: { line: Consequence; isHeld: boolean; onHold: () => void }) {
  const { kind, letterName, stepKind, beforeAt, afterAt, awaits, further, waits, reason } = line
  const goes = !isOff(kind)
  const canHold = goes && stepTraits[stepKind].goesTo !== null && !waits
  const isMoved = beforeAt !== null && afterAt !== beforeAt && kind !== 'again'
  return (
    <li>
      <span className={styles.kind}>{changeWords[kind]}</span>
      <span>
        <b>{letterName}</b> <Recipient line={line} />{' '}
        <span className={styles.times}>
          {isMoved && (
            <s>
              <When at={beforeAt} />
            </s>
          )}{' '}
          {afterAt !== null && <When at={afterAt} />}
          {awaits !== null && ` no time yet. ${awaits}`}
          <Further moments={further} />
          {!goes && reason !== null && ` ${reason}`}
          {waits && ' ◐ waits for you'}
          {kind === 'changed approval' && !waits && ' ○ goes by itself'}
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

function Beyond({ of: { more, uncounted } }: { of: Considered['beyond'] }) {
  if (more === 0 && uncounted === 0) return null
  const clients = uncounted === 1 ? '1 more client' : `${uncounted} more clients`
  return (
    <p className={styles.quiet}>
      {more > 0 && `${more} more changes. `}
      {uncounted > 0 && `${clients} have messages it concerns.`}
    </p>
  )
}

/** What is unlike what clients can choose; named by client where it is about several. */
function Cautions({ of }: { of: Considered['cautions'] }) {
  const names = new Set(of.map(({ clientName }) => clientName))
  if (of.length === 0) return null
  return (
    <ul className={styles.cautions} aria-label="To be known">
      {of.map(({ clientName, sentence }) => (
        <li key={clientName + sentence}>
          <span className={styles.kind}>▲ to be known</span>
          <span>
            {names.size > 1 && <b>{clientName}: </b>}
            {sentence}
          </span>
        </li>
      ))}
    </ul>
  )
}

const momentOf = ({ afterAt, beforeAt }: Consequence) => afterAt ?? beforeAt ?? Infinity

/** What happens first stands first; what has no time yet comes last. */
function byMoment(one: Consequence, other: Consequence): number {
  const [a, b] = [momentOf(one), momentOf(other)]
  return a === b ? 0 : a - b
}

/** What an act would do, before it is done, by the planner itself. Nothing has happened yet. */
export function Consequences({ considered }: { considered: Considered }) {
  const { lines, beyond, refused, cautions, holdBack, setHoldBack } = considered
  return (
    <section className={styles.consequences} aria-label="What it will do" aria-live="polite">
      <h2>
        What it will do{' '}
        <small>
          {considered.isCurrent || lines === null ? (
            'Nothing has happened yet.'
          ) : (
            <span className={styles.slow}>Working it out …</span>
          )}
        </small>
      </h2>
      {lines === null && !considered.problem && <p className={styles.quiet}>Working it out …</p>}
      {lines?.length === 0 && refused.length === 0 && <p className={styles.quiet}>No message changes.</p>}
      <ul>
        {lines?.toSorted(byMoment).map((line) => {
          const isHeld = holdBack.includes(line.name)
          return (
            <Line
              key={`${line.kind}${line.name}${line.clientName}`}
              line={line}
              isHeld={isHeld}
              onHold={() =>
                setHoldBack(isHeld ? holdBack.filter((name) => name !== line.name) : [...holdBack, line.name])
              }
            />
          )
        })}
      </ul>
      {refused.length > 0 && (
        <ul className={styles.refused}>
          {refused.map(({ id, clientName, sentence }) => (
            <li key={id}>
              <span className={styles.kind}>✕ not done</span>
              <span>
                <b>{clientName}</b>: {sentence}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Cautions of={cautions} />
      <Beyond of={beyond} />
    </section>
  )
}
