import { Button } from '@mantine/core'
import { useNavigate } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

interface ServiceEndProps {
  readonly service: SettingsView['services'][number]
  readonly onArchive: () => void
}

/** What depends on a service, and how to let go of it: archived while anything does, deleted else. */
export function ServiceEnd({ service, onArchive }: ServiceEndProps) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const { id, isActive } = service
  const uses = useAsk('usesOfService', { parameters: { id } })
  const remove = useTell('removeService', () => void navigate('/set-up'))
  if (!uses.data || !isOwner) return null
  const { names, bookingsAhead } = uses.data
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        {names.length > 0 ? (
          <p>
            It is used by {names.join(', ')}. Archived, it cannot be booked any more;{' '}
            {bookingsAhead === 0
              ? 'everything else stays.'
              : `the ${bookingsAhead === 1 ? 'booking' : `${bookingsAhead} bookings`} ahead and everything else stay.`}
          </p>
        ) : (
          <p>Nothing depends on it.</p>
        )}
        <Problem of={remove.error} />
        <div className={table.acts}>
          <Button variant="default" onClick={onArchive}>
            {isActive ? 'Archive' : 'Take it up again'}
          </Button>
          {names.length === 0 && (
            <Button
              variant="default"
              loading={remove.isPending}
              onClick={() => remove.mutate({ parameters: { id }, body: {} })}
            >
              Delete
            </Button>
          )}
        </div>
      </div>
    </section>
  )
}
