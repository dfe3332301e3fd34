import { Autocomplete, Button, Group, MultiSelect, Select } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { endsOn, stopDoes, stopRule, type StartRule, type StopRule } from '#core/model/sequence.ts'
import { startEvent, startTraits } from '#core/model/startEvent.ts'
import { subjectTraits } from '#core/model/subject.ts'
import type { StepNames } from '#core/sequences/sentence.ts'
import {
  againWords,
  eventWords,
  nameAsked,
  startRuleWords,
  stopRulesWords,
} from '#core/sequences/eventWords.ts'
import { ConditionEditor } from './ConditionEditor.tsx'
import { SpanFields } from './WhenEditor.tsx'
import styles from './sequences.module.css'

interface RulesProps {
  readonly design: SequenceDesign
  readonly change: (next: SequenceDesign, name?: string) => void
  readonly settings: SettingsView
  readonly names: StepNames
}

function NameField({
  on,
  name,
  settings,
  onChange,
}: Pick<StopRule, 'on' | 'name'> &
  Pick<RulesProps, 'settings'> & { onChange: (name: string | null) => void }) {
  const what = nameAsked(on)
  if (what === null) return null
  if (on === 'booking status entered') {
    return (
      <Select
        label="Which status"
        w="12rem"
        clearable
        clearButtonProps={{ 'aria-label': 'Any status of yours' }}
        placeholder={settings.ownStatuses.length === 0 ? 'none yet: see Set-up' : 'any of yours'}
        data={settings.ownStatuses.map((one) => one.name)}
        value={name}
        onChange={onChange}
      />
    )
  }
  const inUse = settings.namesInUse.filter(({ kind }) => kind === what).map((one) => one.name)
  return (
    <Autocomplete
      label={`Which ${what}`}
      w="12rem"
      placeholder={`any ${what}`}
      data={inUse}
      value={name ?? ''}
      onChange={(value) => onChange(value === '' ? null : value)}
    />
  )
}

const againKinds = ['once per subject', 'once per client', 'every time'] as const

/** What can be chosen; what a client starts by themselves is once for each client either way. */
function againChoices(on: StartRule['on']) {
  const isAboutClient = againWords({ on, again: { kind: 'once per subject' } }) === 'once for each client'
  return againKinds
    .filter((kind) => !isAboutClient || kind !== 'once per client')
    .map((kind) => ({
      value: kind,
      label: againWords({ on, again: kind === 'every time' ? { kind, gap: null } : { kind } }),
    }))
}

function StartEditor({ design, change, settings }: RulesProps) {
  const { start } = design
  const put = (next: Partial<StartRule>) => change({ ...design, start: { ...start, ...next } }, 'start')
  const { hasService } = subjectTraits[startTraits[start.on].subject]
  return (
    <div className={styles.editor} role="group" aria-label="What starts it">
      <Group gap="sm" align="end">
        <Select
          label="It starts when"
          w="17rem"
          allowDeselect={false}
          data={startEvent.options.map((on) => ({ value: on, label: eventWords({ on, name: null }) }))}
          value={start.on}
          onChange={(on) => {
            const chosen = startEvent.safeParse(on)
            if (chosen.success) put({ on: chosen.data, name: null })
          }}
        />
        <NameField settings={settings} on={start.on} name={start.name} onChange={(name) => put({ name })} />
        {hasService && (
          <MultiSelect
            label="Only for"
            w="20rem"
            placeholder={start.serviceIds.length === 0 ? 'all services' : ''}
            data={settings.services.map(({ id, name }) => ({ value: id, label: name }))}
            value={start.serviceIds}
            onChange={(serviceIds) => put({ serviceIds })}
          />
        )}
        <Select
          label="And again"
          w="19rem"
          allowDeselect={false}
          data={againChoices(start.on)}
          value={start.again.kind}
          onChange={(kind) => {
            if (kind === 'every time') put({ again: { kind, gap: null } })
            if (kind === 'once per client' || kind === 'once per subject') put({ again: { kind } })
          }}
        />
        {start.again.kind === 'every time' && (
          <SpanFields
            label="With at least this between"
            span={start.again.gap ?? { amount: 0, unit: 'days' }}
            onChange={(gap) => put({ again: { kind: 'every time', gap: gap.amount === 0 ? null : gap } })}
          />
        )}
      </Group>
      <ConditionEditor condition={start.onlyIf} settings={settings} onChange={(onlyIf) => put({ onlyIf })} />
    </div>
  )
}

const stopEvents = stopRule.shape.on.options
const stopDoesWords: Readonly<Record<StopRule['does'], string>> = {
  ends: 'it ends',
  holds: 'each message asks first',
}

function StopEditor({ design, change, settings }: RulesProps) {
  const { stops } = design
  const put = (next: readonly StopRule[]) => change({ ...design, stops: [...next] }, 'stops')
  return (
    <div className={styles.editor} role="group" aria-label="What stops it">
      {stops.map((stop, index) => (
        <Group key={index} gap="sm" align="end">
          <Select
            label="When"
            w="17rem"
            allowDeselect={false}
            data={stopEvents.map((on) => ({ value: on, label: eventWords({ on, name: null }) }))}
            value={stop.on}
            onChange={(on) => {
              const chosen = stopRule.shape.on.safeParse(on)
              if (chosen.success) put(stops.with(index, endsOn(chosen.data)))
            }}
          />
          <NameField
            settings={settings}
            on={stop.on}
            name={stop.name}
            onChange={(name) => put(stops.with(index, { ...stop, name }))}
          />
          {stop.on !== 'event over' && (
            <Select
              label="then"
              w="15rem"
              allowDeselect={false}
              data={stopDoes.options.map((value) => ({ value, label: stopDoesWords[value] }))}
              value={stop.does}
              onChange={(does) => {
                const chosen = stopDoes.safeParse(does)
                if (chosen.success) put(stops.with(index, { ...stop, does: chosen.data }))
              }}
            />
          )}
          <Button variant="default" onClick={() => put(stops.toSpliced(index, 1))}>
            Remove
          </Button>
        </Group>
      ))}
      <Group>
        <Button size="compact-sm" variant="default" onClick={() => put([...stops, endsOn('answered')])}>
          Add a stop rule
        </Button>
      </Group>
      <p className={styles.note}>
        A cancelled or missed booking stops what was about it by itself; its own messages of cancellation go.
      </p>
    </div>
  )
}

/** What starts and what stops a sequence, as sentences; each opens to be changed. */
export function StartRules(props: RulesProps) {
  const [open, setOpen] = useState<'start' | 'stops' | null>(null)
  const { design, names } = props
  const { start, stops } = design
  const toggle = (which: 'start' | 'stops') => setOpen(open === which ? null : which)
  const stopWords = stopRulesWords(stops)
  return (
    <div className={styles.rules}>
      <p className={styles.sentence}>
        Starts when{' '}
        <button
          type="button"
          className={styles.part}
          aria-expanded={open === 'start'}
          aria-label={`Starts when ${startRuleWords(start, names)}`}
          onClick={() => toggle('start')}
        >
          {startRuleWords(start, names)}, {againWords(start)}
        </button>
        . Stops when{' '}
        <button
          type="button"
          className={styles.part}
          aria-expanded={open === 'stops'}
          aria-label={`Stops when ${stopWords}`}
          onClick={() => toggle('stops')}
        >
          {stopWords}
        </button>
        .
      </p>
      {open === 'start' && <StartEditor {...props} />}
      {open === 'stops' && <StopEditor {...props} />}
      {open !== null && (
        <Button {...looking} size="compact-sm" onClick={() => setOpen(null)}>
          Done
        </Button>
      )}
    </div>
  )
}
