import { Autocomplete, Button, NumberInput, Select, Switch, Textarea, TextInput } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import { statusesByHand } from '#core/model/inHouse.ts'
import type { MovePartKind } from '#core/model/onePressMove.ts'
import table from '../../parts/timetable.module.css'
import { newPart, partsToAdd, type MoveDraft, type PartDraft } from './moveDraft.ts'
import styles from './setup.module.css'

const kindWords: Readonly<Record<MovePartKind, string>> = {
  stage: 'Stage',
  status: 'Status',
  'date stamp': 'Date',
  tag: 'Tag',
  task: 'Task',
  field: 'Own field',
}

type Part = PartDraft['part']

interface PartProps<Kind extends MovePartKind> {
  readonly part: Extract<Part, { kind: Kind }>
  readonly settings: SettingsView
  /** What is wrong with one of its fields; undefined: nothing. */
  readonly faultOf: (field: string) => string | undefined
  readonly set: (part: Part) => void
}

const inUse = ({ namesInUse }: SettingsView, kind: 'stage' | 'tag') =>
  namesInUse.filter((one) => one.kind === kind).map(({ name }) => name)

function StageFields({ part, settings, faultOf, set }: PartProps<'stage'>) {
  return (
    <>
      <Select
        label="Into the stage"
        placeholder="choose a stage"
        allowDeselect={false}
        data={inUse(settings, 'stage')}
        value={part.stage === '' ? null : part.stage}
        error={faultOf('stage')}
        onChange={(stage) => set({ ...part, stage: stage ?? '' })}
      />
      <TextInput
        label="Why, where it means lost"
        value={part.reason}
        error={faultOf('reason')}
        onChange={(event) => set({ ...part, reason: event.currentTarget.value })}
      />
    </>
  )
}

function StatusFields({ part, settings, faultOf, set }: PartProps<'status'>) {
  const own = settings.ownStatuses.filter(({ isActive }) => isActive).map(({ name }) => name)
  return (
    <Select
      label="Status"
      allowDeselect={false}
      data={[...statusesByHand, ...own]}
      value={part.status}
      error={faultOf('status')}
      onChange={(status) => status !== null && set({ ...part, status })}
    />
  )
}

const StampFields = ({ part, faultOf, set }: PartProps<'date stamp'>) => (
  <TextInput
    label="Note today as the date of"
    placeholder="such as “agreement sent”"
    value={part.label}
    error={faultOf('label')}
    onChange={(event) => set({ ...part, label: event.currentTarget.value })}
  />
)

const TagFields = ({ part, settings, faultOf, set }: PartProps<'tag'>) => (
  <>
    <Autocomplete
      label="Tag of the client"
      data={inUse(settings, 'tag')}
      value={part.tag}
      error={faultOf('tag')}
      onChange={(tag) => set({ ...part, tag })}
    />
    <Switch
      label="Add it"
      checked={part.adds}
      onChange={(event) => set({ ...part, adds: event.currentTarget.checked })}
    />
  </>
)

const TaskFields = ({ part, faultOf, set }: PartProps<'task'>) => (
  <>
    <TextInput
      label="Task of who is in charge"
      value={part.title}
      error={faultOf('title')}
      onChange={(event) => set({ ...part, title: event.currentTarget.value })}
    />
    <NumberInput
      label="Within days"
      min={0}
      max={1000}
      allowDecimal={false}
      value={part.dueInDays}
      error={faultOf('dueInDays')}
      onChange={(dueInDays) => set({ ...part, dueInDays })}
    />
  </>
)

const OwnFieldFields = ({ part, faultOf, set }: PartProps<'field'>) => (
  <>
    <TextInput
      label="Own field"
      placeholder="such as “Agreement”"
      value={part.field}
      error={faultOf('field')}
      onChange={(event) => set({ ...part, field: event.currentTarget.value })}
    />
    <Textarea
      label="Says"
      placeholder="empty: it goes"
      autosize
      minRows={1}
      value={part.value}
      error={faultOf('value')}
      onChange={(event) => set({ ...part, value: event.currentTarget.value })}
    />
  </>
)

/** What is set in a part of a move. */
function PartFields({ part, ...of }: Omit<PartProps<MovePartKind>, 'part'> & { readonly part: Part }) {
  switch (part.kind) {
    case 'stage':
      return <StageFields part={part} {...of} />
    case 'status':
      return <StatusFields part={part} {...of} />
    case 'date stamp':
      return <StampFields part={part} {...of} />
    case 'tag':
      return <TagFields part={part} {...of} />
    case 'task':
      return <TaskFields part={part} {...of} />
    case 'field':
      return <OwnFieldFields part={part} {...of} />
  }
}

interface MovePartsProps {
  readonly draft: MoveDraft
  readonly settings: SettingsView
  readonly faults: Readonly<Record<string, string>>
  readonly set: (parts: readonly PartDraft[]) => void
}

/** What a move does beside its letter, in the order in which it is done. */
export function MoveParts({ draft, settings, faults, set }: MovePartsProps) {
  const { parts } = draft
  return (
    <>
      {parts.map(({ key, part }, index) => (
        <fieldset key={key} className={styles.departure}>
          <legend>
            {index + 1}. {kindWords[part.kind]}
          </legend>
          <div className={styles.several}>
            <PartFields
              part={part}
              settings={settings}
              faultOf={(field) => faults[`parts.${index}.${field}`]}
              set={(next) => set(parts.with(index, { key, part: next }))}
            />
            <Button
              variant="default"
              style={{ justifySelf: 'start' }}
              aria-label={`Remove part ${index + 1}`}
              onClick={() => set(parts.toSpliced(index, 1))}
            >
              Remove
            </Button>
          </div>
          {faults[`parts.${index}`] !== undefined && (
            <p role="alert" className={styles.fault}>
              ✕ {faults[`parts.${index}`]}
            </p>
          )}
        </fieldset>
      ))}
      <div className={table.acts} role="group" aria-label="Add a part">
        {partsToAdd(draft).map((kind) => (
          <Button
            key={kind}
            variant="default"
            size="compact-md"
            onClick={() => set([...parts, newPart(kind)])}
          >
            + {kindWords[kind]}
          </Button>
        ))}
      </div>
      {faults['parts'] !== undefined && (
        <p role="alert" className={styles.fault}>
          ✕ {faults['parts']}
        </p>
      )}
    </>
  )
}
