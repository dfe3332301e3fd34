import { Button, SegmentedControl, Select } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import type { JSONContent } from '@tiptap/core'
import { useState } from 'react'
import { plainWords } from '#core/letters/plainWords.ts'
import { languageNames, languages } from '#core/letters/language.ts'
import { translationsOf } from '#core/letters/translations.ts'
import {
  withOwnLine,
  withOwnSection,
  withoutScope,
  withScope,
  type VariantScope,
} from '#core/letters/variantWords.ts'
import {
  letterVariant,
  type Inline,
  type LetterContent,
  type LetterVariant,
  type Passage,
  type Section,
} from '#core/model/letter.ts'
import { useAsk } from '../../app/queries.ts'
import { documentOf, sectionsOf } from './document.ts'
import { EditingProvider, useEditing } from './editing.ts'
import styles from './letters.module.css'
import { LineEditor } from './LineEditor.tsx'
import { linesOfSection } from './plainLines.ts'
import { TextEditor } from './TextEditor.tsx'

type Choice = 'same' | 'other' | 'out'

const isEmptyText = (section: Section) => section.kind === 'text' && section.paragraphs.length === 0

function choiceOf(own: Section | undefined): Choice {
  if (!own) return 'same'
  return isEmptyText(own) ? 'out' : 'other'
}

/** Whether a section is a passage that has words in the language of the scope. */
function hasPassageIn(section: Section, scope: VariantScope, passages: readonly Passage[]): boolean {
  if (section.kind !== 'passage' || scope.of !== 'language') return false
  const passage = passages.find(({ id }) => id === section.passageId)
  return passage?.translations.some(({ language }) => language === scope.language) ?? false
}

/** What a part of the general text can be for a scope. */
function choicesFor(
  { of }: VariantScope,
  isTranslatedPassage = false,
): readonly { readonly value: Choice; readonly label: string }[] {
  const untouched = isTranslatedPassage ? 'The passage’s own words' : 'Not translated'
  return [
    { value: 'same', label: of === 'language' ? untouched : 'As for everybody' },
    { value: 'other', label: of === 'language' ? 'Translated' : 'Other words' },
    { value: 'out', label: 'Left out' },
  ]
}

const withWords: readonly Section['kind'][] = ['heading', 'text', 'button', 'columns']

/** What a section begins with where it gets other words: itself where it has words, else a text in its place. */
function asOwn(general: Section): Section {
  return withWords.includes(general.kind) ? general : { id: general.id, kind: 'text', paragraphs: [[]] }
}

interface WordsProps {
  readonly label: string
  readonly own: Section
  readonly onChange: (own: Section) => void
}

const asText = (paragraphs: Inline[][]): Section[] => [{ id: 'text', kind: 'text', paragraphs }]

function paragraphsOf(document: JSONContent): Inline[][] {
  const [first] = sectionsOf(document)
  return first?.kind === 'text' ? first.paragraphs : []
}

/** A section's other words, in the shape of the section. */
function OwnWordsEditor({ label, own, onChange }: WordsProps) {
  const text = (name: string, paragraphs: Inline[][], put: (next: Inline[][]) => Section) => (
    <TextEditor
      label={name}
      initial={documentOf(asText(paragraphs))}
      onChange={(document) => onChange(put(paragraphsOf(document)))}
    />
  )
  switch (own.kind) {
    case 'heading':
      return (
        <LineEditor
          label={label}
          initial={own.content}
          onChange={(content) => onChange({ ...own, content })}
        />
      )
    case 'button':
      return (
        <LineEditor
          label={label}
          initial={own.label}
          onChange={(words) => onChange({ ...own, label: words })}
        />
      )
    case 'text':
      return text(label, own.paragraphs, (paragraphs) => ({ ...own, paragraphs }))
    case 'columns':
      return (
        <>
          {text(`${label}, left`, own.left, (left) => ({ ...own, left }))}
          {text(`${label}, right`, own.right, (right) => ({ ...own, right }))}
        </>
      )
    default:
      return null
  }
}

interface PartProps {
  readonly scope: VariantScope
  readonly general: Section
  readonly own: Section | undefined
  readonly onChange: (own: Section | null) => void
}

function Part({ scope, general, own, onChange }: PartProps) {
  const { passages } = useEditing()
  const choice = choiceOf(own)
  const words = linesOfSection(general, { passages, services: [] }).join(' ')
  const choose = (value: Choice) => {
    if (value === 'same') onChange(null)
    if (value === 'out') onChange({ id: general.id, kind: 'text', paragraphs: [] })
    if (value === 'other') onChange(asOwn(general))
  }
  return (
    <li>
      <p className={styles.variantWords}>{words}</p>
      <SegmentedControl
        size="xs"
        aria-label={`For: ${words.slice(0, 40)}`}
        data={[...choicesFor(scope, hasPassageIn(general, scope, passages))]}
        value={choice}
        onChange={choose}
      />
      {choice === 'other' && own && (
        <OwnWordsEditor
          label={`${scope.of === 'language' ? languageNames[scope.language] : 'Other words'} for: ${words.slice(0, 40)}`}
          own={own}
          onChange={onChange}
        />
      )}
    </li>
  )
}

interface LinePartProps {
  readonly which: 'subject' | 'preheader'
  readonly content: LetterContent
  readonly variant: LetterVariant
  readonly name: string
  readonly onChange: (variants: LetterContent['variants']) => void
}

const lineNames = { subject: 'Subject', preheader: 'Preview text' } as const

function LinePart({ which, content, variant, name, onChange }: LinePartProps) {
  const { scope } = variant
  const own = variant[which]
  const label = `${lineNames[which]} for ${name}`
  const put = (words: LetterVariant['subject']) =>
    onChange(withOwnLine(content.variants, scope, which, words))
  return (
    <li>
      <p className={styles.variantWords}>
        {lineNames[which]}: {plainWords(content[which])}
      </p>
      <SegmentedControl
        size="xs"
        aria-label={label}
        data={choicesFor(scope).filter(({ value }) => value !== 'out')}
        value={own === null ? 'same' : 'other'}
        onChange={(value) => put(value === 'same' ? null : content[which])}
      />
      {own !== null && <LineEditor label={label} initial={own} onChange={put} />}
    </li>
  )
}

interface OneProps {
  readonly content: LetterContent
  readonly variant: LetterVariant
  readonly name: string
  readonly onChange: (variants: LetterContent['variants']) => void
}

/** How far the words of a scope are, in words. */
function useStanding({ content, variant }: Pick<OneProps, 'content' | 'variant'>): string {
  const { passages } = useEditing()
  const { scope, subject, preheader, sections } = variant
  if (scope.of === 'language') {
    const gaps = translationsOf(content, passages).find(({ language }) => language === scope.language)?.gaps
    const count = gaps?.length ?? 0
    return count === 0 ? 'all of it' : `${count === 1 ? '1 part is' : `${count} parts are`} not translated`
  }
  const parts = sections.length + [subject, preheader].filter((one) => one !== null).length
  return `${parts === 1 ? '1 part' : `${parts} parts`} in other words`
}

function One({ content, variant, name, onChange }: OneProps) {
  const { scope, subject, sections } = variant
  const [isOpen, setIsOpen] = useState(sections.length === 0 && subject === null)
  const editing = useEditing()
  const standing = useStanding({ content, variant })
  const { variants } = content
  const language = scope.of === 'client' ? editing.language : (scope.language ?? editing.language)
  return (
    <li>
      <p>
        <b>{name}</b> · {standing}
      </p>
      <Button {...looking} variant="subtle" size="compact-sm" onClick={() => setIsOpen(!isOpen)}>
        {isOpen ? 'Close' : 'Open'}
      </Button>
      <Button variant="subtle" size="compact-sm" onClick={() => onChange(withoutScope(variants, scope))}>
        Take {name} out
      </Button>
      {isOpen && (
        <EditingProvider value={{ ...editing, language }}>
          <ul className={styles.variantParts}>
            <LinePart which="subject" content={content} variant={variant} name={name} onChange={onChange} />
            {(content.preheader.length > 0 || variant.preheader !== null) && (
              <LinePart
                which="preheader"
                content={content}
                variant={variant}
                name={name}
                onChange={onChange}
              />
            )}
            {content.sections
              .filter(({ kind }) => scope.of !== 'language' || withWords.includes(kind) || kind === 'passage')
              .map((general) => (
                <Part
                  key={general.id}
                  scope={scope}
                  general={general}
                  own={sections.find(({ id }) => id === general.id)}
                  onChange={(own) => onChange(withOwnSection(variants, scope, general.id, own))}
                />
              ))}
          </ul>
        </EditingProvider>
      )}
    </li>
  )
}

/** A scope as a value of the list, and back. */
const keyOf = (scope: VariantScope) => JSON.stringify(scope)
const scopeOf = (key: string) => letterVariant.shape.scope.parse(JSON.parse(key))

interface Choosable {
  readonly value: string
  readonly label: string
}

/** Languages, services (also in the languages the letter has) and clients to write other words for. */
function useScopes({ language, variants }: LetterContent) {
  const settings = useAsk('settings')
  const candidates = useAsk('letterCandidates')
  const choosable = (scope: VariantScope, label: string): Choosable => ({ value: keyOf(scope), label })
  const services = settings.data?.services ?? []
  const translated = variants.flatMap(({ scope }) => (scope.of === 'language' ? [scope.language] : []))
  return [
    {
      group: 'Languages',
      items: languages
        .filter((one) => one !== language)
        .map((one) => choosable({ of: 'language', language: one }, languageNames[one])),
    },
    {
      group: 'Services',
      items: services.flatMap(({ id: serviceId, name }) => [
        choosable({ of: 'service', serviceId }, name),
        ...translated.map((one) =>
          choosable({ of: 'service', serviceId, language: one }, `${name}, in ${languageNames[one]}`),
        ),
      ]),
    },
    {
      group: 'Clients',
      items: (candidates.data?.candidates ?? []).map(({ clientId, label }) =>
        choosable({ of: 'client', clientId }, label),
      ),
    },
  ]
}

/** Other words for a language, a service or a client: only what differs; the rest is written once. */
export function Variants({ content, onChange }: Pick<OneProps, 'content' | 'onChange'>) {
  const scopes = useScopes(content)
  const all = scopes.flatMap(({ items }) => items)
  const nameOf = (scope: VariantScope) =>
    scope.of === 'language'
      ? languageNames[scope.language]
      : (all.find(({ value }) => value === keyOf(scope))?.label ?? 'somebody not there any more')
  return (
    <fieldset className={styles.along}>
      <legend>Other words for a language, a service or a client</legend>
      <ul className={styles.problems}>
        {content.variants.map((variant) => (
          <One
            key={keyOf(variant.scope)}
            content={content}
            variant={variant}
            name={nameOf(variant.scope)}
            onChange={onChange}
          />
        ))}
      </ul>
      <Select
        label="For whom"
        placeholder="Choose a language, a service or a client"
        searchable
        selectFirstOptionOnChange
        clearable={false}
        value={null}
        data={scopes}
        nothingFoundMessage="Nothing of that name"
        onChange={(value) => value !== null && onChange(withScope(content.variants, scopeOf(value)))}
      />
    </fieldset>
  )
}
