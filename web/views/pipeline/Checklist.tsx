import { Button, Checkbox } from '@mantine/core'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { Tick } from '#core/model/enquiry.ts'
import type { ChecklistLine, Stage } from '#core/model/pipeline.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './pipeline.module.css'

/** Who ticked a line and when, and what the client knows of it. */
function Ticked({ tick, line }: { tick: Tick | undefined; line: ChecklistLine }) {
  const settings = useAsk('settings')
  const by = settings.data?.people.find(({ id }) => id === tick?.personId)?.name
  return (
    <small>
      {tick?.at != null && (
        <>
          <When at={tick.at} />
          {by !== undefined && ` by ${by}`}
          {line.sentence !== '' && ' · '}
        </>
      )}
      {line.sentence !== '' &&
        (tick?.toldAt == null ? (
          <>tells “{line.sentence}”</>
        ) : (
          <>
            told <When at={tick.toldAt} />
          </>
        ))}
    </small>
  )
}

function Line({ view, line }: { view: EnquiryView; line: ChecklistLine }) {
  const { id, ticks } = view.enquiry
  const tick = ticks.find(({ lineId }) => lineId === line.id)
  const isTicked = tick?.at != null
  const on = useTell('tickLine')
  const off = useTell('untickLine')
  const again = useTell('tellAgain')
  const args = { parameters: { id }, body: { lineId: line.id } }
  const isBusy = on.isPending || off.isPending || again.isPending
  return (
    <li>
      <Checkbox
        label={line.words}
        checked={isTicked}
        disabled={isBusy}
        onChange={() => (isTicked ? off : on).mutate(args)}
      />
      <Ticked tick={tick} line={line} />
      {isTicked && tick.toldAt !== null && (
        <Button
          size="compact-xs"
          variant="subtle"
          ml="1.5rem"
          loading={again.isPending}
          onClick={() => again.mutate(args)}
        >
          Tell again
        </Button>
      )}
      <Problem of={on.error ?? off.error ?? again.error} />
    </li>
  )
}

/** The stages whose lines are shown: the present one, and those of which something is ticked. */
const shownStages = ({ pipeline, enquiry }: EnquiryView): readonly Stage[] =>
  pipeline.stages.filter(
    ({ name, checklist }) =>
      checklist.length > 0 &&
      (name === enquiry.stage ||
        checklist.some(({ id }) => enquiry.ticks.some(({ lineId, at }) => lineId === id && at !== null))),
  )

/** What is to be done for an enquiry in its stage, ticked line by line. */
export function Checklist({ view }: { view: EnquiryView }) {
  const stages = shownStages(view)
  if (stages.length === 0) return null
  return (
    <section aria-label="Checklist">
      <h2 className={table.group}>Checklist</h2>
      {stages.map(({ name, checklist }) => (
        <div key={name}>
          {stages.length > 1 && <h3 className={table.part}>{name}</h3>}
          <ul className={styles.checklist}>
            {checklist.map((line) => (
              <Line key={line.id} view={view} line={line} />
            ))}
          </ul>
        </div>
      ))}
    </section>
  )
}
