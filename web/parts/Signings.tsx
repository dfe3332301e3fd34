import type { SigningView } from '#core/api/documentEndpoints.ts'
import styles from './OnePress.module.css'
import table from './timetable.module.css'
import { When } from './When.tsx'

function Line({ signing: { id, name, fixedAt, signed, hash } }: { signing: SigningView }) {
  return (
    <li>
      <span>
        {signed ? '✓' : '◐'} <b>{name}</b>, sent on <When at={fixedAt} />
      </span>
      {signed ? (
        <span className={table.quiet}>
          Signed by {signed.typedName} on <When at={signed.at} /> from {signed.address}.{' '}
          <a href={`/api/signings/${id}/document.pdf`} target="_blank" rel="noreferrer">
            The copy (PDF)
          </a>{' '}
          · SHA-256 {hash.slice(0, 12)}…
        </span>
      ) : (
        <span className={table.quiet}>Not signed yet.</span>
      )}
    </li>
  )
}

/** What was sent to be signed, and what of it is. */
export function Signings({ signings }: { signings: readonly SigningView[] }) {
  if (signings.length === 0) return null
  return (
    <section aria-label="Documents">
      <h2 className={table.group}>Documents</h2>
      <ul className={styles.moves}>
        {signings.map((one) => (
          <Line key={one.id} signing={one} />
        ))}
      </ul>
    </section>
  )
}
