import { Button } from '@mantine/core'
import { useNavigate } from 'react-router'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import styles from './setup.module.css'

/** How what depends on a thing is asked for, how the thing is deleted, and what archiving it means. */
const kinds = {
  service: { uses: 'usesOfService', remove: 'removeService', archived: 'it cannot be booked any more' },
  status: { uses: 'usesOfOwnStatus', remove: 'removeOwnStatus', archived: 'no booking gets it any more' },
} as const

interface LetGoProps {
  readonly kind: keyof typeof kinds
  readonly of: { readonly id: string; readonly isActive: boolean }
  readonly onArchive: () => void
}

interface LetGoActsProps {
  readonly isActive: boolean
  readonly isArchiving?: boolean
  readonly isEnding: boolean
  readonly onArchive: () => void
  /** Null: it cannot be deleted. */
  readonly onEnd: (() => void) | null
}

/** The ways to let go of a thing: archived, or deleted where nothing depends on it. */
export function LetGoActs({ isActive, isArchiving = false, isEnding, onArchive, onEnd }: LetGoActsProps) {
  return (
    <div className={table.acts}>
      <Button variant="default" loading={isArchiving} onClick={onArchive}>
        {isActive ? 'Archive' : 'Take it up again'}
      </Button>
      {onEnd && (
        <Button variant="default" loading={isEnding} onClick={onEnd}>
          Delete
        </Button>
      )}
    </div>
  )
}

/** What depends on a thing, and how to let go of it: archived while anything does, deleted else. */
export function LetGo({ kind, of: { id, isActive }, onArchive }: LetGoProps) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const words = kinds[kind]
  const uses = useAsk(words.uses, { parameters: { id } })
  const remove = useTell(words.remove, () => void navigate('/set-up'))
  if (!uses.data || !isOwner) return null
  const { names, bookingsAhead } = uses.data
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        {names.length > 0 ? (
          <p>
            It is used by {names.join(', ')}. Archived, {words.archived};{' '}
            {bookingsAhead === 0
              ? 'everything else stays.'
              : `the ${bookingsAhead === 1 ? 'booking' : `${bookingsAhead} bookings`} ahead and everything else stay.`}
          </p>
        ) : (
          <p>Nothing depends on it.</p>
        )}
        <Problem of={remove.error} />
        <LetGoActs
          isActive={isActive}
          onArchive={onArchive}
          isEnding={remove.isPending}
          onEnd={names.length > 0 ? null : () => remove.mutate({ parameters: { id }, body: {} })}
        />
      </div>
    </section>
  )
}
