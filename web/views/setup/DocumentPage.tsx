import { Button, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { DocumentView } from '#core/api/documentEndpoints.ts'
import type { SignableDocument } from '#core/model/document.ts'
import { language } from '#core/model/values.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { LineEditor } from '../letters/LineEditor.tsx'
import { draftOfDocument, newParagraph, readDocument, type DocumentDraft } from './documentDraft.ts'
import { EditPage } from './EditPage.tsx'
import { Fault } from './FormFieldEditor.tsx'
import { LetGoActs } from './LetGo.tsx'
import styles from './setup.module.css'

interface PartProps {
  readonly draft: DocumentDraft
  readonly faults: Readonly<Record<string, string>>
  readonly set: (part: Partial<DocumentDraft>) => void
}

/** What it is called, and in which language it is. */
function Head({ draft, faults, set }: PartProps) {
  return (
    <>
      <TextInput
        label="What it is called, for clients too"
        placeholder="such as “Charter agreement”"
        value={draft.name}
        error={faults['name']}
        onChange={(event) => set({ name: event.currentTarget.value })}
      />
      <Select
        label="Language"
        w="12rem"
        allowDeselect={false}
        data={[
          { value: 'en', label: 'English' },
          { value: 'de', label: 'German' },
        ]}
        value={draft.language}
        onChange={(chosen) => set({ language: language.catch('en').parse(chosen) })}
      />
    </>
  )
}

/** Its text, paragraph by paragraph, with merge fields that are fixed as it is sent. */
function Paragraphs({ draft: { paragraphs }, faults, set }: PartProps) {
  return (
    <>
      {paragraphs.map(({ key, paragraph }, index) => {
        const what = paragraph.kind === 'heading' ? 'Heading' : 'Paragraph'
        return (
          <div key={key}>
            <LineEditor
              label={`${index + 1}. ${what}`}
              initial={paragraph.content}
              onChange={(content) =>
                set({ paragraphs: paragraphs.with(index, { key, paragraph: { ...paragraph, content } }) })
              }
            />
            <Fault of={faults[`paragraphs.${index}.content`]} />
            <div className={table.acts}>
              <Button
                variant="default"
                size="compact-sm"
                aria-label={`Remove ${what.toLowerCase()} ${index + 1}`}
                onClick={() => set({ paragraphs: paragraphs.toSpliced(index, 1) })}
              >
                Remove
              </Button>
            </div>
          </div>
        )
      })}
      <div className={table.acts}>
        {(['text', 'heading'] as const).map((kind) => (
          <Button
            key={kind}
            variant="default"
            size="compact-md"
            onClick={() => set({ paragraphs: [...paragraphs, newParagraph(kind)] })}
          >
            {kind === 'text' ? 'Add a paragraph' : 'Add a heading'}
          </Button>
        ))}
      </div>
      <Fault of={faults['paragraphs']} />
    </>
  )
}

function LetItGo({ view: { document, sent, namedBy } }: { view: DocumentView }) {
  const navigate = useNavigate()
  const archive = useTell('changeDocument')
  const remove = useTell('removeDocument', () => void navigate('/set-up'))
  const { id, revision, ...input } = document
  const times = sent === 1 ? 'once' : `${sent} times`
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        <p>
          {sent === 0 ? 'Nobody was sent it yet. ' : `It was sent ${times}; what was sent stays. `}
          {namedBy.length > 0 && `It is named by ${namedBy.join(', ')}. `}
          Archived, letters that lead to it are held for a person.
        </p>
        <Problem of={archive.error ?? remove.error} />
        <LetGoActs
          isActive={document.isActive}
          isArchiving={archive.isPending}
          isEnding={remove.isPending}
          onArchive={() =>
            archive.mutate({
              parameters: { id },
              body: { revision, document: { ...input, isActive: !document.isActive } },
            })
          }
          onEnd={
            sent > 0 || namedBy.length > 0 ? null : () => remove.mutate({ parameters: { id }, body: {} })
          }
        />
      </div>
    </section>
  )
}

function Editor({ present }: { present: SignableDocument | null }) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const view = useAsk('document', { parameters: { id: present?.id ?? '' } }, { enabled: present !== null })
  const [first] = useState(() => draftOfDocument(present))
  const [draft, setDraft] = useState(first)
  const set = (part: Partial<DocumentDraft>) => setDraft((before) => ({ ...before, ...part }))
  const read = readDocument(draft)
  const isOther = draft !== first
  const faults = isOther && 'faults' in read ? read.faults : {}
  const meant = isOther && 'meant' in read ? read.meant : null
  const leave = () => void navigate('/set-up')
  const act = { word: 'Save', takesFocus: false, onClose: leave, onDone: leave } as const
  return (
    <>
      <div className={`${table.sheet ?? ''} ${styles.form ?? ''}`}>
        <Head {...{ draft, faults, set }} />
        <Paragraphs {...{ draft, faults, set }} />
        <TextInput
          label="What they tick to sign it"
          value={draft.consent}
          error={faults['consent']}
          onChange={(event) => set({ consent: event.currentTarget.value })}
        />
        <p className={table.quiet}>
          A letter leads to it by a button or a field “Sign …”. What it says is fixed as that letter goes.
        </p>
        {!isOwner && <p>Only the owner saves it.</p>}
        {isOwner && present && (
          <ConsideredAct
            {...act}
            name="changeDocument"
            asked={
              meant && {
                parameters: { id: present.id },
                body: { revision: present.revision, document: meant },
              }
            }
          />
        )}
        {isOwner && !present && (
          <ConsideredAct {...act} name="addDocument" asked={meant && { body: { document: meant } }} />
        )}
      </div>
      {isOwner && view.data && <LetItGo view={view.data} />}
    </>
  )
}

/** A document to sign, to be written or changed; `new`: a new one. */
export default function DocumentPage() {
  return (
    <EditPage what="document" itemsOf={({ documents }) => documents}>
      {(present) => <Editor key={`${present?.id ?? 'new'} ${present?.revision ?? 0}`} present={present} />}
    </EditPage>
  )
}
