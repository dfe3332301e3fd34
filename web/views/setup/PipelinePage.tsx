import { Button, Select, TextInput } from '@mantine/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import type { Pipeline } from '#core/model/pipeline.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { EditPage } from './EditPage.tsx'
import { LetGoActs } from './LetGo.tsx'
import {
  draftOfPipeline,
  moved,
  newStage,
  readPipeline,
  takenOut,
  type PipelineDraft,
} from './pipelineDraft.ts'
import styles from './setup.module.css'
import { StageFields } from './StageFields.tsx'

interface EditorProps {
  readonly present: Pipeline | null
  readonly people: SettingsView['people']
}

interface PartProps {
  readonly draft: PipelineDraft
  readonly set: (part: Partial<PipelineDraft>) => void
}

/** Where the enquiries of stages go that were taken out and hold some. */
function GoesTo({ present, draft, set }: PartProps & { present: Pipeline }) {
  const view = useAsk('pipeline', { parameters: { id: present.id } })
  const gone = takenOut(present, draft).flatMap((name) => {
    const count = view.data?.sums.find((sum) => sum.name === name)?.count ?? 0
    return count === 0 ? [] : [{ name, count }]
  })
  return gone.map(({ name, count }) => (
    <Select
      key={name}
      label={`“${name}” goes: its ${count === 1 ? 'enquiry goes' : `${count} enquiries go`} to`}
      description="Nothing is sent because of it."
      placeholder="choose a stage"
      data={draft.stages.flatMap((one) => (one.name === '' ? [] : [one.name]))}
      value={draft.goesTo[name] ?? null}
      onChange={(to) => set({ goesTo: { ...draft.goesTo, ...(to === null ? {} : { [name]: to }) } })}
    />
  ))
}

function Stages({
  draft,
  set,
  people,
  faults,
}: PartProps & Pick<EditorProps, 'people'> & { faults: Readonly<Record<string, string>> }) {
  const { stages } = draft
  return (
    <>
      {stages.map((stage, index) => (
        <StageFields
          key={stage.key}
          stage={stage}
          place={index}
          count={stages.length}
          people={people}
          faults={faults}
          set={(part) => set({ stages: stages.with(index, { ...stage, ...part }) })}
          move={(by) => set({ stages: moved(stages, index, by) })}
          remove={() => set({ stages: stages.toSpliced(index, 1) })}
        />
      ))}
      <div className={table.acts}>
        <Button variant="default" onClick={() => set({ stages: [...stages, newStage()] })}>
          Add a stage
        </Button>
      </div>
      {faults['stages'] !== undefined && (
        <p role="alert" className={styles.fault}>
          ✕ {faults['stages']}
        </p>
      )}
    </>
  )
}

/** Archived, nothing new comes into it; deleted only while it holds nothing. */
function LetItGo({ present }: { present: Pipeline }) {
  const navigate = useNavigate()
  const view = useAsk('pipeline', { parameters: { id: present.id } })
  const archive = useTell('changePipeline')
  const remove = useTell('removePipeline', () => void navigate('/set-up'))
  const count = (view.data?.sums ?? []).reduce((sum, one) => sum + one.count, 0)
  const { id, revision, ...input } = present
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        <p>
          {count === 0
            ? 'No enquiry is in it.'
            : `${count === 1 ? '1 enquiry is' : `${count} enquiries are`} in it.`}{' '}
          Archived, nothing new comes into it; what is in it stays.
        </p>
        <Problem of={archive.error ?? remove.error} />
        <LetGoActs
          isActive={present.isActive}
          isArchiving={archive.isPending}
          isEnding={remove.isPending}
          onArchive={() =>
            archive.mutate({
              parameters: { id },
              body: { revision, pipeline: { ...input, isActive: !present.isActive }, moved: [] },
            })
          }
          onEnd={count > 0 ? null : () => remove.mutate({ parameters: { id }, body: {} })}
        />
      </div>
    </section>
  )
}

function Editor({ present, people }: EditorProps) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const [first] = useState(() => draftOfPipeline(present))
  const [draft, setDraft] = useState(first)
  const set = (part: Partial<PipelineDraft>) => setDraft({ ...draft, ...part })
  const read = readPipeline(present, draft, present?.isActive ?? true)
  const isOther = draft !== first
  const faults = isOther && 'faults' in read ? read.faults : {}
  const meant = isOther && 'meant' in read ? read.meant : null
  const leave = () => void navigate('/set-up')
  const act = { word: 'Save', takesFocus: false, onClose: leave, onDone: leave } as const
  return (
    <>
      <div className={`${table.sheet ?? ''} ${styles.form ?? ''}`}>
        <TextInput
          label="Name"
          placeholder="such as “Private charters”"
          value={draft.name}
          error={faults['name']}
          onChange={(event) => set({ name: event.currentTarget.value })}
        />
        <Stages draft={draft} set={set} people={people} faults={faults} />
        {present && <GoesTo present={present} draft={draft} set={set} />}
        {!isOwner && <p>Only the owner saves it.</p>}
        {isOwner && present && (
          <ConsideredAct
            {...act}
            name="changePipeline"
            asked={
              meant && { parameters: { id: present.id }, body: { revision: present.revision, ...meant } }
            }
          />
        )}
        {isOwner && !present && (
          <ConsideredAct
            {...act}
            name="addPipeline"
            asked={meant && { body: { pipeline: meant.pipeline } }}
          />
        )}
      </div>
      {isOwner && present && <LetItGo present={present} />}
    </>
  )
}

/** A pipeline with its stages, to be changed; `new`: a new one. */
export default function PipelinePage() {
  return (
    <EditPage what="pipeline" itemsOf={({ pipelines }) => pipelines}>
      {(present, { people }) => (
        <Editor key={`${present?.id ?? 'new'} ${present?.revision ?? 0}`} present={present} people={people} />
      )}
    </EditPage>
  )
}
