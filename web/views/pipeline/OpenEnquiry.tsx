import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { OfferedMove } from '#core/api/moveViews.ts'
import { useAsk } from '../../app/queries.ts'
import { OfferedMoves, PressedReport } from '../../parts/OnePress.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { CameByForm } from './CameByForm.tsx'
import { Checklist } from './Checklist.tsx'
import { EnquiryFacts } from './EnquiryFacts.tsx'
import { EveningLetter } from './EveningLetter.tsx'
import type { Moved } from './MoveTo.tsx'
import styles from './pipeline.module.css'

interface OpenEnquiryProps {
  readonly id: string
  readonly onMove: (enquiry: Moved, stage: string) => void
  readonly onPress: (move: OfferedMove) => void
  readonly onClose: () => void
}

function Open({ view, onMove, onPress, onClose }: Omit<OpenEnquiryProps, 'id'> & { view: EnquiryView }) {
  const { enquiry, clientName, pipeline } = view
  const others = pipeline.stages.filter(({ name }) => name !== enquiry.stage)
  return (
    <>
      <div className={`${table.group ?? ''} ${styles.openHead ?? ''}`}>
        <h2>
          <Link to={`/enquiry/${enquiry.id}`}>{clientName}</Link>
        </h2>
        <Button size="compact-sm" variant="subtle" onClick={onClose}>
          Close
        </Button>
      </div>
      <EnquiryFacts view={view} />
      <CameByForm receipt={view.receipt} />
      <div className={table.form}>
        <p className={table.quiet}>Into another stage:</p>
        <div className={table.acts} role="group" aria-label="Into another stage">
          {others.map(({ name }) => (
            <Button
              key={name}
              size="compact-md"
              variant="default"
              onClick={() => onMove({ ...enquiry, clientName }, name)}
            >
              {name}…
            </Button>
          ))}
        </div>
      </div>
      <OfferedMoves moves={view.moves} onPress={onPress} />
      <PressedReport pressed={view.pressed} />
      <Checklist view={view} />
      <EveningLetter view={view} />
    </>
  )
}

/** An enquiry beside the board: its facts, where it can go, its checklist and its evening letter. */
export function OpenEnquiry({ id, ...of }: OpenEnquiryProps) {
  const enquiry = useAsk('enquiry', { parameters: { id } })
  if (enquiry.error) return <ErrorState problem={enquiry.error} onAgain={() => void enquiry.refetch()} />
  return enquiry.data ? <Open key={id} view={enquiry.data} {...of} /> : <Waiting />
}
