import { Button, Group, Select } from '@mantine/core'
import { useState } from 'react'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { isMessage, type PlainStep } from '#core/model/step.ts'
import type { Variation } from '#core/model/variation.ts'
import { recipientsWords, whenWords } from '#core/sequences/stepWords.ts'
import { plainSteps } from '#core/sequences/steps.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import table from '../../parts/timetable.module.css'
import { namesFrom } from './names.ts'
import { RecipientsEditor } from './RecipientsEditor.tsx'
import styles from './sequences.module.css'
import { WhenEditor } from './WhenEditor.tsx'

type Draft = Omit<Variation, 'id' | 'timingSetAt'>

/** What differs, in words. */
function wordsOf(variation: Variation, settings: SettingsView): string {
  const { letterId, timing, recipients, needsApproval, isOff } = variation
  const letter = settings.letters.find(({ id }) => id === letterId)?.name ?? letterId
  const parts = [
    letterId === null ? '' : `the letter is “${letter ?? ''}”`,
    timing === null ? '' : whenWords(timing.timing),
    recipients === null ? '' : `to ${recipientsWords(recipients, namesFrom(settings).personName)}`,
    needsApproval === null ? '' : needsApproval ? 'after approval' : 'by itself',
    isOff === null ? '' : isOff ? 'left out' : 'not left out',
  ]
  return parts.filter(Boolean).join('; ')
}

interface RowProps {
  readonly variation: Variation
  readonly settings: SettingsView
  readonly onChange: () => void
}

function Row({ variation, settings, onChange }: RowProps) {
  const sequence = useAsk('sequence', { parameters: { id: variation.sequenceId } })
  const [isAsking, setAsking] = useState(false)
  const step = plainSteps(sequence.data?.version.steps ?? []).find(({ id }) => id === variation.stepId)
  const name = sequence.data?.sequence.name ?? ''
  return (
    <li className={styles.difference}>
      <span>
        <Link to={`/sequence/${variation.sequenceId}`}>{name}</Link>
        {step && `: ${namesFrom(settings).action(step)}`}
        <br />
        <span className={table.quiet}>{wordsOf(variation, settings)}</span>
      </span>
      <Group gap="xs">
        <Button size="compact-sm" variant="default" onClick={onChange}>
          Change
        </Button>
        <Button size="compact-sm" variant="default" disabled={isAsking} onClick={() => setAsking(true)}>
          As for everybody…
        </Button>
      </Group>
      {isAsking && (
        <ConsideredAct
          name="removeVariation"
          asked={{ parameters: { id: variation.id }, body: {} }}
          word="As for everybody"
          onClose={() => setAsking(false)}
        />
      )}
    </li>
  )
}

const said = 'as the sequence says'

interface ChoiceProps<Key extends string> {
  readonly label: string
  readonly choices: Readonly<Record<Key, string>>
  readonly value: Key | 'said'
  readonly onChange: (value: Key | 'said') => void
}

/** A part of a step that can differ, or be as the sequence says. */
function Choice<Key extends string>({ label, choices, value, onChange }: ChoiceProps<Key>) {
  return (
    <Select
      label={label}
      w="13rem"
      allowDeselect={false}
      data={Object.entries<string>({ said, ...choices }).map(([key, words]) => ({
        value: key,
        label: words,
      }))}
      value={value}
      onChange={(chosen) => chosen !== null && onChange(chosen as Key | 'said')}
    />
  )
}

function YesNo(props: {
  readonly label: string
  readonly yes: string
  readonly no: string
  readonly value: boolean | null
  readonly onChange: (value: boolean | null) => void
}) {
  const { label, yes, no, value, onChange } = props
  return (
    <Choice
      label={label}
      choices={{ yes, no }}
      value={value === null ? 'said' : value ? 'yes' : 'no'}
      onChange={(chosen) => onChange(chosen === 'said' ? null : chosen === 'yes')}
    />
  )
}

interface FieldsProps {
  readonly draft: Draft
  readonly step: PlainStep
  readonly settings: SettingsView
  readonly start: Parameters<typeof WhenEditor>[0]['start']
  readonly onChange: (draft: Draft) => void
}

function Fields({ draft, step, settings, start, onChange }: FieldsProps) {
  const { timing, recipients } = draft
  return (
    <>
      <Group gap="sm" align="end">
        {step.kind === 'mail' && (
          <Select
            label="Letter"
            w="16rem"
            clearable
            searchable
            placeholder={said}
            data={settings.letters.map(({ id, name }) => ({ value: id, label: name }))}
            value={draft.letterId}
            onChange={(letterId) => onChange({ ...draft, letterId })}
          />
        )}
        <YesNo
          label="Approval"
          yes="after approval"
          no="by itself"
          value={draft.needsApproval}
          onChange={(needsApproval) => onChange({ ...draft, needsApproval })}
        />
        <YesNo
          label="At all"
          yes="left out"
          no="not left out"
          value={draft.isOff}
          onChange={(isOff) => onChange({ ...draft, isOff })}
        />
        {isMessage(step) && (
          <Choice
            label="Who gets it"
            choices={{ other: 'somebody else' }}
            value={recipients === null ? 'said' : 'other'}
            onChange={(chosen) =>
              onChange({ ...draft, recipients: chosen === 'said' ? null : step.recipients })
            }
          />
        )}
        <Choice
          label="When it goes"
          choices={{ other: 'at another time' }}
          value={timing === null ? 'said' : 'other'}
          onChange={(chosen) =>
            onChange({
              ...draft,
              timing: chosen === 'said' ? null : { timing: step.timing, lead: step.lead },
            })
          }
        />
      </Group>
      <OtherFields draft={draft} step={step} settings={settings} start={start} onChange={onChange} />
    </>
  )
}

/** Who else gets it, and when else it goes. */
function OtherFields({ draft, step, settings, start, onChange }: FieldsProps) {
  const { timing, recipients } = draft
  return (
    <>
      {recipients && (
        <RecipientsEditor
          recipients={recipients}
          isMail={step.kind === 'mail'}
          settings={settings}
          onChange={(next) => onChange({ ...draft, recipients: [...next] })}
        />
      )}
      {timing && (
        <WhenEditor
          timing={timing.timing}
          start={start}
          onChange={(next) => onChange({ ...draft, timing: { ...timing, timing: next } })}
        />
      )}
    </>
  )
}

interface FormProps {
  readonly scope: Variation['scope']
  readonly before: Variation | null
  readonly settings: SettingsView
  readonly onClose: () => void
}

const nothing = { letterId: null, timing: null, recipients: null, needsApproval: null, isOff: null }

interface StepSelectsProps {
  readonly draft: Draft
  readonly steps: readonly PlainStep[]
  readonly settings: SettingsView
  readonly isFixed: boolean
  readonly onChange: (draft: Draft) => void
}

/** Which step of which sequence differs. */
function StepSelects({ draft, steps, settings, isFixed, onChange }: StepSelectsProps) {
  const { action } = namesFrom(settings)
  return (
    <Group gap="sm" align="end">
      <Select
        label="Sequence"
        w="16rem"
        searchable
        allowDeselect={false}
        disabled={isFixed}
        data={settings.sequences.map(({ id, name }) => ({ value: id, label: name }))}
        value={draft.sequenceId === '' ? null : draft.sequenceId}
        onChange={(sequenceId) =>
          sequenceId !== null && onChange({ ...draft, ...nothing, sequenceId, stepId: '' })
        }
      />
      <Select
        label="Step"
        w="18rem"
        allowDeselect={false}
        disabled={isFixed || steps.length === 0}
        data={steps.map((one) => ({ value: one.id, label: `${action(one)}, ${whenWords(one.timing)}` }))}
        value={draft.stepId === '' ? null : draft.stepId}
        onChange={(stepId) => stepId !== null && onChange({ ...draft, ...nothing, stepId })}
      />
    </Group>
  )
}

function Form({ scope, before, settings, onClose }: FormProps) {
  const [draft, setDraft] = useState<Draft>(() => {
    if (!before) return { sequenceId: '', stepId: '', scope, ...nothing }
    const { letterId, timing, recipients, needsApproval, isOff, sequenceId, stepId } = before
    return { sequenceId, stepId, scope, letterId, timing, recipients, needsApproval, isOff }
  })
  const sequence = useAsk(
    'sequence',
    { parameters: { id: draft.sequenceId } },
    { enabled: draft.sequenceId !== '' },
  )
  const steps = plainSteps(sequence.data?.version.steps ?? [])
  const step = steps.find(({ id }) => id === draft.stepId)
  const isSomething = Object.keys(nothing).some((key) => draft[key as keyof typeof nothing] !== null)
  return (
    <div className={styles.editor} role="group" aria-label="What differs">
      <StepSelects
        draft={draft}
        steps={steps}
        settings={settings}
        isFixed={before !== null}
        onChange={setDraft}
      />
      {step && sequence.data && (
        <Fields
          draft={draft}
          step={step}
          settings={settings}
          start={sequence.data.version.start}
          onChange={setDraft}
        />
      )}
      {step && isSomething ? (
        <ConsideredAct
          name="vary"
          asked={{ parameters: { id: before?.id ?? 'new' }, body: { variation: draft } }}
          word="Let it differ"
          leave="Cancel"
          takesFocus={false}
          onClose={onClose}
        />
      ) : (
        <Group gap="xs">
          <Button size="compact-md" disabled>
            Let it differ
          </Button>
          <Button size="compact-md" variant="default" onClick={onClose}>
            Cancel
          </Button>
        </Group>
      )}
    </div>
  )
}

interface DifferencesProps {
  readonly scope: Variation['scope']
  readonly variations: readonly Variation[]
}

/** What differs in single steps for a service or a client; only what is set here counts, the rest is as the sequence says. */
export function Differences({ scope, variations }: DifferencesProps) {
  const settings = useAsk('settings')
  const [editing, setEditing] = useState<Variation | 'new' | null>(null)
  if (!settings.data) return null
  const close = () => setEditing(null)
  return (
    <div className={styles.differences}>
      {variations.length === 0 && <p className={styles.note}>No exceptions.</p>}
      <ul className={styles.steps}>
        {variations.map((variation) => (
          <Row
            key={variation.id}
            variation={variation}
            settings={settings.data}
            onChange={() => setEditing(variation)}
          />
        ))}
      </ul>
      {editing === null ? (
        <Button size="compact-md" variant="default" onClick={() => setEditing('new')}>
          Change a step for this {scope.of}
        </Button>
      ) : (
        <Form
          key={editing === 'new' ? 'new' : editing.id}
          scope={scope}
          before={editing === 'new' ? null : editing}
          settings={settings.data}
          onClose={close}
        />
      )}
    </div>
  )
}
