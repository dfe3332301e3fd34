import { Button } from '@mantine/core'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './setup.module.css'

/** A size as people say it, in steps of a thousand. */
function sizeWords(bytes: number): string {
  if (bytes < 1_000_000) return `${Math.ceil(bytes / 1000)} kB`
  return bytes < 1_000_000_000
    ? `${(bytes / 1_000_000).toFixed(1)} MB`
    : `${(bytes / 1_000_000_000).toFixed(1)} GB`
}

/** The backups there are, and one more at a press; the owner's. */
export function Backups() {
  const { isOwner, session } = useBusiness()
  const { data } = useAsk('backups', {}, { enabled: isOwner && !session.isDemo })
  const take = useTell('takeBackup')
  if (!isOwner || session.isDemo || !data) return null
  const { folder, isSealed, backups, isUnderWay, trouble } = data
  const [newest] = backups
  return (
    <section className={table.sheet} aria-label="Backups" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Backups</h2>
      <div className={styles.form}>
        <p>
          Once a day everything is copied into <code>{folder}</code> and read back; one of each of the last 7
          days, 4 weeks and 12 months is kept.{' '}
          {isSealed
            ? 'They are sealed: who restores one has to know the words it was sealed with.'
            : 'They are not sealed: who can read that folder can read them.'}{' '}
          The key file <code>keys.json</code> is not in it: keep that at another place.
        </p>
        {trouble !== null && <p className={styles.fault}>{trouble}</p>}
        <p role="status">
          {isUnderWay && 'One is being taken …'}
          {!isUnderWay && !newest && 'There is none yet.'}
          {!isUnderWay && newest && (
            <>
              The newest is of <When at={newest.at} />, {sizeWords(newest.bytes)}, and whole
              {backups.length > 1 && `; there are ${backups.length}`}.
            </>
          )}
        </p>
        <Problem of={take.error} />
        <div className={table.acts}>
          <Button
            variant="default"
            loading={take.isPending || isUnderWay}
            onClick={() => take.mutate({ body: {} })}
          >
            Back up now
          </Button>
        </div>
      </div>
    </section>
  )
}
