import { Link } from 'react-router'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import table from '../../parts/timetable.module.css'
import type { Further } from './furtherDraft.ts'
import styles from './setup.module.css'

/** What goes through an account, in words. */
function carriedWords({ purposes, personIds, stepsIn }: Further, nameOf: (id: string) => string): string {
  const people = personIds.map(nameOf)
  return [
    purposes.length > 0 ? `messages of the purpose ${purposes.join(', ')}` : '',
    people.length > 0 ? `what ${people.join(', ')} ${people.length === 1 ? 'signs' : 'sign'}` : '',
    stepsIn ? 'all others while the main account takes none' : '',
  ]
    .filter(Boolean)
    .join('; ')
}

/** The accounts beside the main one, with what goes through each. */
export function FurtherAccounts({ ways }: { ways: WaysOut }) {
  const { session } = useBusiness()
  const settings = useAsk('settings')
  if (session.isDemo || ways.way === 'post office') return null
  const nameOf = (id: string) => settings.data?.people.find((one) => one.id === id)?.name ?? 'somebody'
  return (
    <section className={table.sheet} aria-label="Accounts beside it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Accounts beside it</h2>
      <div className={styles.form}>
        <p>
          Some messages can go through another account: a purpose, such as what is promotional, or what
          somebody signs. What one account does not take waits there and holds nothing up in the others.
        </p>
        {ways.further.length > 0 && (
          <ul className={styles.accounts}>
            {ways.further.map((one) => (
              <li key={one.id}>
                <Link to={`/set-up/mail/${one.id}`}>{one.name}</Link> · {one.account.host} ·{' '}
                {carriedWords(one, nameOf)}
                {one.trouble !== null && <span className={styles.fault}> ✕ {one.trouble}</span>}
              </li>
            ))}
          </ul>
        )}
        <p>
          <Link to="/set-up/mail/new">Another account</Link>
        </p>
      </div>
    </section>
  )
}
