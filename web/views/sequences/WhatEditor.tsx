import { Anchor, Group, NumberInput, Select, Switch, TextInput } from '@mantine/core'
import type { JSX } from 'react'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import type { Inline } from '#core/model/letter.ts'
import { statusesByHand } from '#core/model/inHouse.ts'
import { isMessage, type PlainStep } from '#core/model/step.ts'
import { LineEditor } from '../letters/LineEditor.tsx'
import { PurposeSelect } from './PurposeSelect.tsx'
import styles from './sequences.module.css'

interface WhatEditorProps {
  readonly step: PlainStep
  readonly settings: SettingsView
  readonly onChange: (step: PlainStep) => void
}

function Words({ words, onChange }: { words: Inline[]; onChange: (words: Inline[]) => void }) {
  return (
    <div className={styles.words}>
      <LineEditor label="Words" initial={words} onChange={onChange} />
    </div>
  )
}

function Named(props: { label: string; value: string; onChange: (value: string) => void }) {
  const { label, value, onChange } = props
  return (
    <TextInput
      label={label}
      w="18rem"
      value={value}
      onChange={(event) => onChange(event.currentTarget.value)}
    />
  )
}

function On({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return <Switch label={label} checked={isOn} onChange={(event) => onChange(event.currentTarget.checked)} />
}

interface StageProps {
  readonly step: Extract<PlainStep, { kind: 'stage' }>
  readonly onChange: InnerProps['onChange']
}

/** The stage an enquiry goes into, and why, where it comes to nothing there. */
function Stage({ step, onChange }: StageProps) {
  return (
    <>
      <Named label="Stage" value={step.stage} onChange={(stage) => onChange({ ...step, stage })} />
      <Named
        label="Why, where it means lost"
        value={step.reason}
        onChange={(reason) => onChange({ ...step, reason })}
      />
    </>
  )
}

/** What a step changes within the house. */
function InnerAction({ step, settings, onChange }: InnerProps): JSX.Element {
  switch (step.kind) {
    case 'tag':
      return (
        <>
          <Named label="Tag" value={step.tag} onChange={(tag) => onChange({ ...step, tag })} />
          <On label="Add it" isOn={step.adds} onChange={(adds) => onChange({ ...step, adds })} />
        </>
      )
    case 'stage':
      return <Stage step={step} onChange={onChange} />
    case 'status':
      return (
        <Select
          label="Status"
          w="12rem"
          allowDeselect={false}
          data={[
            ...statusesByHand,
            ...settings.ownStatuses.filter(({ isActive }) => isActive).map(({ name }) => name),
          ]}
          value={step.status}
          onChange={(status) => status !== null && onChange({ ...step, status: status })}
        />
      )
    case 'date stamp':
      return <Named label="Date" value={step.label} onChange={(label) => onChange({ ...step, label })} />
    case 'list':
      return (
        <>
          <Named label="List" value={step.list} onChange={(list) => onChange({ ...step, list })} />
          <On label="Join it" isOn={step.joins} onChange={(joins) => onChange({ ...step, joins })} />
        </>
      )
    case 'sequence':
      return (
        <>
          <Select
            label="Sequence"
            w="18rem"
            searchable
            allowDeselect={false}
            data={settings.sequences.map(({ id, name }) => ({ value: id, label: name }))}
            value={step.sequenceId}
            onChange={(sequenceId) => sequenceId !== null && onChange({ ...step, sequenceId })}
          />
          <On label="Start it" isOn={step.starts} onChange={(starts) => onChange({ ...step, starts })} />
        </>
      )
    case 'web call':
      return <Named label="Web address" value={step.url} onChange={(url) => onChange({ ...step, url })} />
  }
}

type InnerKind = 'tag' | 'stage' | 'status' | 'date stamp' | 'list' | 'sequence' | 'web call'
type InnerProps = WhatEditorProps & { readonly step: Extract<PlainStep, { kind: InnerKind }> }

function Action({ step, settings, onChange }: WhatEditorProps): JSX.Element {
  switch (step.kind) {
    case 'mail':
      return (
        <>
          <Select
            label="Letter"
            w="20rem"
            searchable
            allowDeselect={false}
            data={settings.letters.map(({ id, name }) => ({ value: id, label: name }))}
            value={step.letterId}
            onChange={(letterId) => letterId !== null && onChange({ ...step, letterId })}
          />
          <Anchor component={Link} to={`/letter/${step.letterId}`}>
            Open this letter
          </Anchor>
        </>
      )
    case 'text message':
      return <Words words={step.words} onChange={(words) => onChange({ ...step, words })} />
    case 'note to staff':
      return (
        <>
          <Named label="About" value={step.about} onChange={(about) => onChange({ ...step, about })} />
          <Words words={step.words} onChange={(words) => onChange({ ...step, words })} />
        </>
      )
    case 'task':
      return (
        <>
          <Named
            label="What is to be done"
            value={step.title}
            onChange={(title) => onChange({ ...step, title })}
          />
          <NumberInput
            label="Within days"
            w="7rem"
            min={0}
            max={1000}
            allowDecimal={false}
            value={step.dueInDays}
            onChange={(days) => typeof days === 'number' && onChange({ ...step, dueInDays: days })}
          />
        </>
      )
    default:
      return <InnerAction step={step} settings={settings} onChange={onChange} />
  }
}

/** What a step does: the letter it sends, the task it sets, and so on. */
export function WhatEditor({ step, settings, onChange }: WhatEditorProps) {
  return (
    <Group gap="sm" align="end">
      {isMessage(step) && step.purpose !== 'internal' && (
        <PurposeSelect value={step.purpose} onChange={(purpose) => onChange({ ...step, purpose })} />
      )}
      {step.kind === 'mail' && step.purpose === 'occasion' && (
        <On
          label="It is an offer as well: only to clients who take promotional mail"
          isOn={step.isOffer}
          onChange={(isOffer) => onChange({ ...step, isOffer })}
        />
      )}
      <Action step={step} settings={settings} onChange={onChange} />
    </Group>
  )
}
