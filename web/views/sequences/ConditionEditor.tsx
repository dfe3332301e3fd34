import { Button, Group, MultiSelect, NumberInput, Select, TagsInput, TextInput } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import { fieldTitle, isYesNo } from '#core/conditions/words.ts'
import { bookingStatus } from '#core/model/booking.ts'
import {
  conditionFields,
  type Comparison,
  type Condition,
  type ConditionField,
  type Test,
} from '#core/model/condition.ts'
import { invoiceReason } from '#core/model/dealings.ts'
import { weekdayNames } from '#core/time/calendar.ts'
import styles from './sequences.module.css'

const numeric: readonly ConditionField[] = [
  'booking.party size',
  'booking.hours until start',
  'booking.hours between booking and start',
  'booking.start: hour',
  'booking.made: hour',
  'invoice.amount',
]

const comparisonsFor = (field: ConditionField): readonly Comparison[] => {
  if (isYesNo(field)) return ['is']
  if (numeric.includes(field)) return ['is at least', 'is at most', 'is', 'is not']
  return ['is', 'is not', 'is one of', 'is none of']
}

/** A test to begin with, for a field. */
function testFor(field: ConditionField, settings: SettingsView): Test {
  if (isYesNo(field)) return { field, comparison: 'is', value: true }
  if (numeric.includes(field)) return { field, comparison: 'is at least', value: 1 }
  const service = settings.services[0]?.id ?? ''
  if (field.endsWith('.service')) return { field, comparison: 'is one of', value: [service] }
  if (field.startsWith('booking.status')) return { field, comparison: 'is', value: 'confirmed' }
  if (field === 'booking.own status') {
    return { field, comparison: 'is', value: settings.ownStatuses[0]?.name ?? '' }
  }
  if (field.endsWith(': weekday')) return { field, comparison: 'is one of', value: ['Saturday', 'Sunday'] }
  if (field === 'client.language') return { field, comparison: 'is', value: 'en' }
  return { field, comparison: 'is', value: '' }
}

function choicesOf(
  field: ConditionField,
  settings: SettingsView,
): readonly { readonly value: string; readonly label: string }[] | null {
  const plain = (all: readonly string[]) => all.map((value) => ({ value, label: value }))
  if (field.endsWith('.service')) return settings.services.map(({ id, name }) => ({ value: id, label: name }))
  const own = settings.ownStatuses.map(({ name }) => name)
  if (field === 'booking.own status') return plain(own)
  if (field === 'booking.status ever reached') return plain([...bookingStatus.options, ...own])
  if (field === 'booking.status') return plain(bookingStatus.options)
  if (field === 'invoice.asks for') return plain(invoiceReason.options)
  if (field.endsWith(': weekday')) return plain(weekdayNames)
  if (field === 'client.language')
    return [
      { value: 'en', label: 'English' },
      { value: 'de', label: 'German' },
    ]
  return null
}

function suggestions(field: ConditionField, { namesInUse }: SettingsView): string[] {
  const kind = field === 'client.tag' ? 'tag' : field === 'enquiry.stage' ? 'stage' : null
  return namesInUse.filter((one) => one.kind === kind).map(({ name }) => name)
}

interface TestProps {
  readonly test: Test
  readonly settings: SettingsView
  readonly onChange: (test: Test) => void
}

const isMany = (comparison: Comparison) => comparison === 'is one of' || comparison === 'is none of'

function NumberValue({ test, onChange }: Omit<TestProps, 'settings'>) {
  const [first = 0] = Array.isArray(test.value) ? test.value : [test.value]
  return (
    <NumberInput
      aria-label="Value"
      w="7rem"
      value={Number(first)}
      onChange={(number) => typeof number === 'number' && onChange({ ...test, value: number })}
    />
  )
}

function ValueField({ test, settings, onChange }: TestProps) {
  const { field, comparison, value } = test
  const choices = choicesOf(field, settings)
  const texts = (Array.isArray(value) ? value : [value]).map(String).filter((one) => one !== '')
  if (isYesNo(field)) {
    return (
      <Select
        aria-label="Yes or no"
        w="6rem"
        allowDeselect={false}
        data={[
          { value: 'yes', label: 'yes' },
          { value: 'no', label: 'no' },
        ]}
        value={value === false ? 'no' : 'yes'}
        onChange={(chosen) => onChange({ ...test, value: chosen !== 'no' })}
      />
    )
  }
  if (numeric.includes(field)) return <NumberValue test={test} onChange={onChange} />
  if (isMany(comparison)) {
    const change = (next: string[]) => onChange({ ...test, value: next })
    return choices ? (
      <MultiSelect aria-label="Values" w="18rem" data={[...choices]} value={texts} onChange={change} />
    ) : (
      <TagsInput
        aria-label="Values"
        w="18rem"
        data={suggestions(field, settings)}
        value={texts}
        onChange={change}
      />
    )
  }
  return choices ? (
    <Select
      aria-label="Value"
      w="14rem"
      allowDeselect={false}
      data={[...choices]}
      value={texts[0] ?? null}
      onChange={(chosen) => chosen !== null && onChange({ ...test, value: chosen })}
    />
  ) : (
    <TextInput
      aria-label="Value"
      w="14rem"
      value={texts[0] ?? ''}
      onChange={(event) => onChange({ ...test, value: event.currentTarget.value })}
    />
  )
}

/** The same test with another comparison: one value becomes a list, a list its first value. */
function compared(test: Test, comparison: Comparison): Test {
  const values = Array.isArray(test.value) ? test.value : [test.value]
  if (isMany(comparison)) return { ...test, comparison, value: values.filter((one) => one !== '') }
  return { ...test, comparison, value: values[0] ?? '' }
}

function TestRow({ test, settings, onChange }: TestProps) {
  return (
    <>
      <Select
        aria-label="Fact"
        w="17rem"
        searchable
        allowDeselect={false}
        data={conditionFields.map((field) => ({ value: field, label: fieldTitle(field) }))}
        value={test.field}
        onChange={(field) => field !== null && onChange(testFor(field, settings))}
      />
      {!isYesNo(test.field) && (
        <Select
          aria-label="Comparison"
          w="9rem"
          allowDeselect={false}
          data={[...comparisonsFor(test.field)]}
          value={test.comparison}
          onChange={(comparison) => comparison !== null && onChange(compared(test, comparison))}
        />
      )}
      <ValueField test={test} settings={settings} onChange={onChange} />
    </>
  )
}

type Joiner = 'all' | 'any' | 'none'

function joinerOf(condition: Exclude<Condition, Test>): Joiner {
  if ('all' in condition) return 'all'
  return 'any' in condition ? 'any' : 'none'
}

function partsOf(condition: Condition): readonly Condition[] {
  if ('all' in condition) return condition.all
  if ('any' in condition) return condition.any
  return 'none' in condition ? condition.none : [condition]
}

function joined(joiner: Joiner, parts: readonly Condition[]): Condition {
  switch (joiner) {
    case 'all':
      return { all: parts }
    case 'any':
      return { any: parts }
    case 'none':
      return { none: parts }
  }
}

const joinerWords: readonly { readonly value: Joiner; readonly label: string }[] = [
  { value: 'all', label: 'all of these hold' },
  { value: 'any', label: 'one of these holds' },
  { value: 'none', label: 'none of these holds' },
]

interface ConditionEditorProps {
  readonly condition: Condition | null
  readonly settings: SettingsView
  /** Null: there is no condition any more. */
  readonly onChange: (condition: Condition | null) => void
  readonly depth?: number
}

const deepest = 4

interface PartsProps {
  readonly parts: readonly Condition[]
  readonly settings: SettingsView
  readonly depth: number
  readonly put: (next: readonly Condition[]) => void
}

function Parts({ parts, settings, depth, put }: PartsProps) {
  return (
    <ul className={styles.parts}>
      {parts.map((part, index) => (
        <li key={index}>
          {'field' in part ? (
            <TestRow test={part} settings={settings} onChange={(test) => put(parts.with(index, test))} />
          ) : (
            <ConditionEditor
              condition={part}
              settings={settings}
              depth={depth + 1}
              onChange={(next) => put(next === null ? parts.toSpliced(index, 1) : parts.with(index, next))}
            />
          )}
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => put(parts.toSpliced(index, 1))}
            aria-label={`Remove test ${index + 1}`}
          >
            Remove
          </Button>
        </li>
      ))}
    </ul>
  )
}

/** Tests joined by all, any or none, nested. What it says stands as a clause in the sentence beside it. */
export function ConditionEditor({ condition, settings, onChange, depth = 0 }: ConditionEditorProps) {
  const joiner = condition === null || 'field' in condition ? 'all' : joinerOf(condition)
  const parts = condition === null ? [] : partsOf(condition)
  const put = (next: readonly Condition[], by: Joiner = joiner) => {
    const [only] = next
    if (next.length === 0) onChange(null)
    else if (next.length === 1 && only && 'field' in only && by !== 'none') onChange(only)
    else onChange(joined(by, next))
  }
  const first = testFor(conditionFields[0], settings)
  return (
    <fieldset className={styles.condition}>
      <legend>{depth === 0 ? 'Condition' : 'Part'}</legend>
      {parts.length > 0 && (
        <Select
          aria-label="How they are joined"
          w="13rem"
          allowDeselect={false}
          data={[...joinerWords]}
          value={joiner}
          onChange={(by) => by !== null && put(parts, by)}
        />
      )}
      <Parts parts={parts} settings={settings} depth={depth} put={put} />
      <Group gap="xs">
        <Button size="compact-sm" variant="default" onClick={() => put([...parts, first])}>
          Add a test
        </Button>
        {depth < deepest && (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => put([...parts, { any: [first, first] }])}
          >
            Add a group
          </Button>
        )}
      </Group>
    </fieldset>
  )
}
