import { Button, Group, Switch, Tabs } from '@mantine/core'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import type { LetterView } from '#core/api/letterEndpoints.ts'
import { contentOf, isSameText } from '#core/letters/content.ts'
import { problemsOf, type Fix, type LetterProblem } from '#core/letters/problems.ts'
import type { LetterContent } from '#core/model/letter.ts'
import type { Autosave, Saved } from '../../app/autosave.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { Acts } from './Acts.tsx'
import { Attachments } from './Attachments.tsx'
import { BodyEditor } from './BodyEditor.tsx'
import { EditingProvider } from './editing.ts'
import { fixed } from './fixes.ts'
import { LineEditor } from './LineEditor.tsx'
import styles from './letters.module.css'
import { mergedFor, Preview } from './Preview.tsx'
import { Problems } from './Problems.tsx'
import { Publish } from './Publish.tsx'
import { Settings, type SetPart } from './Settings.tsx'
import { TryAll } from './TryAll.tsx'
import { useCandidate } from './useCandidate.ts'
import { useSpelling } from './useSpelling.ts'
import { useSaving } from './useSaving.ts'
import { Variants } from './Variants.tsx'
import { Versions } from './Versions.tsx'

interface SavedWordsProps {
  readonly saving: Autosave<LetterContent>
  readonly onTakeSaved: () => void
}

/** Two have written at the same time: whose words count from here on is for a person to say. */
function Conflict({ saving, onTakeSaved }: SavedWordsProps) {
  return (
    <div>
      <Problem of={saving.problem} />
      <Button size="compact-sm" loading={saving.isSaving} onClick={saving.overrule}>
        Save mine over it
      </Button>{' '}
      <Button variant="default" size="compact-sm" onClick={onTakeSaved}>
        Take the saved one
      </Button>
    </div>
  )
}

function SavedWords({ saving, onTakeSaved }: SavedWordsProps) {
  if (saving.isConflict) return <Conflict saving={saving} onTakeSaved={onTakeSaved} />
  if (saving.problem) return <Problem of={saving.problem} />
  const word = saving.isSaving ? 'Saving…' : saving.isDirty ? 'Not saved yet' : 'Saved'
  return (
    <span role="status" className={table.quiet}>
      {word}
    </span>
  )
}

interface PublishingProps {
  readonly view: LetterView
  readonly saving: Autosave<LetterContent>
  readonly onDiscarded: (draft: LetterContent) => void
}

/** Whether what stands here is what people get, and the way there. */
function Publishing({ view, saving, onDiscarded }: PublishingProps) {
  const [isOpen, setIsOpen] = useState(false)
  const drop = useTell('dropLetterDraft')
  const { letter } = view
  const published = useMemo(() => contentOf(letter), [letter])
  const isDraft = useMemo(() => !isSameText(published, saving.value), [published, saving.value])
  const isSettled = !saving.isDirty && !saving.isSaving && saving.problem === null
  // What is seen is what is saved: only that can be published.
  const isSaved = isSettled && isSameText(view.draft?.content ?? published, saving.value)
  const words = letter.isStarter
    ? 'Not published yet: nobody gets this letter until you have read and published it.'
    : isDraft
      ? 'A draft: everybody still gets the published text.'
      : 'Published: this is what everybody gets.'
  // It always stands there: what is being typed below does not jump with the first letter.
  return (
    <div className={styles.publishing} data-draft={isDraft || letter.isStarter || undefined}>
      <Group gap="sm">
        <span>{words}</span>
        <Button
          size="compact-sm"
          disabled={isOpen || !(isDraft || letter.isStarter)}
          onClick={() => {
            saving.flush()
            setIsOpen(true)
          }}
        >
          Publish…
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          disabled={!isSaved || !isDraft || letter.isStarter}
          loading={drop.isPending}
          onClick={() => {
            const draft = saving.value
            drop.mutate({ parameters: { id: letter.id }, body: {} }, { onSuccess: () => onDiscarded(draft) })
          }}
        >
          Discard draft
        </Button>
      </Group>
      <Problem of={drop.error} />
      {isOpen && isSaved && <Publish view={view} content={saving.value} onClose={() => setIsOpen(false)} />}
      {isOpen && !isSaved && <p>Saving the draft first …</p>}
    </div>
  )
}

function Writing({ content, round, set }: { content: LetterContent; round: string; set: SetPart }) {
  return (
    <div className={`${table.sheet ?? ''} ${styles.writing ?? ''}`}>
      <Settings content={content} set={set} />
      <LineEditor
        key={`subject-${round}`}
        label="Subject"
        initial={content.subject}
        onChange={(subject) => set({ subject })}
      />
      <LineEditor
        key={`preheader-${round}`}
        label="Preview text"
        initial={content.preheader}
        onChange={(preheader) => set({ preheader })}
      />
      <BodyEditor
        key={`body-${round}`}
        initial={content.sections}
        onChange={(sections) => set({ sections })}
      />
      <Attachments attachments={content.attachments} onChange={(attachments) => set({ attachments })} />
      <Variants key={`variants-${round}`} content={content} onChange={(variants) => set({ variants })} />
    </div>
  )
}

interface BesideProps {
  readonly view: LetterView
  readonly content: LetterContent
  /** The words before the last press that changed them; null: they were typed on since. */
  readonly before: LetterContent | null
  readonly change: (next: LetterContent, isOutside: boolean) => void
  readonly audience: ReturnType<typeof useCandidate>
}

/** The letter as it comes out, and what is to be said about it. */
function Beside({ view, content, before, change, audience }: BesideProps) {
  const { context, passages } = view
  const { candidates, chosen, choose, facts, goesAt } = audience
  const own = useMemo(() => problemsOf(content, { ...context, passages }), [content, context, passages])
  const spelling = useSpelling(content, context)
  const problems = [...own, ...spelling]
  const addOwnWord = useTell('addOwnWord')
  const see = ({ place }: LetterProblem, fix: Fix) => {
    if (fix.kind === 'add own word') addOwnWord.mutate({ body: { word: fix.word } })
    else change(fixed(content, place, fix), true)
  }
  const outcome = useMemo(() => mergedFor(content, passages, { facts }), [content, passages, facts])
  return (
    <aside className={`${table.sheet ?? ''} ${styles.beside ?? ''}`} aria-label="The letter as it comes out">
      {before && (
        <p role="status" className={styles.starter}>
          Changed by a press.{' '}
          <Button variant="default" size="compact-sm" onClick={() => change(before, true)}>
            Take it back
          </Button>
        </p>
      )}
      <Tabs defaultValue="preview" keepMounted={false}>
        <Tabs.List>
          <Tabs.Tab value="preview">Preview</Tabs.Tab>
          <Tabs.Tab value="problems">Problems ({problems.length})</Tabs.Tab>
          <Tabs.Tab value="everyone">Everyone</Tabs.Tab>
          <Tabs.Tab value="versions">Versions</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="preview">
          <Preview
            letterId={view.letter.id}
            content={content}
            outcome={outcome}
            goesAt={goesAt}
            candidates={candidates}
            chosen={chosen}
            onChoose={choose}
          />
        </Tabs.Panel>
        <Tabs.Panel value="problems">
          <Problem of={addOwnWord.error} />
          <Problems problems={problems} onFix={see} />
        </Tabs.Panel>
        <Tabs.Panel value="everyone">
          <TryAll content={content} passages={passages} facts={facts} />
        </Tabs.Panel>
        <Tabs.Panel value="versions">
          <Versions view={view} present={content} onGoBack={(old) => change(old, true)} />
        </Tabs.Panel>
      </Tabs>
    </aside>
  )
}

interface EditorProps {
  readonly view: LetterView
  readonly fetchedAt: number
  readonly onFetch: () => Promise<Saved<LetterContent> | null>
}

const savedOf = ({ letter, draft }: LetterView, fetchedAt: number): Saved<LetterContent> => ({
  value: draft?.content ?? contentOf(letter),
  revision: draft?.revision ?? 0,
  base: String(letter.version),
  fetchedAt,
})

function Editor({ view, fetchedAt, onFetch }: EditorProps) {
  const saving = useSaving(view.letter.id, savedOf(view, fetchedAt))
  const content = saving.value
  /** Counts changes that came from outside the editors, so that they are made anew. */
  const [presses, setPresses] = useState(0)
  const round = `${presses} ${saving.round}`
  const [before, setBefore] = useState<LetterContent | null>(null)
  const [showsValues, setShowsValues] = useState(false)
  const audience = useCandidate(view.letter.id)
  const { facts } = audience
  const { passages } = view
  /** The editors call back with what they knew when they were made; the newest words are here. */
  const newest = useRef(content)
  useEffect(() => void (newest.current = content), [content])
  const takeSaved = () => void onFetch().then((saved) => saved && saving.giveUp(saved))
  // The published words come with the letter, as it is fetched anew; what was typed since stays.
  const discarded = (draft: LetterContent) => {
    const isTypedOn = ![draft, contentOf(view.letter)].some((one) => isSameText(one, newest.current))
    if (!isTypedOn) setBefore(draft)
  }
  const change = (next: LetterContent, isOutside = false) => {
    setBefore(isOutside ? newest.current : null)
    newest.current = next
    if (isOutside) setPresses((before) => before + 1)
    saving.keep(next)
  }
  const set: SetPart = (part) => change({ ...newest.current, ...part })
  const editing = useMemo(
    () => ({ language: content.language, passages, facts, showsValues }),
    [content.language, passages, facts, showsValues],
  )
  return (
    <EditingProvider value={editing}>
      <div className={table.head}>
        <h1>
          <Link to="/letters">Letters</Link> · {content.name || 'without a name'}
        </h1>
        <SavedWords saving={saving} onTakeSaved={takeSaved} />
        <Switch
          label="Show real values"
          checked={showsValues}
          onChange={(event) => setShowsValues(event.currentTarget.checked)}
        />
        <Acts view={view} content={content} />
      </div>
      <Publishing view={view} saving={saving} onDiscarded={discarded} />
      <div className={styles.desk}>
        <Writing content={content} round={round} set={set} />
        <Beside view={view} content={content} before={before} change={change} audience={audience} />
      </div>
    </EditingProvider>
  )
}

/** A letter: written at the left, as it comes out at the right. */
export default function LetterPage() {
  const { id = '' } = useParams()
  const letter = useAsk('letter', { parameters: { id } })
  if (letter.error) return <ErrorState problem={letter.error} onAgain={() => void letter.refetch()} />
  const fetched = async () => {
    const { data, dataUpdatedAt } = await letter.refetch()
    return data ? savedOf(data, dataUpdatedAt) : null
  }
  return (
    <div className={table.page}>
      {letter.data ? (
        <Editor key={id} view={letter.data} fetchedAt={letter.dataUpdatedAt} onFetch={fetched} />
      ) : (
        <Waiting />
      )}
    </div>
  )
}
