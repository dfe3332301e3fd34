import { SegmentedControl, Select, Switch, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { StartedSequence } from '#core/api/moveViews.ts'
import type { SettingsView } from '#core/api/views.ts'
import { conditionWords } from '#core/conditions/words.ts'
import { moveSubject, type OnePressMove } from '#core/model/onePressMove.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { ConditionEditor } from '../sequences/ConditionEditor.tsx'
import { namesFrom } from '../sequences/names.ts'
import { EditPage } from './EditPage.tsx'
import { LetGoActs } from './LetGo.tsx'
import { draftOfMove, madeFor, readMove, type MoveDraft } from './moveDraft.ts'
import { MoveParts } from './MoveParts.tsx'
import styles from './setup.module.css'

interface EditorProps {
  readonly present: OnePressMove | null
  readonly settings: SettingsView
}

interface PartProps {
  readonly draft: MoveDraft
  readonly settings: SettingsView
  readonly set: (part: Partial<MoveDraft>) => void
}

/** What it sends by the sequences that start on it. */
function Sends({ sequences }: { sequences: readonly StartedSequence[] }) {
  return sequences.map(({ id, name, state, first }) => (
    <p key={id}>
      It starts the sequence <Link to={`/sequence/${id}`}>{name}</Link>
      {first && ` (${first.label}${first.waits ? ', after a look' : ''})`}
      {state !== 'live' && `, which is ${state === 'draft' ? 'still a draft' : 'paused'}`}.
    </p>
  ))
}

/** The letter of a move: sent by a sequence of its own that starts on it, and can be given more steps there. */
function LetterFields({
  draft,
  settings,
  set,
  sequences,
}: PartProps & { sequences: readonly StartedSequence[] }) {
  return (
    <fieldset className={styles.departure}>
      <legend>Letter</legend>
      <Sends sequences={sequences} />
      <div className={styles.several}>
        <Select
          label={sequences.length === 0 ? 'It sends' : 'It also sends'}
          placeholder="no letter"
          searchable
          clearable
          clearButtonProps={{ 'aria-label': 'No letter' }}
          data={settings.letters.map(({ id, name }) => ({ value: id, label: name }))}
          value={draft.letterId}
          onChange={(letterId) => set({ letterId })}
        />
        {draft.letterId !== null && (
          <Switch
            label="Only after a look at it"
            checked={draft.waits}
            onChange={(event) => set({ waits: event.currentTarget.checked })}
          />
        )}
      </div>
    </fieldset>
  )
}

/** Where it is offered: on what, and under which condition. */
function WhereFields({ draft, settings, set, isFixed }: PartProps & { isFixed: boolean }) {
  return (
    <fieldset className={styles.departure}>
      <legend>Where it is offered</legend>
      <SegmentedControl
        aria-label="On what"
        disabled={isFixed}
        style={{ justifySelf: 'start' }}
        data={[
          { value: 'enquiry', label: 'on an enquiry' },
          { value: 'booking', label: 'on a booking' },
        ]}
        value={draft.of}
        onChange={(of) => set(madeFor(draft, moveSubject.catch('enquiry').parse(of)))}
      />
      {isFixed && <p className={table.quiet}>A sequence starts on it, so it stays with that.</p>}
      <p>
        {draft.onlyIf === null
          ? 'Wherever all of its parts are possible.'
          : `Only if ${conditionWords(draft.onlyIf, namesFrom(settings))}.`}
      </p>
      <ConditionEditor condition={draft.onlyIf} settings={settings} onChange={(onlyIf) => set({ onlyIf })} />
    </fieldset>
  )
}

function LetItGo({ present, namedBy }: { present: OnePressMove; namedBy: readonly string[] }) {
  const navigate = useNavigate()
  const archive = useTell('changeMove')
  const remove = useTell('removeMove', () => void navigate('/set-up'))
  const { id, revision, ...input } = present
  const move = { ...input, isActive: !present.isActive }
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        <p>
          {namedBy.length === 0 ? 'Nothing depends on it.' : `It starts ${namedBy.join(', ')}.`} Archived, it
          is not offered any more.
        </p>
        <Problem of={archive.error ?? remove.error} />
        <LetGoActs
          isActive={present.isActive}
          isArchiving={archive.isPending}
          isEnding={remove.isPending}
          onArchive={() => archive.mutate({ parameters: { id }, body: { revision, move, letter: null } })}
          onEnd={namedBy.length > 0 ? null : () => remove.mutate({ parameters: { id }, body: {} })}
        />
      </div>
    </section>
  )
}

function Editor({ present, settings }: EditorProps) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const view = useAsk('move', { parameters: { id: present?.id ?? '' } }, { enabled: present !== null })
  const { sequences = [], namedBy = [] } = view.data ?? {}
  const [first] = useState(() => draftOfMove(present))
  const [draft, setDraft] = useState(first)
  const set = (part: Partial<MoveDraft>) => setDraft({ ...draft, ...part })
  const read = readMove(draft, present?.isActive ?? true)
  const isOther = draft !== first
  const faults = isOther && 'faults' in read ? read.faults : {}
  const meant = isOther && 'meant' in read ? read.meant : null
  const leave = () => void navigate('/set-up')
  const act = { word: 'Save', takesFocus: false, onClose: leave, onDone: leave } as const
  return (
    <>
      <div className={`${table.sheet ?? ''} ${styles.form ?? ''}`}>
        <TextInput
          label="What pressing it does, as its name"
          placeholder="such as “Send the agreement”"
          value={draft.name}
          error={faults['name']}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        <WhereFields {...{ draft, settings, set }} isFixed={namedBy.length > 0} />
        <MoveParts {...{ draft, settings, faults }} set={(parts) => set({ parts })} />
        <LetterFields {...{ draft, settings, set, sequences }} />
        {!isOwner && <p>Only the owner saves it.</p>}
        {isOwner && present && (
          <ConsideredAct
            {...act}
            name="changeMove"
            asked={
              meant && { parameters: { id: present.id }, body: { revision: present.revision, ...meant } }
            }
          />
        )}
        {isOwner && !present && <ConsideredAct {...act} name="addMove" asked={meant && { body: meant }} />}
      </div>
      {isOwner && present && <LetItGo present={present} namedBy={namedBy} />}
    </>
  )
}

/** A one-press move, to be put together or changed; `new`: a new one. */
export default function MovePage() {
  return (
    <EditPage what="move" itemsOf={({ onePressMoves }) => onePressMoves}>
      {(present, settings) => (
        <Editor
          key={`${present?.id ?? 'new'} ${present?.revision ?? 0}`}
          present={present}
          settings={settings}
        />
      )}
    </EditPage>
  )
}
