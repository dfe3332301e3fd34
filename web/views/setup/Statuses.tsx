import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { EmptyState } from '../../parts/States.tsx'
import { statusWords } from '../../parts/statusWords.ts'
import table from '../../parts/timetable.module.css'
import { PutAway } from './PutAway.tsx'

type OwnStatus = SettingsView['ownStatuses'][number]

/** When a booking gets a status by itself, such as `by itself 48 hours before the start`. */
const comesWords = ({ comes }: OwnStatus): string =>
  comes === null
    ? ''
    : `by itself ${comes.hours} ${comes.hours === 1 ? 'hour' : 'hours'} ${comes.side} the ${comes.of}`

function Line({ own, services }: { own: OwnStatus } & Pick<SettingsView, 'services'>) {
  const { id, name, meaning, after, serviceIds } = own
  const only = services.filter((one) => serviceIds.includes(one.id)).map((one) => one.name)
  const facts = [
    `means ${meaning}`,
    after.length === 0 ? '' : `follows only ${after.join(' or ')}`,
    comesWords(own),
    only.length === 0 ? '' : `for ${only.join(', ')}`,
  ]
  return (
    <section aria-label={name}>
      <h2 className={table.group}>{statusWords(meaning, name)}</h2>
      <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
        {facts.filter(Boolean).join(' · ')} ·{' '}
        <Link to={`/set-up/status/${id}`} aria-label={`Edit ${name}`}>
          Edit
        </Link>
      </p>
    </section>
  )
}

/** The statuses that the business has added to those all bookings know. */
export function Statuses({ ownStatuses, services }: Pick<SettingsView, 'ownStatuses' | 'services'>) {
  const active = ownStatuses.filter(({ isActive }) => isActive)
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>Statuses of your own</h2>
        <Button component={Link} to="/set-up/status/new">
          New status
        </Button>
      </div>
      <div className={table.sheet}>
        {active.length === 0 && (
          <EmptyState title="None yet.">
            <p>Finer words for a booking, such as “papers in”: sequences can start, stop and ask by them.</p>
          </EmptyState>
        )}
        {active.map((own) => (
          <Line key={own.id} own={own} services={services} />
        ))}
      </div>
      <PutAway label="Archived" kind="status" items={ownStatuses} />
    </>
  )
}
