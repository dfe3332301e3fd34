import { Link } from 'react-router'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'
import { wayWords } from './wayWords.ts'

/** How messages go out, in short; the owner's to change. */
export function MailAccount() {
  const { isOwner } = useBusiness()
  const { data } = useAsk('waysOut', {}, { enabled: isOwner })
  if (!isOwner || !data) return null
  return (
    <section className={table.sheet} aria-label="How messages go out" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>How messages go out</h2>
      <div className={styles.form}>
        <p>
          {wayWords(data)} <Link to="/set-up/mail">The mail account and your web address</Link>
        </p>
        <p>
          <Link to="/set-up/answers">What comes back</Link>
        </p>
        {data.obstacle !== null && <p className={styles.fault}>{data.obstacle}</p>}
      </div>
    </section>
  )
}
