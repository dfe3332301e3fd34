import { Autocomplete, Group, NumberInput, Select } from '@mantine/core'
import type { StartRule } from '#core/model/sequence.ts'
import { startTraits } from '#core/model/startEvent.ts'
import type { SubjectKind } from '#core/model/subject.ts'
import {
  anchor,
  anchorTraits,
  calendarUnit,
  exactUnit,
  yearlyOffset,
  type Anchor,
  type Span,
  type Timing,
} from '#core/model/timing.ts'
import { anchorWords } from '#core/sequences/anchorWords.ts'
import { eventAnchor } from '#core/sequences/dayZero.ts'
import { isDateAnchor } from '#core/sequences/span.ts'
import { useDateLabels } from '../../app/dateLabels.ts'
import { ClockField } from '../../parts/ClockField.tsx'

const units: readonly Span['unit'][] = [...exactUnit.options, ...calendarUnit.options]
const isExact = (unit: Span['unit']) => (exactUnit.options as readonly string[]).includes(unit)

interface SpanFieldsProps {
  readonly label: string
  readonly span: Span
  readonly onChange: (span: Span) => void
  readonly only?: readonly Span['unit'][]
}

/** So many of a unit. */
export function SpanFields({ label, span, onChange, only = units }: SpanFieldsProps) {
  return (
    <Group gap="xs" align="end" wrap="nowrap">
      <NumberInput
        label={label}
        w="6rem"
        min={0}
        max={10_000}
        allowDecimal={false}
        value={span.amount}
        onChange={(amount) => typeof amount === 'number' && onChange({ ...span, amount })}
      />
      <Select
        aria-label={`${label}: unit`}
        w="9.5rem"
        allowDeselect={false}
        data={[...only]}
        value={span.unit}
        onChange={(unit) => unit !== null && onChange({ ...span, unit: unit })}
      />
    </Group>
  )
}

type Offer = (start: StartRule) => readonly Anchor[]

const plainly = (of: Anchor['of']): Offer => {
  const one = anchor.parse({ of })
  return () => [one]
}

/** As what an anchor can be chosen, in the order of the list; what a start rule does not name is not offered. */
const offered: Readonly<Record<Anchor['of'], Offer>> = {
  'booking start': plainly('booking start'),
  'booking end': plainly('booking end'),
  'booking made': plainly('booking made'),
  'booking moved': plainly('booking moved'),
  'booking status': () => [
    { of: 'booking status', status: 'confirmed' },
    { of: 'booking status', status: 'completed' },
  ],
  'booking own status': ({ on, name }) =>
    on === 'booking status entered' && name !== null ? [{ of: 'booking own status', status: name }] : [],
  'enquiry received': plainly('enquiry received'),
  'enquiry wished date': plainly('enquiry wished date'),
  'enquiry deadline': plainly('enquiry deadline'),
  'enquiry stage': ({ name }) => (name === null ? [] : [{ of: 'enquiry stage', stage: name }]),
  'invoice due': plainly('invoice due'),
  'invoice issued': plainly('invoice issued'),
  'invoice paid': plainly('invoice paid'),
  'list joined': ({ on, name }) =>
    on === 'list joined' && name !== null ? [{ of: 'list joined', list: name }] : [],
  'tag added': ({ on, name }) =>
    on === 'tag added' && name !== null ? [{ of: 'tag added', tag: name }] : [],
  'date stamped': () => [],
  'run started': plainly('run started'),
}
const anchorKinds = Object.keys(offered) as readonly Anchor['of'][]

/** Whose moments a step can count from, by what its sequence works for. */
const moments: Readonly<Record<SubjectKind, readonly (SubjectKind | 'run')[]>> = {
  booking: ['booking', 'run'],
  enquiry: ['enquiry', 'run'],
  invoice: ['invoice', 'booking', 'run'],
  client: ['run', 'client'],
}

/** What a step of a sequence can count from. */
export function anchorsFor(start: StartRule): readonly Anchor[] {
  const { subject } = startTraits[start.on]
  return moments[subject].flatMap((about) =>
    anchorKinds.filter((of) => anchorTraits[of].about === about).flatMap((of) => offered[of](start)),
  )
}

type Offset = Extract<Timing, { anchor: Anchor }>

/** An offset with another unit: what goes only with days, or only with hours, is set anew. */
function offsetOf(span: Span, direction: Offset['direction'], anchor: Anchor, atTime: string | null): Offset {
  const { amount, unit } = span
  if (isExact(unit) && !isDateAnchor(anchor)) {
    return { kind: 'elapsed', amount, unit: exactUnit.parse(unit), direction, anchor }
  }
  const days = isExact(unit) ? ('days' as const) : calendarUnit.parse(unit)
  return {
    kind: 'calendar',
    amount,
    unit: days,
    direction,
    anchor,
    atTime: atTime ?? (isDateAnchor(anchor) ? '09:00' : null),
  }
}

interface WhenEditorProps {
  readonly timing: Timing
  readonly start: StartRule
  readonly onChange: (timing: Timing) => void
}

const kinds = [
  { value: 'at once', label: 'at once' },
  { value: 'offset', label: 'before or after a moment' },
  { value: 'after previous', label: 'after the step before' },
  { value: 'yearly', label: 'every year on a date' },
  { value: 'evening', label: 'in the evening, what was ticked' },
]

function timingOfKind(kind: string, timing: Timing, start: StartRule): Timing {
  const [first = { of: 'run started' } as const] = anchorsFor(start)
  const event = eventAnchor(start)
  switch (kind) {
    case 'offset':
      return offsetOf({ amount: 1, unit: 'days' }, event === null ? 'after' : 'before', first, '18:00')
    case 'after previous':
      return { kind: 'after previous', amount: 2, unit: 'days', atTime: '10:00' }
    case 'yearly':
      return { kind: 'yearly', label: start.name ?? 'birthday', daysBefore: 0, offset: null, atTime: '09:00' }
    case 'evening':
      return { kind: 'evening', atTime: '18:00' }
    default:
      return timing.kind === 'at once' ? timing : { kind: 'at once' }
  }
}

function OffsetFields({ timing, start, onChange }: WhenEditorProps & { timing: Offset }) {
  const { amount, unit, direction, anchor } = timing
  const atTime = timing.kind === 'calendar' ? timing.atTime : null
  const anchors = anchorsFor(start)
  const known = anchors.some((one) => JSON.stringify(one) === JSON.stringify(anchor))
  const choices = known ? anchors : [...anchors, anchor]
  return (
    <>
      <SpanFields
        label="How long"
        span={{ amount, unit }}
        only={isDateAnchor(anchor) ? calendarUnit.options : units}
        onChange={(span) =>
          onChange(offsetOf(span, direction, anchor, atTime ?? (isExact(unit) ? '18:00' : null)))
        }
      />
      <Select
        label="Side"
        w="7rem"
        allowDeselect={false}
        data={['before', 'after']}
        value={direction}
        onChange={(side) =>
          side !== null && onChange({ ...timing, direction: side === 'before' ? 'before' : 'after' })
        }
      />
      <Select
        label="Counted from"
        w="16rem"
        allowDeselect={false}
        data={choices.map((one) => ({ value: JSON.stringify(one), label: anchorWords(one) }))}
        value={JSON.stringify(anchor)}
        onChange={(text) => {
          if (text !== null)
            onChange(offsetOf({ amount, unit }, direction, JSON.parse(text) as Anchor, atTime))
        }}
      />
    </>
  )
}

type Yearly = Extract<Timing, { kind: 'yearly' }>

const yearlyUnits = ['days', 'working days', 'weeks', 'months'] as const

function YearlyFields({ timing, onChange }: { timing: Yearly; onChange: (timing: Timing) => void }) {
  const labels = useDateLabels()
  const { amount, unit, direction } = yearlyOffset(timing)
  const put = (offset: Yearly['offset']) => onChange({ ...timing, daysBefore: 0, offset })
  return (
    <>
      <Autocomplete
        label="Which date"
        w="9rem"
        data={[...labels]}
        value={timing.label}
        onChange={(label) => label.trim() !== '' && onChange({ ...timing, label })}
      />
      <SpanFields
        label="How long"
        span={{ amount, unit }}
        only={yearlyUnits}
        onChange={(span) => put({ amount: span.amount, unit: calendarUnit.parse(span.unit), direction })}
      />
      <Select
        label="Side"
        w="7rem"
        allowDeselect={false}
        data={['before', 'after']}
        value={direction}
        onChange={(side) => put({ amount, unit, direction: side === 'after' ? 'after' : 'before' })}
      />
    </>
  )
}

/** The time of day of a step counted in days. */
function TimeFields({ timing, onChange }: Pick<WhenEditorProps, 'timing' | 'onChange'>) {
  const hasTime = 'atTime' in timing && (timing.kind !== 'after previous' || !isExact(timing.unit))
  const canBeSame = timing.kind === 'calendar' && !isDateAnchor(timing.anchor)
  return (
    <>
      {canBeSame && (
        <Select
          label="Time of day"
          w="13rem"
          allowDeselect={false}
          data={[
            { value: 'set', label: 'at a set time' },
            { value: 'same', label: 'the same as the event’s' },
          ]}
          value={timing.atTime === null ? 'same' : 'set'}
          onChange={(which) => onChange({ ...timing, atTime: which === 'same' ? null : '18:00' })}
        />
      )}
      {hasTime && timing.atTime !== null && (
        <ClockField
          label="At"
          value={timing.atTime}
          onChange={(atTime) => /^\d\d:\d\d$/.test(atTime) && onChange({ ...timing, atTime })}
        />
      )}
      {timing.kind === 'after previous' && hasTime && timing.atTime === null && (
        <ClockField
          label="At"
          value=""
          onChange={(atTime) => /^\d\d:\d\d$/.test(atTime) && onChange({ ...timing, atTime })}
        />
      )}
    </>
  )
}

/** When a step goes. */
export function WhenEditor({ timing, start, onChange }: WhenEditorProps) {
  const isOffset = timing.kind === 'elapsed' || timing.kind === 'calendar'
  return (
    <Group gap="sm" align="end">
      <Select
        label="When"
        w="14rem"
        allowDeselect={false}
        data={kinds.filter(({ value }) => value !== 'evening' || startTraits[start.on].subject === 'enquiry')}
        value={isOffset ? 'offset' : timing.kind}
        onChange={(kind) => kind !== null && onChange(timingOfKind(kind, timing, start))}
      />
      {isOffset && <OffsetFields timing={timing} start={start} onChange={onChange} />}
      {timing.kind === 'after previous' && (
        <SpanFields
          label="How long"
          span={timing}
          onChange={({ amount, unit }) =>
            onChange({ ...timing, amount, unit, atTime: isExact(unit) ? null : timing.atTime })
          }
        />
      )}
      {timing.kind === 'yearly' && <YearlyFields timing={timing} onChange={onChange} />}
      <TimeFields timing={timing} onChange={onChange} />
    </Group>
  )
}
