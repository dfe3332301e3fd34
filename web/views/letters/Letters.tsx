import { Button, Group, Switch, TextInput } from '@mantine/core'
import { useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { LetterLine } from '#core/api/letterEndpoints.ts'
import { languageNames } from '#core/letters/language.ts'
import { moments, type LetterContent } from '#core/model/letter.ts'
import { call } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { HiddenFileInput } from '../../parts/HiddenFileInput.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './letters.module.css'
import { Passages } from './Passages.tsx'

const blank: LetterContent = {
  name: 'A new letter',
  moment: 'any time',
  class: 'service',
  language: 'en',
  letterhead: 'business',
  subject: [],
  preheader: [],
  sections: [
    { id: 'text', kind: 'text', paragraphs: [[]] },
    { id: 'signature', kind: 'signature' },
  ],
  variants: [],
  attachments: [],
  isUnnoticed: false,
}

const momentWords: Readonly<Record<LetterContent['moment'], string>> = {
  asked: 'Asked',
  booked: 'Booked',
  before: 'Before',
  'the day': 'The day',
  after: 'After',
  later: 'Later',
  'any time': 'Any time',
}

function Row({ letter, isNamesake }: { letter: LetterLine; isNamesake: boolean }) {
  const notes = [
    isNamesake ? 'another letter has the same name' : '',
    letter.isStarter ? 'not published yet' : letter.hasDraft ? 'has a draft' : '',
    letter.isArchived ? 'archived' : '',
    letter.class === 'promotional' ? 'promotional' : '',
    letter.language === 'en' ? '' : languageNames[letter.language],
    ...letter.translations.map(({ language, gaps }) =>
      gaps === 0
        ? `also in ${languageNames[language]}`
        : `${languageNames[language]}: ${gaps === 1 ? '1 part' : `${gaps} parts`} missing`,
    ),
    ...(letter.usedBy.length === 0 ? [] : letter.missingLanguages).map(
      (language) => `not in ${languageNames[language]}`,
    ),
    ...letter.services,
  ].filter(Boolean)
  return (
    <li>
      <Link className={`${table.row ?? ''} ${styles.letterRow ?? ''}`} to={`/letter/${letter.id}`}>
        <span>
          {letter.name}
          {notes.length > 0 && <span className={table.quiet}> · {notes.join(' · ')}</span>}
        </span>
        <span className={table.quiet}>
          {letter.usedBy.length === 0 ? 'sent by no sequence' : letter.usedBy.join(', ')}
        </span>
        <span className={letter.problems > 0 ? styles.toSee : table.quiet}>
          {letter.problems === 0
            ? '✓ no problems'
            : `✕ ${letter.problems === 1 ? '1 problem' : `${letter.problems} problems`}`}
        </span>
        <span className={table.quiet}>{letter.changedAt > 0 && <When at={letter.changedAt} />}</span>
      </Link>
    </li>
  )
}

function Groups({ letters }: { letters: readonly LetterLine[] }) {
  return moments.map((moment) => {
    const own = letters
      .filter((one) => one.moment === moment)
      .toSorted(
        (one, other) =>
          one.services.join().localeCompare(other.services.join()) || one.name.localeCompare(other.name),
      )
    if (own.length === 0) return null
    return (
      <section key={moment}>
        <h2 className={table.group}>
          {momentWords[moment]} <small>{own.length === 1 ? '1 letter' : `${own.length} letters`}</small>
        </h2>
        <ul className={table.list}>
          {own.map((letter) => (
            <Row
              key={letter.id}
              letter={letter}
              isNamesake={letters.some(
                ({ id, name }) => id !== letter.id && name.trim() === letter.name.trim(),
              )}
            />
          ))}
        </ul>
      </section>
    )
  })
}

function NewLetter() {
  const navigate = useNavigate()
  const file = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const add = useTell('addLetter', (answer) => void navigate(`/letter/${answer.id}`))
  const read = async (chosen: File) => {
    const answer = await call('readLetterFile', { body: { name: chosen.name, text: await chosen.text() } })
    add.mutate({ body: { content: answer.content } })
  }
  return (
    <div>
      <Group gap="xs">
        <Button loading={add.isPending} onClick={() => add.mutate({ body: { content: blank } })}>
          New letter
        </Button>
        <Button variant="default" component={Link} to="/letters/from-mail">
          Paste an e-mail…
        </Button>
        <Button variant="default" onClick={() => file.current?.click()}>
          Open a file…
        </Button>
      </Group>
      <HiddenFileInput
        label="Letter file"
        input={file}
        accept=".json,.eml"
        onFile={(chosen) => {
          setProblem(null)
          read(chosen).catch((fault: unknown) =>
            setProblem(fault instanceof Error ? fault.message : String(fault)),
          )
        }}
      />
      <Problem of={add.error} />
      {problem !== null && <p role="alert">{problem}</p>}
    </div>
  )
}

/** The library: by the moment in a booking's life, then by service; searched in names and words. */
export default function Letters() {
  const [search, setSearch] = useState('')
  const [showsArchived, setShowsArchived] = useState(false)
  const asked = useAsk('letters')
  if (asked.error) return <ErrorState problem={asked.error} onAgain={() => void asked.refetch()} />
  const wanted = search.trim().toLowerCase()
  const letters = (asked.data?.letters ?? []).filter(
    ({ name, text, isArchived }) =>
      (showsArchived || !isArchived) && `${name} ${text}`.toLowerCase().includes(wanted),
  )
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>Letters</h1>
        <TextInput
          label="Search names and words"
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
        <Switch
          label="Show archived"
          checked={showsArchived}
          onChange={(event) => setShowsArchived(event.currentTarget.checked)}
        />
        <NewLetter />
      </div>
      <div className={table.sheet}>
        {!asked.data && <Waiting />}
        {asked.data && letters.length === 0 && (
          <EmptyState title="No letters here.">
            <p>{wanted === '' ? 'Write the first one.' : 'No letter has these words.'}</p>
          </EmptyState>
        )}
        {letters.length > 0 && (
          <p className={`${table.row ?? ''} ${styles.letterRow ?? ''} ${table.columns ?? ''}`} aria-hidden>
            <span>letter</span>
            <span>sent by</span>
            <span>problems</span>
            <span>published</span>
          </p>
        )}
        <Groups letters={letters} />
      </div>
      {asked.data && <Passages passages={asked.data.passages} />}
    </div>
  )
}
