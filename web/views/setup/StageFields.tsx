import { Button, NumberInput, Select, TextInput } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import { stageMeaning, type ChecklistLine } from '#core/model/pipeline.ts'
import table from '../../parts/timetable.module.css'
import { newLine, type StageDraft } from './pipelineDraft.ts'
import styles from './setup.module.css'

const meaningWords = {
  open: 'still open',
  won: 'won: booked',
  lost: 'lost',
} as const

type Faults = Readonly<Record<string, string>>

interface ChecklistFieldsProps {
  readonly lines: readonly ChecklistLine[]
  readonly faults: Faults
  /** What the paths of its faults begin with. */
  readonly path: string
  readonly stageName: string
  readonly set: (lines: readonly ChecklistLine[]) => void
}

/** What is to be done in a stage, each with what the client is told of it. */
function ChecklistFields({ lines, faults, path, stageName, set }: ChecklistFieldsProps) {
  return (
    <>
      {lines.map((line, index) => (
        <div key={line.id} className={styles.checkLine}>
          <TextInput
            label={`Line ${index + 1}`}
            placeholder="what is to be done"
            value={line.words}
            error={faults[`${path}.${index}.words`]}
            onChange={(event) => set(lines.with(index, { ...line, words: event.currentTarget.value }))}
          />
          <TextInput
            label="Tells the client in the evening"
            placeholder="nothing"
            value={line.sentence}
            error={faults[`${path}.${index}.sentence`]}
            onChange={(event) => set(lines.with(index, { ...line, sentence: event.currentTarget.value }))}
          />
          <Button
            variant="default"
            aria-label={`Remove line ${index + 1} of ${stageName}`}
            onClick={() => set(lines.toSpliced(index, 1))}
          >
            Remove
          </Button>
        </div>
      ))}
      <div className={table.acts}>
        <Button
          variant="default"
          size="compact-md"
          aria-label={`Add a line to ${stageName}`}
          onClick={() => set([...lines, newLine()])}
        >
          Add a line to the checklist
        </Button>
      </div>
    </>
  )
}

interface StageFieldsProps {
  readonly stage: StageDraft
  readonly place: number
  readonly count: number
  readonly people: SettingsView['people']
  readonly faults: Faults
  readonly set: (part: Partial<StageDraft>) => void
  readonly move: (by: -1 | 1) => void
  readonly remove: () => void
}

/** Where a stage stands among the others, and the way to take it out. */
function Places({
  place,
  count,
  move,
  remove,
  name,
}: Pick<StageFieldsProps, 'place' | 'count' | 'move' | 'remove'> & { readonly name: string }) {
  return (
    <div className={table.acts}>
      <Button variant="default" size="compact-md" disabled={place === 0} onClick={() => move(-1)}>
        Earlier
      </Button>
      <Button variant="default" size="compact-md" disabled={place === count - 1} onClick={() => move(1)}>
        Later
      </Button>
      <Button variant="default" size="compact-md" aria-label={`Remove ${name}`} onClick={remove}>
        Remove stage
      </Button>
    </div>
  )
}

/** A stage of a pipeline: what it means, who takes over, until when, what is to be done. */
export function StageFields({ stage, place, count, people, faults, set, move, remove }: StageFieldsProps) {
  const path = `stages.${place}`
  const name = stage.name || `stage ${place + 1}`
  const active = people.filter(({ id, isActive }) => isActive || id === stage.personInChargeId)
  return (
    <fieldset className={styles.departure}>
      <legend>
        {place + 1}. {name}
      </legend>
      <div className={styles.several}>
        <TextInput
          label="Name"
          value={stage.name}
          error={faults[`${path}.name`]}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        <Select
          label="Means"
          allowDeselect={false}
          data={stageMeaning.options.map((value) => ({ value, label: meaningWords[value] }))}
          value={stage.meaning}
          onChange={(meaning) => set({ meaning: stageMeaning.catch('open').parse(meaning) })}
        />
        <Select
          label="Takes over"
          placeholder="who had it before"
          clearable
          clearButtonProps={{ 'aria-label': `Nobody takes over ${name}` }}
          data={active.map(({ id, name: called }) => ({ value: id, label: called }))}
          value={stage.personInChargeId}
          error={faults[`${path}.personInChargeId`]}
          onChange={(personInChargeId) => set({ personInChargeId })}
        />
        <NumberInput
          label="Deadline, in days"
          placeholder="none"
          min={0}
          allowDecimal={false}
          value={stage.deadlineDays}
          error={faults[`${path}.deadlineDays`]}
          onChange={(deadlineDays) => set({ deadlineDays })}
        />
      </div>
      <ChecklistFields
        lines={stage.checklist}
        faults={faults}
        path={`${path}.checklist`}
        stageName={name}
        set={(checklist) => set({ checklist })}
      />
      <Places {...{ place, count, move, remove }} name={name} />
    </fieldset>
  )
}
