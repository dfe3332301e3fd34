import { Select } from '@mantine/core'
import type { PreviewLine, PreviewView } from '#core/api/sequenceEndpoints.ts'
import { realZones } from '#core/time/realZones.ts'
import { hardCases, type HardCase } from '#core/rehearsal/hardCases.ts'
import { useAsk } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { EmptyState } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './sequences.module.css'
import type { Previewing } from './usePreview.ts'

/** Lines of a trace that changed a time, or that say why nothing goes. */
function reasonsOf({ trace, reason, goes }: PreviewLine): readonly string[] {
  const changed = trace
    .filter(({ rule, before, after }) => rule !== 'wanted' && before !== after)
    .map(({ sentence }) => sentence)
  return [...new Set([...changed, ...(reason && !goes ? [reason.sentence] : [])])]
}

/** More of one repeating step than this are only counted. */
const mostRepeats = 6

function Line({
  line,
  ordinal,
  needsApproval,
}: {
  line: PreviewLine
  ordinal: string
  needsApproval: boolean
}) {
  const { at, action, goes, to } = line
  return (
    <li className={styles.previewLine} data-goes={goes}>
      <span className={table.time}>{at === null ? 'no time' : <When at={at} />}</span>
      <div>
        <p>
          {goes ? <b>{action}</b> : <s>{action}</s>}
          {ordinal !== '' && <span className={table.quiet}> {ordinal}</span>}
          {needsApproval && goes && <span className={styles.waits}> ◐ waits for you</span>}
          {!goes && <span className={table.quiet}> – not sent</span>}
        </p>
        {reasonsOf(line).map((sentence) => (
          <p key={sentence} className={styles.why}>
            {sentence}
          </p>
        ))}
        {to !== null && goes && <p className={styles.why}>to {to}</p>}
      </div>
    </li>
  )
}

function Lines({ view, approvals }: { view: PreviewView; approvals: ReadonlySet<string> }) {
  const count = (stepId: string) => view.lines.filter((one) => one.stepId === stepId).length
  const seen = new Map<string, number>()
  return (
    <ul className={styles.previewLines}>
      {view.lines.map((line) => {
        const all = count(line.stepId)
        const index = (seen.get(line.stepId) ?? 0) + 1
        seen.set(line.stepId, index)
        if (index > mostRepeats) return null
        const more = index === mostRepeats && all > mostRepeats ? `, and ${all - mostRepeats} more` : ''
        const ordinal = all > 1 ? `${index} of ${all}${more}` : ''
        return <Line key={line.id} line={line} ordinal={ordinal} needsApproval={approvals.has(line.stepId)} />
      })}
    </ul>
  )
}

function Surprises({ view }: { view: PreviewView }) {
  const sentences = [...new Set(view.surprises.map(({ sentence }) => sentence))]
  if (sentences.length === 0) return <p className={styles.calm}>✓ Nothing here would surprise.</p>
  return <Warnings sentences={sentences} />
}

function Warnings({ sentences }: { sentences: readonly string[] }) {
  return (
    <section className={styles.surprises} aria-label="Warnings">
      <h3>✕ Warnings</h3>
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </section>
  )
}

const caseWords: Readonly<Record<HardCase, string>> = {
  'as it is': 'as booked',
  'booked the evening before': 'if it were booked the evening before',
  'booked an hour before': 'if it were booked an hour before',
  'on a Sunday': 'if it were on a Sunday',
  'in the night': 'if it were at three in the night',
  'over the clock change': 'if the clocks were changed that day',
  'living elsewhere': 'if the client lived in New York',
  'moved there and back': 'if it were moved the day before, and back',
}

/** What would surprise about a sequence whoever it is for, where there is nobody to look at it with. */
function DesignWarnings({ id }: { id: string }) {
  const lines = useAsk('sequences').data?.sequences
  const surprises = lines?.find(({ sequence }) => sequence.id === id)?.surprises ?? []
  if (surprises.length === 0) return null
  return <Warnings sentences={surprises.map(({ sentence }) => sentence)} />
}

interface PreviewProps {
  readonly sequenceId: string
  readonly previewing: Previewing
  /** Steps a person approves. */
  readonly approvals: ReadonlySet<string>
}

/** What the sequence makes of somebody real: weekday, date and time of every step, and why. */
export function Preview({ sequenceId, previewing, approvals }: PreviewProps) {
  const { subjects, chosen, choose, hardCase, setHardCase, view, problem, isBehind } = previewing
  return (
    <section className={table.sheet} aria-label="Preview with a real booking" aria-busy={isBehind}>
      <h2 className={table.group}>
        Preview with a real booking <small>Nothing is sent.</small>
      </h2>
      <div className={styles.previewHead}>
        <Select
          label="Preview with"
          searchable
          allowDeselect={false}
          nothingFoundMessage="Nobody of that name"
          placeholder="nobody yet"
          data={subjects.map(({ subject, label }) => ({ value: subject.id, label }))}
          value={chosen?.subject.id ?? null}
          onChange={(id) => id !== null && choose(id)}
        />
        {chosen?.subject.kind === 'booking' && (
          <Select
            label="What if"
            allowDeselect={false}
            data={hardCases.map((value) => ({ value, label: caseWords[value] }))}
            value={hardCase}
            onChange={(value) => value !== null && setHardCase(value)}
          />
        )}
      </div>
      <Problem of={problem} />
      {chosen === null && (
        <>
          <EmptyState title="There is nobody to look at it with.">
            <p>Once there is a booking, an enquiry or a client it fits, their dates stand here.</p>
          </EmptyState>
          <DesignWarnings id={sequenceId} />
        </>
      )}
      {view && (
        <>
          <p className={styles.begins}>
            It begins <When at={view.startsAt} />
            {view.event && (
              <>
                {' '}
                · day 0 is <When at={view.event.startAt} inZone={realZones.zone(view.zoneName)} />
              </>
            )}
          </p>
          <Lines view={view} approvals={approvals} />
          <Surprises view={view} />
        </>
      )}
    </section>
  )
}
