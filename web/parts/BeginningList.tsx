import { Link } from 'react-router'
import { useBusiness } from '../app/business.ts'
import { useAsk } from '../app/queries.ts'
import styles from './BeginningList.module.css'
import { beginningPages, beginningPath } from './beginningSteps.ts'
import table from './timetable.module.css'

/** What is there and what is missing before messages reach clients; nothing once all of it is there. */
export function BeginningList() {
  const { isOwner, session } = useBusiness()
  const { data } = useAsk('beginning', {}, { enabled: isOwner && !session.isDemo })
  const missing = data?.steps.filter(({ isDone }) => !isDone).length ?? 0
  if (!data || missing === 0) return null
  return (
    <section
      className={`${table.sheet ?? ''} ${styles.beginning ?? ''}`}
      aria-label="Until messages reach clients"
    >
      <h2 className={table.group}>
        Until messages reach clients · {data.steps.length - missing} of {data.steps.length} are there
      </h2>
      <ol className={styles.steps}>
        {data.steps.map(({ step, isDone }) => (
          <li key={step}>
            <span aria-hidden>{isDone ? '✓' : '○'}</span>
            <span>
              <Link to={beginningPath(step)}>{beginningPages[step].word}</Link>
              <span className={table.quiet}>{isDone ? ' is there' : ' is missing'}</span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}
