import { Button, Group, Select } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { LetterMoment } from '#core/model/letter.ts'
import { plainStep, type PlainStep, type Step } from '#core/model/step.ts'
import type { Purpose } from '#core/model/timing.ts'
import { newMail, withNewStep, type StepPlace } from '#core/sequences/editing.ts'
import { usualTiming } from '#core/sequences/usualTiming.ts'
import type { OpenPart } from './openPart.ts'
import { PurposeSelect } from './PurposeSelect.tsx'
import styles from './sequences.module.css'

type Kind = PlainStep['kind'] | 'branch'

const kindWords: readonly { readonly value: Kind; readonly label: string }[] = [
  { value: 'mail', label: 'Send a letter' },
  { value: 'text message', label: 'Send a text message' },
  { value: 'note to staff', label: 'Write a note to staff' },
  { value: 'task', label: 'Set a task for a person' },
  { value: 'tag', label: 'Add or take off a tag' },
  { value: 'stage', label: 'Move to a stage' },
  { value: 'status', label: 'Give the booking a status' },
  { value: 'date stamp', label: 'Stamp a date' },
  { value: 'list', label: 'Join or leave a list' },
  { value: 'sequence', label: 'Start or stop another sequence' },
  { value: 'web call', label: 'Call a web address' },
  { value: 'branch', label: 'Fork: two ways' },
]

/** The moments in a booking's life at which letters of a purpose go. */
const momentsOf: Partial<Readonly<Record<Purpose, readonly LetterMoment[]>>> = {
  confirmation: ['booked', 'asked'],
  reminder: ['the day', 'before'],
  preparation: ['before'],
  'follow-up': ['after'],
  promotional: ['later'],
}

/** Letters in the order in which they fit a purpose. */
function fitting({ letters }: SettingsView, purpose: Purpose) {
  const moments = momentsOf[purpose] ?? []
  const rank = (moment: LetterMoment) => {
    const index = moments.indexOf(moment)
    return index < 0 ? moments.length : index
  }
  return letters
    .filter((one) => (one.class === 'promotional') === (purpose === 'promotional'))
    .toSorted((one, other) => rank(one.moment) - rank(other.moment))
}

const fieldsOf: Partial<Readonly<Record<Kind, object>>> = {
  'text message': { words: [{ kind: 'text', text: 'See you soon.' }] },
  'note to staff': { about: 'For your information', words: [{ kind: 'text', text: 'Please look at this.' }] },
  task: { title: 'Call the client' },
  tag: { tag: 'to look at' },
  stage: { stage: 'next' },
  status: { status: 'missed' },
  'date stamp': { label: 'agreement sent' },
  list: { list: 'news' },
  'web call': { url: 'https://house.example/hook' },
}

function stepOf(
  kind: Kind,
  id: string,
  purpose: Exclude<Purpose, 'internal'>,
  letterId: string | null,
  design: SequenceDesign,
  settings: SettingsView,
): Step | null {
  const { start } = design
  const timing = usualTiming('internal', start)
  if (kind === 'mail') return letterId === null ? null : newMail(id, purpose, letterId, start)
  if (kind === 'branch') {
    const condition = { field: 'since the run started: answered', comparison: 'is', value: true } as const
    return {
      kind,
      id,
      condition,
      timing: { kind: 'after previous', amount: 3, unit: 'days', atTime: null },
      yes: [],
      no: [],
    }
  }
  if (kind === 'text message') {
    return plainStep.parse({ kind, id, purpose, timing: usualTiming(purpose, start), ...fieldsOf[kind] })
  }
  const other = settings.sequences[0]
  if (kind === 'sequence') return other ? plainStep.parse({ kind, id, timing, sequenceId: other.id }) : null
  return plainStep.parse({ kind, id, timing, ...fieldsOf[kind] })
}

interface AddStepProps {
  readonly design: SequenceDesign
  readonly change: (next: SequenceDesign) => void
  readonly settings: SettingsView
  readonly place: StepPlace
  readonly onOpen: (open: OpenPart) => void
}

function Buttons({ onClose }: { onClose: () => void }) {
  return (
    <Group gap="xs">
      <Button type="submit" size="compact-md">
        Add it
      </Button>
      <Button variant="default" size="compact-md" onClick={onClose}>
        Leave it
      </Button>
    </Group>
  )
}

function AddStepForm({
  design,
  change,
  settings,
  place,
  onOpen,
  onClose,
}: AddStepProps & { onClose: () => void }) {
  const [kind, setKind] = useState<Kind>('mail')
  const [purpose, setPurpose] = useState<Exclude<Purpose, 'internal'>>('reminder')
  const [chosen, setChosen] = useState<string | null>(null)
  const letters = fitting(settings, purpose)
  const letterId = letters.some(({ id }) => id === chosen) ? chosen : (letters[0]?.id ?? null)
  const add = () => {
    const id = `st_${crypto.randomUUID()}`
    const step = stepOf(kind, id, purpose, letterId, design, settings)
    if (step === null) return
    change({ ...design, steps: [...withNewStep(design.steps, place, step)] })
    onOpen({ stepId: id, key: kind === 'branch' ? 'only if' : 'when' })
    onClose()
  }
  const isMessage = kind === 'mail' || kind === 'text message'
  return (
    <form
      className={styles.editor}
      aria-label="A new step"
      onSubmit={(event) => {
        event.preventDefault()
        add()
      }}
    >
      <Group gap="sm" align="end">
        {isMessage && <PurposeSelect value={purpose} onChange={setPurpose} />}
        <Select
          label="What it does"
          w="15rem"
          allowDeselect={false}
          data={[...kindWords]}
          value={kind}
          onChange={(next) => next !== null && setKind(next)}
        />
        {kind === 'mail' && (
          <Select
            label="Letter"
            w="16rem"
            searchable
            allowDeselect={false}
            data={letters.map(({ id, name }) => ({ value: id, label: name }))}
            value={letterId}
            onChange={setChosen}
          />
        )}
      </Group>
      <Buttons onClose={onClose} />
      {kind === 'mail' && letterId === null && <p>There is no letter for that yet. Write one first.</p>}
    </form>
  )
}

/** A new step: its purpose first, then what it does; everything else is as the purpose says until it is changed. */
export function AddStep(props: AddStepProps) {
  const [isOpen, setOpen] = useState(false)
  if (isOpen) return <AddStepForm {...props} onClose={() => setOpen(false)} />
  const where = props.place === null ? '' : props.place.side === 'yes' ? ' if so' : ' if not'
  return (
    <p className={styles.add}>
      <Button variant="default" size="compact-md" onClick={() => setOpen(true)}>
        Add a step{where}
      </Button>
    </p>
  )
}
