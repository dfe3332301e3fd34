import { Button, SegmentedControl, Select } from '@mantine/core'
import { useState } from 'react'
import { plainWords } from '#core/letters/plainWords.ts'
import {
  withOwnSection,
  withOwnSubject,
  withoutScope,
  withScope,
  type VariantScope,
} from '#core/letters/variantWords.ts'
import type { LetterContent, LetterVariant, Section } from '#core/model/letter.ts'
import { useAsk } from '../../app/queries.ts'
import { documentOf, sectionsOf } from './document.ts'
import styles from './letters.module.css'
import { LineEditor } from './LineEditor.tsx'
import { linesOfSection } from './plainLines.ts'
import { TextEditor } from './TextEditor.tsx'

type Choice = 'same' | 'other' | 'out'

const choices: readonly { readonly value: Choice; readonly label: string }[] = [
  { value: 'same', label: 'As for everybody' },
  { value: 'other', label: 'Other words' },
  { value: 'out', label: 'Left out' },
]

const isEmptyText = (section: Section) => section.kind === 'text' && section.paragraphs.length === 0

function choiceOf(own: Section | undefined): Choice {
  if (!own) return 'same'
  return isEmptyText(own) ? 'out' : 'other'
}

/** Words to begin with where a section gets other ones: those it has, as far as they are words. */
function asText(general: Section): Section {
  const { id } = general
  if (general.kind === 'text') return general
  return { id, kind: 'text', paragraphs: general.kind === 'heading' ? [general.content] : [[]] }
}

interface PartProps {
  readonly general: Section
  readonly own: Section | undefined
  readonly onChange: (own: Section | null) => void
}

function Part({ general, own, onChange }: PartProps) {
  const choice = choiceOf(own)
  const words = linesOfSection(general).join(' ')
  const choose = (value: Choice) => {
    if (value === 'same') onChange(null)
    if (value === 'out') onChange({ id: general.id, kind: 'text', paragraphs: [] })
    if (value === 'other') onChange(asText(general))
  }
  return (
    <li>
      <p className={styles.variantWords}>{words}</p>
      <SegmentedControl
        size="xs"
        aria-label={`For: ${words.slice(0, 40)}`}
        data={[...choices]}
        value={choice}
        onChange={choose}
      />
      {choice === 'other' && own?.kind === 'text' && (
        <TextEditor
          label={`Other words for: ${words.slice(0, 40)}`}
          initial={documentOf([own])}
          onChange={(document) => {
            const [first] = sectionsOf(document)
            if (first) onChange(first)
          }}
        />
      )}
    </li>
  )
}

interface OneProps {
  readonly content: LetterContent
  readonly variant: LetterVariant
  readonly name: string
  readonly onChange: (variants: LetterContent['variants']) => void
}

function One({ content, variant, name, onChange }: OneProps) {
  const [isOpen, setIsOpen] = useState(variant.sections.length === 0 && variant.subject === null)
  const { scope, subject, sections } = variant
  const { variants } = content
  const parts = sections.length + (subject === null ? 0 : 1)
  return (
    <li>
      <p>
        <b>{name}</b> · {parts === 1 ? '1 part' : `${parts} parts`} in other words
      </p>
      <Button variant="subtle" size="compact-sm" onClick={() => setIsOpen(!isOpen)}>
        {isOpen ? 'Close' : 'Open'}
      </Button>
      <Button variant="subtle" size="compact-sm" onClick={() => onChange(withoutScope(variants, scope))}>
        Take {name} out
      </Button>
      {isOpen && (
        <ul className={styles.variantParts}>
          <li>
            <p className={styles.variantWords}>Subject: {plainWords(content.subject)}</p>
            <SegmentedControl
              size="xs"
              aria-label={`Subject for ${name}`}
              data={choices.filter(({ value }) => value !== 'out')}
              value={subject === null ? 'same' : 'other'}
              onChange={(value) =>
                onChange(withOwnSubject(variants, scope, value === 'same' ? null : content.subject))
              }
            />
            {subject !== null && (
              <LineEditor
                label={`Subject for ${name}`}
                initial={subject}
                onChange={(words) => onChange(withOwnSubject(variants, scope, words))}
              />
            )}
          </li>
          {content.sections.map((general) => (
            <Part
              key={general.id}
              general={general}
              own={sections.find(({ id }) => id === general.id)}
              onChange={(own) => onChange(withOwnSection(variants, scope, general.id, own))}
            />
          ))}
        </ul>
      )}
    </li>
  )
}

function scopeOf(value: string): VariantScope {
  return value.startsWith('cl_') ? { of: 'client', clientId: value } : { of: 'service', serviceId: value }
}

/** Other words for a service or a client: only what differs; the rest is written once. */
export function Variants({ content, onChange }: Pick<OneProps, 'content' | 'onChange'>) {
  const settings = useAsk('settings')
  const candidates = useAsk('letterCandidates')
  const services = (settings.data?.services ?? []).map(({ id, name }) => ({ value: id, label: name }))
  const clients = (candidates.data?.candidates ?? []).map(({ clientId, label }) => ({
    value: clientId,
    label,
  }))
  const idOf = (scope: VariantScope) => (scope.of === 'service' ? scope.serviceId : scope.clientId)
  const nameOf = (scope: VariantScope) =>
    [...services, ...clients].find(({ value }) => value === idOf(scope))?.label ??
    'somebody not there any more'
  return (
    <fieldset className={styles.along}>
      <legend>Other words for a service or a client</legend>
      <ul className={styles.problems}>
        {content.variants.map((variant) => (
          <One
            key={idOf(variant.scope)}
            content={content}
            variant={variant}
            name={nameOf(variant.scope)}
            onChange={onChange}
          />
        ))}
      </ul>
      <Select
        label="For whom"
        placeholder="Choose a service or a client"
        searchable
        clearable={false}
        value={null}
        data={[
          { group: 'Services', items: services },
          { group: 'Clients', items: clients },
        ]}
        nothingFoundMessage="Nothing of that name"
        onChange={(value) => value !== null && onChange(withScope(content.variants, scopeOf(value)))}
      />
    </fieldset>
  )
}
