import { Button, Checkbox, MultiSelect, Select, TextInput } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import {
  consentGiven,
  fillsOf,
  formFieldKind,
  formFill,
  isChosen,
  knownAnswers,
  type FormField,
} from '#core/model/form.ts'
import table from '../../parts/timetable.module.css'
import { asKind, fieldKindWords, fillWords, showing } from './formDraft.ts'
import styles from './setup.module.css'

type Faults = Readonly<Record<string, string>>

interface FieldProps {
  readonly field: FormField
  readonly fields: readonly FormField[]
  readonly place: number
  readonly faults: Faults
  readonly settings: SettingsView
  readonly set: (field: FormField) => void
}

/** The answers there are, each with the service it chooses. */
function Options({ field, place, faults, settings, set }: Omit<FieldProps, 'fields'>) {
  const { options } = field
  const name = field.label || `field ${place + 1}`
  const services = settings.services.map(({ id, name: label }) => ({ value: id, label }))
  return (
    <>
      {options.map((option, index) => (
        <div key={index} className={styles.checkLine}>
          <TextInput
            label={`Answer ${index + 1}`}
            value={option.words}
            error={faults[`fields.${place}.options.${index}.words`]}
            onChange={(event) =>
              set({ ...field, options: options.with(index, { ...option, words: event.currentTarget.value }) })
            }
          />
          <Select
            label="Chooses the service"
            placeholder="none"
            clearable
            clearButtonProps={{ 'aria-label': `Answer ${index + 1} chooses no service` }}
            data={services}
            value={option.serviceId}
            onChange={(serviceId) =>
              set({ ...field, options: options.with(index, { ...option, serviceId }) })
            }
          />
          <Button
            variant="default"
            aria-label={`Remove answer ${index + 1} of ${name}`}
            onClick={() => set({ ...field, options: options.toSpliced(index, 1) })}
          >
            Remove
          </Button>
        </div>
      ))}
      <div className={table.acts}>
        <Button
          variant="default"
          size="compact-md"
          aria-label={`Add an answer to ${name}`}
          onClick={() => set({ ...field, options: [...options, { words: '', serviceId: null }] })}
        >
          Add an answer
        </Button>
      </div>
      <Fault of={faults[`fields.${place}.options`]} />
    </>
  )
}

export function Fault({ of }: { of: string | undefined }) {
  if (of === undefined) return null
  return (
    <p role="alert" className={styles.fault}>
      ✕ {of}
    </p>
  )
}

const consentLabel = { value: consentGiven, label: 'it is ticked' }

/** Shown only once an earlier field has one of some answers. */
function ShownIf({ field, fields, place, faults, set }: Omit<FieldProps, 'settings'>) {
  const others = showing(fields, place)
  const { shownIf } = field
  if (others.length === 0 && shownIf === null) return null
  const other = fields.find(({ id }) => id === shownIf?.fieldId)
  const answers = other ? knownAnswers(other).filter(Boolean) : []
  return (
    <div className={styles.several}>
      <Select
        label="Shown only if"
        placeholder="always"
        clearable
        clearButtonProps={{ 'aria-label': 'Shown always' }}
        data={others.map(({ id, label }) => ({ value: id, label }))}
        value={shownIf?.fieldId ?? null}
        error={faults[`fields.${place}.shownIf`]}
        onChange={(fieldId) => {
          const chosen = others.find(({ id }) => id === fieldId)
          const [first = ''] = chosen ? knownAnswers(chosen) : []
          set({ ...field, shownIf: fieldId === null ? null : { fieldId, values: [first] } })
        }}
      />
      {shownIf !== null && (
        <MultiSelect
          label="is answered with"
          data={other?.kind === 'consent' ? [consentLabel] : answers}
          value={shownIf.values.filter((value) => answers.includes(value))}
          error={faults[`fields.${place}.shownIf.values`]}
          onChange={(values) => set({ ...field, shownIf: { ...shownIf, values } })}
        />
      )}
    </div>
  )
}

/** What a field asks, how it is answered, and what the answer says. */
export function FormFieldEditor({ field, fields, place, faults, settings, set }: FieldProps) {
  const path = `fields.${place}`
  const fills = fillsOf[field.kind]
  return (
    <>
      <TextInput
        label={field.kind === 'consent' ? 'What they agree to' : 'What it asks'}
        value={field.label}
        error={faults[`${path}.label`]}
        onChange={(event) => set({ ...field, label: event.currentTarget.value })}
      />
      <div className={styles.several}>
        <Select
          label="Answered with"
          allowDeselect={false}
          data={formFieldKind.options.map((value) => ({ value, label: fieldKindWords[value] }))}
          value={field.kind}
          onChange={(kind) => set(asKind(field, formFieldKind.catch('line').parse(kind)))}
        />
        {fills.length > 0 && (
          <Select
            label="Says"
            placeholder="only itself"
            clearable
            clearButtonProps={{ 'aria-label': 'It says only itself' }}
            data={fills.map((value) => ({ value, label: fillWords[value] }))}
            value={field.fills}
            error={faults[`${path}.fills`]}
            onChange={(fill) => set({ ...field, fills: fill === null ? null : formFill.parse(fill) })}
          />
        )}
        <TextInput
          label="What helps to answer"
          placeholder="nothing"
          value={field.help}
          error={faults[`${path}.help`]}
          onChange={(event) => set({ ...field, help: event.currentTarget.value })}
        />
      </div>
      <Checkbox
        label="It has to be answered"
        checked={field.isRequired}
        onChange={(event) => set({ ...field, isRequired: event.currentTarget.checked })}
      />
      {isChosen(field) && <Options {...{ field, place, faults, settings, set }} />}
      <ShownIf {...{ field, fields, place, faults, set }} />
    </>
  )
}
