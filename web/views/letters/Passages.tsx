import { Button, Select, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { languageNames, languages } from '#core/letters/language.ts'
import { plainWords } from '#core/letters/plainWords.ts'
import type { JSONContent } from '@tiptap/core'
import { useState } from 'react'
import type { LetterEffect, UsedPassage } from '#core/api/letterEndpoints.ts'
import type { Passage, Section } from '#core/model/letter.ts'
import { call, newCommandId, type ApiProblem } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import { documentOf, sectionsOf } from './document.ts'
import styles from './letters.module.css'
import { effectWords, Readers } from './Publish.tsx'
import { TextEditor } from './TextEditor.tsx'

const asText = ({ paragraphs }: Pick<Passage, 'paragraphs'>) => paragraphs.map(plainWords).join(' ')

const asSections = (paragraphs: Passage['paragraphs']): Section[] => [
  { id: 'text', kind: 'text', paragraphs },
]

function paragraphsOf(document: JSONContent): Passage['paragraphs'] {
  const [first] = sectionsOf(document)
  return first?.kind === 'text' ? first.paragraphs : []
}

interface TranslationsProps {
  readonly translations: Passage['translations']
  readonly onChange: (translations: Passage['translations']) => void
}

/** The words of a passage in other languages; a letter in such a language takes them. */
function Translations({ translations, onChange }: TranslationsProps) {
  const others = languages.filter((language) => !translations.some((one) => one.language === language))
  return (
    <>
      {translations.map((one, index) => (
        <div key={one.language}>
          <TextEditor
            label={`In ${languageNames[one.language]}`}
            initial={documentOf(asSections(one.paragraphs))}
            onChange={(document) =>
              onChange(translations.with(index, { ...one, paragraphs: paragraphsOf(document) }))
            }
          />
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => onChange(translations.toSpliced(index, 1))}
          >
            Take {languageNames[one.language]} out
          </Button>
        </div>
      ))}
      <Select
        label="In another language"
        placeholder="Choose one"
        w="14rem"
        value={null}
        disabled={others.length === 0}
        data={others.map((language) => ({ value: language, label: languageNames[language] }))}
        onChange={(chosen) => {
          const language = others.find((one) => one === chosen)
          if (language) onChange([...translations, { language, paragraphs: [] }])
        }}
      />
    </>
  )
}

type Words = Pick<Passage, 'name' | 'paragraphs' | 'translations'>

/** What other words of a passage do, before they count: the messages that take them, and who reads them differently. */
function PassageEffect({ id, words }: { readonly id: string; readonly words: Words }) {
  const text = JSON.stringify(words)
  const [settled] = useDebouncedValue(text, 250)
  const effect = useQuery<LetterEffect, ApiProblem>({
    queryKey: ['passage effect', id, settled],
    queryFn: () =>
      call('passageEffect', { parameters: { id }, body: { passage: JSON.parse(settled) as Words } }),
    enabled: words.name.trim() !== '',
    gcTime: 0,
    staleTime: 0,
    retry: false,
  })
  return (
    <div aria-live="polite">
      {effect.isFetching && <p>Working it out …</p>}
      {effect.data &&
        effectWords(effect.data, 'letters that use it').map((sentence) => <p key={sentence}>{sentence}</p>)}
      {effect.data && <Readers lines={effect.data.lines} />}
    </div>
  )
}

interface FormProps {
  readonly passage: Passage
  readonly usedBy: readonly string[]
  readonly onClose: () => void
}

function Form({ passage, usedBy, onClose }: FormProps) {
  const [name, setName] = useState(passage.name)
  const [paragraphs, setParagraphs] = useState(passage.paragraphs)
  const [translations, setTranslations] = useState(passage.translations)
  const initial = JSON.stringify([passage.paragraphs, passage.translations])
  const put = useTell('putPassage', onClose)
  const remove = useTell('removePassage', onClose)
  const { id, version } = passage
  const words = { name, paragraphs, translations }
  const isOther = JSON.stringify([paragraphs, translations]) !== initial
  return (
    <SheetForm
      onSubmit={() => {
        put.mutate({
          parameters: { id },
          body: { version, passage: words },
        })
      }}
    >
      <TextInput
        label="Name of the passage"
        value={name}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <TextEditor
        label="Its words"
        hint="A field: Ctrl+."
        initial={documentOf(asSections(passage.paragraphs))}
        onChange={(document) => setParagraphs(paragraphsOf(document))}
      />
      <Translations translations={translations} onChange={setTranslations} />
      {usedBy.length > 0 && (
        <p className={table.quiet}>Saving it changes {usedBy.map((name) => `“${name}”`).join(', ')}.</p>
      )}
      {usedBy.length > 0 && isOther && <PassageEffect id={id} words={words} />}
      <Problem of={put.error ?? remove.error} />
      <div className={table.acts}>
        <Button type="submit" loading={put.isPending}>
          Save the passage
        </Button>
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
        {version > 0 && (
          <Button variant="default" onClick={() => remove.mutate({ parameters: { id }, body: {} })}>
            Delete
          </Button>
        )}
      </div>
    </SheetForm>
  )
}

/** Words kept once and used in many letters. */
export function Passages({ passages }: { passages: readonly UsedPassage[] }) {
  const [open, setOpen] = useState<Passage | null>(null)
  const fresh = (): Passage => ({
    id: `ps_${newCommandId()}`,
    name: '',
    paragraphs: [],
    translations: [],
    version: 0,
  })
  return (
    <div className={`${table.sheet ?? ''} ${styles.passages ?? ''}`}>
      <h2 className={table.group}>Passages, kept once for many letters</h2>
      <ul className={table.list}>
        {passages.map((passage) => (
          <li key={passage.id}>
            {open?.id === passage.id ? (
              <Form passage={passage} usedBy={passage.usedBy} onClose={() => setOpen(null)} />
            ) : (
              <button
                type="button"
                className={`${table.row ?? ''} ${styles.passageRow ?? ''}`}
                onClick={() => setOpen(passage)}
              >
                <span>{passage.name}</span>
                <span className={table.quiet}>{asText(passage)}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {open?.version === 0 ? (
        <Form passage={open} usedBy={[]} onClose={() => setOpen(null)} />
      ) : (
        <p className={styles.add}>
          <Button variant="default" size="compact-sm" onClick={() => setOpen(fresh())}>
            Write a passage
          </Button>
        </p>
      )}
    </div>
  )
}
