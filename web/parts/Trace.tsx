import type { TraceLine } from '#core/model/send.ts'
import styles from './Trace.module.css'

const ruleWords: Readonly<Record<string, string>> = {
  wanted: 'as the step says',
  'sending hours': 'sending hours',
  lead: 'time before the event',
  lateness: 'not into the past',
  person: 'a person',
}

/** The answer to "why then?": rule by rule, the time before and after, and why. */
export function Trace({ lines }: { lines: readonly TraceLine[] }) {
  return (
    <ol className={styles.trace} aria-label="Why then?">
      {lines.map((line, index) => (
        <li key={index}>
          <span className={styles.rule}>{ruleWords[line.rule] ?? line.rule}</span>
          <span>{line.sentence}</span>
        </li>
      ))}
    </ol>
  )
}
