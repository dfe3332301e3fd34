import { Link } from 'react-router'
import type { BeginningStep } from '#core/insight/beginning.ts'
import { useBusiness } from '../app/business.ts'
import { useAsk } from '../app/queries.ts'
import styles from './BeginningList.module.css'
import table from './timetable.module.css'

const stepWords: Readonly<Record<BeginningStep, { readonly word: string; readonly to: string }>> = {
  business: { word: 'The business and its hours', to: '/set-up/business' },
  service: { word: 'A service clients can book', to: '/set-up/service/new' },
  letter: { word: 'A letter, read and published', to: '/letters' },
  sequence: { word: 'A sequence that is live', to: '/sequences' },
  'mail account': { word: 'A mail account to send through', to: '/set-up/mail' },
  'public address': { word: 'The web address where clients reach you', to: '/set-up/mail' },
  sending: { word: 'Sending switched on at the top, once you have looked at what is planned', to: '/ahead' },
}

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
              <Link to={stepWords[step].to}>{stepWords[step].word}</Link>
              <span className={table.quiet}>{isDone ? ' is there' : ' is missing'}</span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}
