import { Progress } from '@mantine/core'
import { useAsk } from '../../app/queries.ts'
import { ClientLinks, clientsIn } from '../../parts/ClientLinks.tsx'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

/** Changed settings on their way to everybody's plans: how far that is, and for whom it came otherwise than shown. */
export function SettingsProgress() {
  const { data } = useAsk('businessSettings')
  if (!data?.rollout) return null
  const { isUnderWay, total, ahead, others } = data.rollout
  return (
    <section className={table.sheet} aria-label="Going into effect" style={{ marginBottom: '1rem' }}>
      <div className={styles.form}>
        {isUnderWay && (
          <>
            <p role="status">
              Changed settings are going into effect: {total - ahead} of {clientsIn(total)}. Everything else
              goes on meanwhile.
            </p>
            <Progress value={(100 * (total - ahead)) / Math.max(1, total)} aria-label="How far it is" />
          </>
        )}
        {others.length > 0 && (
          <p>
            For {clientsIn(others.length)} something else happened than was shown, because they changed
            meanwhile: <ClientLinks clients={others} />.
          </p>
        )}
      </div>
    </section>
  )
}
