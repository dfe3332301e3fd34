import { Button, Group, NumberInput, Select, Switch } from '@mantine/core'
import type { SettingsView } from '#core/api/views.ts'
import type { StartRule } from '#core/model/sequence.ts'
import { isBranch, isMessage, type MessageStep, type PlainStep, type Step } from '#core/model/step.ts'
import type { Repeat, Span } from '#core/model/timing.ts'
import { anchorWords } from '#core/sequences/anchorWords.ts'
import { withTiming } from '#core/sequences/editing.ts'
import { purposeDefaults } from '#core/sequences/purposes.ts'
import type { SentenceKey } from '#core/sequences/sentence.ts'
import { ifLateWords, ifMovedWords, senderWords, sendingHoursWords } from '#core/sequences/stepWords.ts'
import { spanWords } from '#core/sequences/span.ts'
import { ConditionEditor } from './ConditionEditor.tsx'
import { DaysEditor } from './DaysEditor.tsx'
import { RecipientsEditor } from './RecipientsEditor.tsx'
import { WhatEditor } from './WhatEditor.tsx'
import { anchorsFor, SpanFields, WhenEditor } from './WhenEditor.tsx'

interface PartProps {
  readonly step: Step
  readonly start: StartRule
  readonly settings: SettingsView
  readonly onChange: (step: Step) => void
}

type PlainProps = Omit<PartProps, 'step'> & { readonly step: PlainStep }

const unpaid: Repeat = {
  every: { amount: 4, unit: 'days' },
  untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
  untilAnchor: null,
  atMost: 3,
}

function RepeatEditor({ step, start, settings, onChange }: PlainProps) {
  const { repeat } = step
  if (repeat === null) {
    return (
      <Button variant="default" onClick={() => onChange({ ...step, repeat: unpaid })}>
        Let it come again
      </Button>
    )
  }
  const put = (next: Partial<Repeat>) => {
    const whole = { ...repeat, ...next }
    // A repeat without an end would go on for ever: three times is the usual end.
    const hasEnd = whole.untilCondition !== null || whole.untilAnchor !== null || whole.atMost !== null
    onChange({ ...step, repeat: hasEnd ? whole : { ...whole, atMost: 3 } })
  }
  return (
    <>
      <Group gap="sm" align="end">
        <SpanFields label="Again every" span={repeat.every} onChange={(every) => put({ every })} />
        <NumberInput
          label="At most"
          w="7rem"
          min={1}
          max={1000}
          allowDecimal={false}
          placeholder="no limit"
          value={repeat.atMost ?? ''}
          onChange={(most) => put({ atMost: typeof most === 'number' && most > 0 ? most : null })}
        />
        <Select
          label="And not after"
          w="16rem"
          clearable
          placeholder="no date"
          data={anchorsFor(start).map((one) => ({ value: JSON.stringify(one), label: anchorWords(one) }))}
          value={repeat.untilAnchor && JSON.stringify(repeat.untilAnchor)}
          onChange={(text) =>
            put({ untilAnchor: text === null ? null : (JSON.parse(text) as Repeat['untilAnchor']) })
          }
        />
        <Button variant="default" onClick={() => onChange({ ...step, repeat: null })}>
          Only once
        </Button>
      </Group>
      <p>Until:</p>
      <ConditionEditor
        condition={repeat.untilCondition}
        settings={settings}
        onChange={(untilCondition) => put({ untilCondition })}
      />
    </>
  )
}

interface RuleSelectProps {
  readonly label: string
  readonly words: Readonly<Record<string, string>>
  readonly value: string | null
  readonly usual: string
  readonly onChange: (value: string | null) => void
}

/** One of the rules a purpose settles, unless the step says otherwise. */
function RuleSelect({ label, words, value, usual, onChange }: RuleSelectProps) {
  return (
    <Select
      label={label}
      w="24rem"
      allowDeselect={false}
      data={[
        { value: 'usual', label: `as usual: ${usual}` },
        ...Object.entries(words).map(([key, text]) => ({ value: key, label: text })),
      ]}
      value={value ?? 'usual'}
      onChange={(next) => onChange(next === 'usual' ? null : next)}
    />
  )
}

function UsefulEditor({ step, onChange }: PlainProps) {
  const usual = purposeDefaults[step.purpose].usefulFor
  const start: Span = typeof usual === 'object' && usual !== null ? usual : { amount: 3, unit: 'days' }
  return (
    <Group align="end">
      <SpanFields
        label="Useful for"
        span={step.usefulFor ?? start}
        onChange={(usefulFor) => onChange({ ...step, usefulFor })}
      />
      <Button variant="default" onClick={() => onChange({ ...step, usefulFor: null })}>
        As usual
        {usual === 'that day' ? ': that day' : usual === null ? '' : `: ${spanWords(usual)}`}
      </Button>
    </Group>
  )
}

function LeadEditor({ step, onChange }: PlainProps) {
  return (
    <Group align="end">
      <SpanFields
        label="At least this long before the event"
        span={step.lead ?? { amount: 1, unit: 'hours' }}
        onChange={(lead) => onChange({ ...step, lead })}
      />
      <Button variant="default" onClick={() => onChange({ ...step, lead: null })}>
        As usual
      </Button>
    </Group>
  )
}

function RulesEditor({ part, step, onChange }: PlainProps & { part: SentenceKey }) {
  const usual = purposeDefaults[step.purpose]
  if (part === 'sending hours') {
    return (
      <RuleSelect
        label="Sending hours"
        words={sendingHoursWords}
        value={step.sendingHours}
        usual={usual.sendingHours === 'any day' ? 'on its day' : sendingHoursWords[usual.sendingHours]}
        onChange={(value) => onChange({ ...step, sendingHours: value as PlainStep['sendingHours'] })}
      />
    )
  }
  if (part === 'if late') {
    return (
      <RuleSelect
        label="If it is too late"
        words={ifLateWords}
        value={step.ifLate}
        usual={ifLateWords[usual.ifLate]}
        onChange={(value) => onChange({ ...step, ifLate: value as PlainStep['ifLate'] })}
      />
    )
  }
  return (
    <RuleSelect
      label="If the booking moves after it went"
      words={ifMovedWords}
      value={step.ifMoved}
      usual={ifMovedWords[usual.ifMoved]}
      onChange={(value) => onChange({ ...step, ifMoved: value as PlainStep['ifMoved'] })}
    />
  )
}

function SenderSelect({ step, settings, onChange }: PlainProps & { step: MessageStep }) {
  const senders = Object.entries(senderWords).filter(
    ([key]) => key !== 'shared mailbox' || settings.hasSharedMailbox,
  )
  return (
    <Select
      label="From"
      w="16rem"
      allowDeselect={false}
      data={senders.map(([value, label]) => ({ value, label }))}
      value={step.sender}
      onChange={(sender) => sender !== null && onChange({ ...step, sender: sender as MessageStep['sender'] })}
    />
  )
}

function PlainPart({ part, ...props }: PlainProps & { part: SentenceKey }) {
  const { step, start, settings, onChange } = props
  switch (part) {
    case 'when':
      return (
        <WhenEditor
          timing={step.timing}
          start={start}
          onChange={(timing) => onChange(withTiming(step, timing))}
        />
      )
    case 'days':
      return <DaysEditor step={step} onChange={onChange} />
    case 'what':
      return <WhatEditor step={step} settings={settings} onChange={onChange} />
    case 'to':
      return isMessage(step) ? (
        <RecipientsEditor
          recipients={step.recipients}
          isMail={step.kind === 'mail'}
          settings={settings}
          onChange={(recipients) => onChange({ ...step, recipients: [...recipients] })}
        />
      ) : null
    case 'from':
      return isMessage(step) ? <SenderSelect {...props} step={step} /> : null
    case 'repeat':
      return <RepeatEditor {...props} />
    case 'approval':
      return (
        <Switch
          label="A person approves it before it goes"
          checked={step.needsApproval}
          onChange={(event) => onChange({ ...step, needsApproval: event.currentTarget.checked })}
        />
      )
    case 'only if':
      return (
        <ConditionEditor
          condition={step.onlyIf}
          settings={settings}
          onChange={(onlyIf) => onChange({ ...step, onlyIf })}
        />
      )
    case 'useful for':
      return <UsefulEditor {...props} />
    case 'lead':
      return <LeadEditor {...props} />
    case 'on or off':
      return (
        <Switch
          label="This step is switched on"
          checked={!step.isOff}
          onChange={(event) => onChange({ ...step, isOff: !event.currentTarget.checked })}
        />
      )
    default:
      return <RulesEditor part={part} {...props} />
  }
}

/** One part of a step's sentence, open to be changed. Whatever is chosen counts at once. */
export function PartEditor({ part, step, start, settings, onChange }: PartProps & { part: SentenceKey }) {
  if (!isBranch(step))
    return <PlainPart part={part} step={step} start={start} settings={settings} onChange={onChange} />
  if (part === 'when') {
    return (
      <WhenEditor
        timing={step.timing}
        start={start}
        onChange={(timing) => {
          const isUsable = ['elapsed', 'calendar', 'after previous'].includes(timing.kind)
          if (isUsable) onChange({ ...step, timing })
        }}
      />
    )
  }
  return (
    <ConditionEditor
      condition={step.condition}
      settings={settings}
      onChange={(condition) => onChange({ ...step, condition: condition ?? { all: [] } })}
    />
  )
}
