import { Button, Group, Select } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { LetterMoment } from '#core/model/letter.ts'
import type { StartRule } from '#core/model/sequence.ts'
import {
  isBranch,
  plainStep,
  stepKind,
  stepTraits,
  type MessageStep,
  type Step,
  type StepKind,
} from '#core/model/step.ts'
import type { Purpose } from '#core/model/timing.ts'
import { newMail, withNewStep, type StepPlace } from '#core/sequences/editing.ts'
import { inItsPlace, neighbourFor } from '#core/sequences/placing.ts'
import { usualTiming } from '#core/sequences/usualTiming.ts'
import type { OpenPart } from './openPart.ts'
import { PurposeSelect } from './PurposeSelect.tsx'
import styles from './sequences.module.css'

type Kind = StepKind | 'branch'

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

interface Chosen {
  readonly id: string
  readonly purpose: Exclude<Purpose, 'internal'>
  readonly letterId: string | null
  readonly start: StartRule
  readonly settings: SettingsView
  readonly neighbour: MessageStep | null
}

interface NewKind {
  readonly label: string
  /** The step as it is put in; null: what it needs is not there yet. */
  readonly made: (chosen: Chosen) => Step | null
}

/** A step of a kind that needs nothing but what it says to begin with. */
const inTheHouse =
  (kind: StepKind, fields: object) =>
  ({ id, start }: Chosen): Step =>
    plainStep.parse({ kind, id, timing: usualTiming('internal', start), ...fields })

const newKinds: Readonly<Record<Kind, NewKind>> = {
  mail: {
    label: 'Send a letter',
    made: ({ id, purpose, letterId, start, neighbour }) =>
      letterId === null ? null : newMail(id, purpose, letterId, start, neighbour),
  },
  'text message': {
    label: 'Send a text message',
    made: ({ id, purpose, start }) =>
      plainStep.parse({
        kind: 'text message',
        id,
        purpose,
        timing: usualTiming(purpose, start),
        words: [{ kind: 'text', text: 'See you soon.' }],
      }),
  },
  'note to staff': {
    label: 'Write a note to staff',
    made: inTheHouse('note to staff', {
      about: 'For your information',
      words: [{ kind: 'text', text: 'Please look at this.' }],
    }),
  },
  task: { label: 'Set a task for a person', made: inTheHouse('task', { title: 'Call the client' }) },
  tag: { label: 'Add or take off a tag', made: inTheHouse('tag', { tag: 'to look at' }) },
  stage: { label: 'Move to a stage', made: inTheHouse('stage', { stage: 'next' }) },
  status: { label: 'Give the booking a status', made: inTheHouse('status', { status: 'missed' }) },
  'date stamp': { label: 'Stamp a date', made: inTheHouse('date stamp', { label: 'agreement sent' }) },
  list: { label: 'Join or leave a list', made: inTheHouse('list', { list: 'news' }) },
  sequence: {
    label: 'Start or stop another sequence',
    made: (chosen) => {
      const [other] = chosen.settings.sequences
      return other ? inTheHouse('sequence', { sequenceId: other.id })(chosen) : null
    },
  },
  'web call': {
    label: 'Call a web address',
    made: inTheHouse('web call', { url: 'https://house.example/hook' }),
  },
  branch: {
    label: 'Fork: two ways',
    made: ({ id }) => ({
      kind: 'branch',
      id,
      condition: { field: 'since the run started: answered', comparison: 'is', value: true },
      timing: { kind: 'after previous', amount: 3, unit: 'days', atTime: null },
      yes: [],
      no: [],
    }),
  },
}
const kinds: readonly Kind[] = [...stepKind.options, 'branch']

type ClientPurpose = Exclude<Purpose, 'internal'>

function clientPurposeOf(step: MessageStep | null): ClientPurpose | null {
  return step === null || step.purpose === 'internal' ? null : step.purpose
}

/** The letter of a neighbour of the same purpose, which is the likeliest one. */
function letterOf(neighbour: MessageStep | null, purpose: Purpose): string | null {
  return neighbour?.kind === 'mail' && neighbour.purpose === purpose ? neighbour.letterId : null
}

/** The steps beside which a new one comes to stand. */
function siblingsAt(steps: readonly Step[], place: StepPlace): readonly Step[] {
  if (place === null) return steps
  const found = steps.find(({ id }) => id === place.branchId)
  const within = steps.flatMap((step) =>
    isBranch(step) ? [siblingsAt(step.yes, place), siblingsAt(step.no, place)] : [],
  )
  return found && isBranch(found) ? found[place.side] : (within.find((arm) => arm.length > 0) ?? [])
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
        Cancel
      </Button>
    </Group>
  )
}

/** Purpose and letter of a new message: as its neighbours have them, until others are chosen. */
function useChoice({ design, place, settings }: Pick<AddStepProps, 'design' | 'place' | 'settings'>) {
  const siblings = siblingsAt(design.steps, place)
  const last = neighbourFor(siblings, 'internal')
  const [purpose, setPurpose] = useState(clientPurposeOf(last) ?? 'reminder')
  const [chosen, setLetterId] = useState<string | null>(null)
  const neighbour = neighbourFor(siblings, purpose)
  const letters = fitting(settings, purpose)
  const wanted = chosen ?? letterOf(neighbour, purpose)
  const letterId = letters.some(({ id }) => id === wanted) ? wanted : (letters[0]?.id ?? null)
  return { purpose, setPurpose, letters, letterId, setLetterId, neighbour }
}

function LetterSelect({ choice }: { choice: ReturnType<typeof useChoice> }) {
  return (
    <Select
      label="Letter"
      w="16rem"
      searchable
      selectFirstOptionOnChange
      allowDeselect={false}
      data={choice.letters.map(({ id, name }) => ({ value: id, label: name }))}
      value={choice.letterId}
      onChange={choice.setLetterId}
    />
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
  const choice = useChoice({ design, place, settings })
  const { purpose, letterId, neighbour } = choice
  const add = () => {
    const id = `st_${crypto.randomUUID()}`
    const step = newKinds[kind].made({
      id,
      purpose,
      letterId,
      start: design.start,
      settings,
      neighbour,
    })
    if (step === null) return
    const steps = inItsPlace(withNewStep(design.steps, place, step), id, design.start)
    change({ ...design, steps: [...steps] })
    onOpen({ stepId: id, key: kind === 'branch' ? 'only if' : 'when' })
    onClose()
  }
  const isForClients = kind !== 'branch' && stepTraits[kind].isForClients
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
        {isForClients && <PurposeSelect value={purpose} onChange={choice.setPurpose} />}
        <Select
          label="What it does"
          w="15rem"
          allowDeselect={false}
          data={kinds.map((value) => ({ value, label: newKinds[value].label }))}
          value={kind}
          onChange={(next) => next !== null && setKind(next)}
        />
        {kind === 'mail' && <LetterSelect choice={choice} />}
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
