import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import { EmptyState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'

/** What is filled in by who asks for something. */
export function Forms({ forms, pipelines, publicUrl }: SettingsView) {
  const { isOwner } = useBusiness()
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>Forms</h2>
        {isOwner && (
          <Button component={Link} to="/set-up/form/new">
            New form
          </Button>
        )}
      </div>
      <div className={table.sheet}>
        {forms.length === 0 && (
          <EmptyState title="No forms yet.">
            <p>Who asks for something fills one in, and stands in the pipeline a moment later.</p>
          </EmptyState>
        )}
        {forms.map(({ id, name, isActive, fields, pipelineId }) => (
          <section key={id} aria-label={name}>
            <h2 className={table.group}>
              {name}
              {!isActive && <small> closed</small>}
            </h2>
            <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
              {fields.length === 1 ? '1 question' : `${fields.length} questions`}, into{' '}
              {pipelines.find((one) => one.id === pipelineId)?.name ?? 'a pipeline that is gone'} ·{' '}
              {isActive && (
                <>
                  <a
                    href={`${publicUrl}/ask/${id}`}
                    target="_blank"
                    rel="noreferrer"
                    aria-label={`Open ${name}`}
                  >
                    Open
                  </a>{' '}
                  ·{' '}
                </>
              )}
              <Link to={`/set-up/form/${id}`} aria-label={`Edit ${name}`}>
                Edit
              </Link>
            </p>
          </section>
        ))}
      </div>
    </>
  )
}
