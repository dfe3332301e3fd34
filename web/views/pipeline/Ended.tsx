import { useState } from 'react'
import { Link } from 'react-router'
import type { StageSum } from '#core/api/enquiryEndpoints.ts'
import type { Stage } from '#core/model/pipeline.ts'
import { moneyIn } from '#core/letters/language.ts'
import { useParts } from '../../app/queries.ts'
import { More } from '../../parts/More.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './pipeline.module.css'

interface EndedProps {
  readonly pipelineId: string
  readonly stage: Stage
  readonly sum: StageSum
}

function Lines({ pipelineId, stage }: Omit<EndedProps, 'sum'>) {
  const parts = useParts('endedEnquiries', { parameters: { id: pipelineId }, query: { stage: stage.name } })
  const { lines, problem, again } = parts
  if (problem) return <ErrorState problem={problem} onAgain={again} />
  if (!lines) return <Waiting />
  return (
    <>
      <ul className={table.list}>
        {lines.map((line) => (
          <li key={line.id}>
            <Link
              className={table.row}
              to={`/enquiry/${line.id}`}
              style={{ '--columns': 'minmax(0, 1fr) minmax(0, 1fr) 11rem 6rem' }}
            >
              <b>{line.clientName}</b>
              <span>{line.what || line.serviceName}</span>
              <span className={table.quiet}>
                <When at={line.stageSince} />
              </span>
              <span className={table.quiet}>
                {line.budgetCents === null ? '' : moneyIn('en', line.budgetCents)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      <More of={parts} isByPressOnly />
    </>
  )
}

/** A stage that ends enquiries, folded to its count until somebody looks. */
export function Ended({ pipelineId, stage, sum }: EndedProps) {
  const [isOpen, setOpen] = useState(false)
  const meaning = stage.meaning === 'won' ? 'became bookings' : 'came to nothing'
  return (
    <section className={table.sheet} aria-label={stage.name} style={{ marginTop: '0.6rem' }}>
      <h2 className={styles.band} data-ended>
        <button
          type="button"
          aria-expanded={isOpen}
          disabled={sum.count === 0}
          onClick={() => setOpen(!isOpen)}
        >
          <span aria-hidden>{isOpen ? '▾' : '▸'}</span> {stage.name}
        </button>
        <b>{sum.count}</b>
        {sum.cents > 0 && <span className={styles.sum}>{moneyIn('en', sum.cents)}</span>}
        <span className={table.quiet}>{meaning}</span>
      </h2>
      {isOpen && sum.count > 0 && <Lines pipelineId={pipelineId} stage={stage} />}
    </section>
  )
}
