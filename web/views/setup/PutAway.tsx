import { Link } from 'react-router'
import table from '../../parts/timetable.module.css'

interface PutAwayProps {
  /** What has become of them, such as `Archived`. */
  readonly label: string
  readonly kind: 'service' | 'person' | 'status'
  readonly items: readonly { readonly id: string; readonly name: string; readonly isActive: boolean }[]
}

/** What is not used any more, each with the way to take it up again. */
export function PutAway({ label, kind, items }: PutAwayProps) {
  const away = items.filter(({ isActive }) => !isActive)
  if (away.length === 0) return null
  return (
    <p className={table.quiet}>
      {label}:{' '}
      {away.map(({ id, name }, index) => (
        <span key={id}>
          {index > 0 && ', '}
          <Link to={`/set-up/${kind}/${id}`}>{name}</Link>
        </span>
      ))}
    </p>
  )
}
