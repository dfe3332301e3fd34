import { useAsk } from '../../app/queries.ts'
import table from '../../parts/timetable.module.css'
import { TrustWords } from '../../parts/TrustWords.tsx'

/** How far each message of a sequence has earned to go by itself. */
export function Trust({ sequenceId }: { sequenceId: string }) {
  const { data } = useAsk('trust')
  const steps = (data?.steps ?? []).filter((one) => one.sequenceId === sequenceId)
  if (steps.length === 0) return null
  return (
    <section className={table.sheet} aria-label="Earned trust">
      <h2 className={table.group}>
        Earned trust <small>· counted since the step and its letter are what they are</small>
      </h2>
      <ul className={table.list}>
        {steps.map((one) => (
          <li key={one.stepId} className={table.row} style={{ '--columns': '13rem 9rem minmax(0, 1fr)' }}>
            <span>{one.action}</span>
            <span className={table.quiet}>{one.needsApproval ? '◐ after a look' : '○ by itself'}</span>
            <span>
              <TrustWords of={one} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
