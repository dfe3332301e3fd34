import { Button, Select, Textarea } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import type { Pipeline } from '#core/model/pipeline.ts'
import { call } from '../../app/api.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import table from '../../parts/timetable.module.css'

/** An enquiry as far as taking it into another stage goes. */
export type Moved = Pick<EnquiryLine, 'id' | 'revision' | 'stage' | 'clientName'>

interface MoveToProps {
  readonly pipeline: Pipeline
  readonly enquiries: readonly Moved[]
  /** The stage they are to go into; null: it is chosen here. */
  readonly to: string | null
  readonly onClose: () => void
  /** Once they are there; `sendId`: a message that waits to be looked at because of it. */
  readonly onDone: (said: MoveSaid) => void
}

/** What is told once enquiries have gone into a stage. */
export interface MoveSaid {
  readonly words: string
  /** A message that the stage holds for a look; null: none. */
  readonly sendId: string | null
  readonly letterName: string
}

const named = (enquiries: readonly Moved[]) =>
  enquiries.length === 1 ? (enquiries[0]?.clientName ?? '') : `${enquiries.length} enquiries`

/** The message that waits for a look because an enquiry has come into its stage. */
async function waitingOf([first, second]: readonly Moved[]) {
  if (!first || second) return null
  const { sends } = await call('enquiry', { parameters: { id: first.id } })
  return sends.find(({ state, hasTime }) => state === 'waiting' && hasTime) ?? null
}

/** Who takes over in a stage and until when, in words. */
function TakesOver({ pipeline, stage }: { pipeline: Pipeline; stage: string }) {
  const settings = useAsk('settings')
  const found = pipeline.stages.find(({ name }) => name === stage)
  const person = settings.data?.people.find(({ id }) => id === found?.personInChargeId)?.name
  if (!found) return null
  const { meaning, deadlineDays } = found
  const days = deadlineDays === 1 ? '1 day' : `${deadlineDays ?? 0} days`
  const sentences = [
    person === undefined ? '' : `${person} takes it over.`,
    deadlineDays === null ? '' : `The deadline is ${days} from today.`,
    meaning === 'open' ? '' : `It is ${meaning} then: what is at work for it ends.`,
  ].filter(Boolean)
  return <p className={table.quiet}>{sentences.join(' ') || 'Who is in charge stays.'}</p>
}

/** Enquiries on their way into another stage: what that does, then one press. */
export function MoveTo({ pipeline, enquiries, to, onClose, onDone }: MoveToProps) {
  const others = pipeline.stages.filter(({ name }) => enquiries.some(({ stage }) => stage !== name))
  const [chosen, setChosen] = useState(to)
  const [lostReason, setLostReason] = useState('')
  const meaning = pipeline.stages.find(({ name }) => name === chosen)?.meaning
  const move = chosen === null ? null : { stage: chosen, lostReason: meaning === 'lost' ? lostReason : '' }
  const done = async () => {
    const waits = await waitingOf(enquiries).catch(() => null)
    const words = `${named(enquiries)}: now in “${chosen ?? ''}”.`
    onDone({ words, sendId: waits?.id ?? null, letterName: waits?.letterName ?? '' })
  }
  const [only] = enquiries
  const act = { word: 'Move it', takesFocus: meaning !== 'lost', onClose, onDone: () => void done() } as const
  return (
    <div className={table.form}>
      <h2>
        {named(enquiries)}: into {to === null ? 'another stage' : `“${to}”`}
      </h2>
      {to === null && (
        <Select
          label="Stage"
          placeholder="choose a stage"
          allowDeselect={false}
          data={others.map(({ name }) => name)}
          value={chosen}
          onChange={setChosen}
        />
      )}
      {chosen !== null && <TakesOver pipeline={pipeline} stage={chosen} />}
      {meaning === 'lost' && (
        <Textarea
          label="Why did it come to nothing?"
          autosize
          minRows={1}
          maxLength={500}
          value={lostReason}
          onChange={(event) => setLostReason(event.currentTarget.value)}
        />
      )}
      {enquiries.length === 1 && only ? (
        <ConsideredAct
          {...act}
          name="moveEnquiry"
          asked={move && { parameters: { id: only.id }, body: { revision: only.revision, move } }}
        />
      ) : (
        <ConsideredAct
          {...act}
          name="moveEnquiries"
          word="Move them"
          asked={
            move && { body: { enquiries: enquiries.map(({ id, revision }) => ({ id, revision })), move } }
          }
        />
      )}
    </div>
  )
}

/** What came of it, with the way to the message that waits for a look. */
export function Said({ said, onClose }: { said: MoveSaid; onClose: () => void }) {
  return (
    <div className={table.form} role="status">
      <p>✓ {said.words}</p>
      {said.sendId !== null && (
        <p>
          “{said.letterName}” waits to be looked at first.{' '}
          <Link to={`/desk/decide/${said.sendId}`}>Look at it now</Link>
        </p>
      )}
      <div className={table.acts}>
        <Button variant="default" size="compact-md" onClick={onClose}>
          Close
        </Button>
      </div>
    </div>
  )
}
