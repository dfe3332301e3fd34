import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { OnePressMove } from '#core/model/onePressMove.ts'
import { inHouseWords } from '#core/sequences/inHouseWords.ts'
import { useBusiness } from '../../app/business.ts'
import { EmptyState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'

function Line({ move: { id, name, of, parts, isActive } }: { move: OnePressMove }) {
  return (
    <section aria-label={name}>
      <h2 className={table.group}>
        {name}
        {!isActive && <small> archived</small>}
      </h2>
      <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
        On {of === 'booking' ? 'a booking' : 'an enquiry'}:{' '}
        {parts.map(inHouseWords).join(' · ') || 'a letter'} ·{' '}
        <Link to={`/set-up/move/${id}`} aria-label={`Edit ${name}`}>
          Edit
        </Link>
      </p>
    </section>
  )
}

/** Several things done in one press, each under its name. */
export function OnePressMoves({ moves }: { moves: readonly OnePressMove[] }) {
  const { isOwner } = useBusiness()
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>One-press moves</h2>
        {isOwner && (
          <Button component={Link} to="/set-up/move/new">
            New move
          </Button>
        )}
      </div>
      <div className={table.sheet}>
        {moves.length === 0 && (
          <EmptyState title="No moves yet.">
            <p>
              Several things in one press, such as “Send the agreement”: a stage or status, a letter, a date,
              a tag, a task.
            </p>
          </EmptyState>
        )}
        {moves.map((move) => (
          <Line key={move.id} move={move} />
        ))}
      </div>
    </>
  )
}
