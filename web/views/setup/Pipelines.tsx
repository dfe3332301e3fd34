import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { useBusiness } from '../../app/business.ts'
import table from '../../parts/timetable.module.css'

type Pipeline = SettingsView['pipelines'][number]

function Line({ pipeline: { id, name, stages, isActive } }: { pipeline: Pipeline }) {
  return (
    <section aria-label={name}>
      <h2 className={table.group}>
        {name}
        {!isActive && <small> archived</small>}
      </h2>
      <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
        {stages.map((stage) => stage.name).join(' → ')} ·{' '}
        <Link to={`/set-up/pipeline/${id}`} aria-label={`Edit ${name}`}>
          Edit
        </Link>
      </p>
    </section>
  )
}

/** The ways of enquiries, each with its stages. */
export function Pipelines({ pipelines }: Pick<SettingsView, 'pipelines'>) {
  const { isOwner } = useBusiness()
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>Pipelines</h2>
        {isOwner && (
          <Button component={Link} to="/set-up/pipeline/new">
            New pipeline
          </Button>
        )}
      </div>
      <div className={table.sheet}>
        {pipelines.map((pipeline) => (
          <Line key={pipeline.id} pipeline={pipeline} />
        ))}
      </div>
    </>
  )
}
