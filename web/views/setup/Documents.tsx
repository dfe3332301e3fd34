import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { EmptyState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'

/** What clients sign. */
export function Documents({ documents }: Pick<SettingsView, 'documents'>) {
  const { isOwner } = useBusiness()
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>Documents to sign</h2>
        {isOwner && (
          <Button component={Link} to="/set-up/document/new">
            New document
          </Button>
        )}
      </div>
      <div className={table.sheet}>
        {documents.length === 0 && (
          <EmptyState title="No documents yet.">
            <p>An agreement, for example: a letter leads to it, and who gets it signs it on a page.</p>
          </EmptyState>
        )}
        {documents.map(({ id, name, consent, isActive }) => (
          <section key={id} aria-label={name}>
            <h2 className={table.group}>
              {name}
              {!isActive && <small> archived</small>}
            </h2>
            <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
              “{consent}” ·{' '}
              <Link to={`/set-up/document/${id}`} aria-label={`Edit ${name}`}>
                Edit
              </Link>
            </p>
          </section>
        ))}
      </div>
    </>
  )
}
