import { Button, Select, Textarea, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { FormView } from '#core/api/formEndpoints.ts'
import type { SettingsView } from '#core/api/views.ts'
import { asksPhone, type Form, type FormInput } from '#core/model/form.ts'
import { language } from '#core/model/values.ts'
import { useBusiness } from '../../app/business.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Copied } from '../../parts/Copied.tsx'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import { EditPage } from './EditPage.tsx'
import { inputOf, newField, newForm, readDraft } from './formDraft.ts'
import { Fault, FormFieldEditor } from './FormFieldEditor.tsx'
import styles from './setup.module.css'

interface PartProps {
  readonly draft: FormInput
  readonly settings: SettingsView
  readonly faults: Readonly<Record<string, string>>
  readonly set: (part: Partial<FormInput>) => void
}

/** In which language it is, and where what comes in goes. */
function Places({ draft, settings, faults, set }: PartProps) {
  const pipelines = settings.pipelines.filter(({ id, isActive }) => isActive || id === draft.pipelineId)
  return (
    <div className={styles.several}>
      <Select
        label="Language"
        allowDeselect={false}
        data={[
          { value: 'en', label: 'English' },
          { value: 'de', label: 'German' },
        ]}
        value={draft.language}
        onChange={(chosen) => set({ language: language.catch('en').parse(chosen) })}
      />
      <Select
        label="Comes into"
        allowDeselect={false}
        data={pipelines.map(({ id, name }) => ({ value: id, label: name }))}
        value={draft.pipelineId}
        error={faults['pipelineId']}
        onChange={(pipelineId) => set({ pipelineId: pipelineId ?? '' })}
      />
      <Select
        label="Asks for the service"
        placeholder="an answer chooses it, or none"
        clearable
        clearButtonProps={{ 'aria-label': 'No service' }}
        data={settings.services.map(({ id, name }) => ({ value: id, label: name }))}
        value={draft.serviceId}
        error={faults['serviceId']}
        onChange={(serviceId) => set({ serviceId })}
      />
      <Select
        label="Telephone asked for"
        allowDeselect={false}
        data={[...asksPhone.options]}
        value={draft.asksPhone}
        onChange={(asks) => set({ asksPhone: asksPhone.catch('no').parse(asks) })}
      />
    </div>
  )
}

/** What the form is called, and what stands above the questions. */
function Head({ draft, settings, faults, set }: PartProps) {
  return (
    <>
      <TextInput
        label="What the team calls it"
        placeholder="such as “Private charters”"
        value={draft.name}
        error={faults['name']}
        onChange={(event) => set({ name: event.currentTarget.value })}
      />
      <TextInput
        label="What stands above it"
        placeholder="such as “A balloon of your own”"
        value={draft.title}
        error={faults['title']}
        onChange={(event) => set({ title: event.currentTarget.value })}
      />
      <Textarea
        label="A few words before the questions"
        autosize
        minRows={2}
        value={draft.intro}
        error={faults['intro']}
        onChange={(event) => set({ intro: event.currentTarget.value })}
      />
      <Places {...{ draft, settings, faults, set }} />
    </>
  )
}

function moved(fields: FormInput['fields'], index: number, by: number): FormInput['fields'] {
  const field = fields[index]
  return field ? fields.toSpliced(index, 1).toSpliced(index + by, 0, field) : fields
}

/** What it asks, one after the other. */
function Fields({ draft, settings, faults, set }: PartProps) {
  const { fields } = draft
  return (
    <>
      {fields.map((field, index) => {
        const name = field.label || `field ${index + 1}`
        return (
          <fieldset key={field.id} className={styles.departure}>
            <legend>
              {index + 1}. {name}
            </legend>
            <FormFieldEditor
              {...{ field, fields, faults, settings }}
              place={index}
              set={(next) => set({ fields: fields.with(index, next) })}
            />
            <div className={table.acts}>
              <Button
                variant="default"
                size="compact-md"
                disabled={index === 0}
                aria-label={`Earlier: ${name}`}
                onClick={() => set({ fields: moved(fields, index, -1) })}
              >
                Earlier
              </Button>
              <Button
                variant="default"
                size="compact-md"
                disabled={index === fields.length - 1}
                aria-label={`Later: ${name}`}
                onClick={() => set({ fields: moved(fields, index, 1) })}
              >
                Later
              </Button>
              <Button
                variant="default"
                size="compact-md"
                aria-label={`Remove ${name}`}
                onClick={() => set({ fields: fields.toSpliced(index, 1) })}
              >
                Remove
              </Button>
            </div>
          </fieldset>
        )
      })}
      <div className={table.acts}>
        <Button variant="default" onClick={() => set({ fields: [...fields, newField()] })}>
          Add a field
        </Button>
      </div>
      <Fault of={faults['fields']} />
    </>
  )
}

/** The page as it would be, on a telephone. */
function Page({ form }: { form: FormInput | null }) {
  const [settled] = useDebouncedValue(form, 400)
  const preview = useQuery<{ html: string }, ApiProblem>({
    queryKey: ['previewForm', settled],
    queryFn: () => call('previewForm', { body: { form: settled as FormInput } }),
    enabled: settled !== null,
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  })
  return (
    <aside className={table.sheet} aria-label="The page">
      <h2 className={table.group}>
        The page <small>{form === null ? 'once nothing is missing' : 'as it will be'}</small>
      </h2>
      <Problem of={preview.error} />
      <iframe
        title="The page as it will be"
        sandbox=""
        className={styles.phone}
        srcDoc={preview.data?.html ?? ''}
      />
    </aside>
  )
}

/** Where it is filled in, and by how many. */
function Where({ view: { url, receipts, lastAt, form } }: { view: FormView }) {
  return (
    <section className={table.sheet} aria-label="Where it is filled in" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Where it is filled in</h2>
      <div className={styles.form}>
        <p>
          {form.isActive ? (
            <a href={url} target="_blank" rel="noreferrer">
              {url}
            </a>
          ) : (
            'It is closed: nobody can fill it in.'
          )}
        </p>
        <p>
          {receipts === 0 ? (
            'Nobody has filled it in yet.'
          ) : (
            <>
              {receipts === 1 ? '1 person has' : `${receipts} people have`} filled it in, the last one on{' '}
              {lastAt !== null && <When at={lastAt} />}.
            </>
          )}
        </p>
        <Copied label="A link for your web site or a mail" text={`<a href="${url}">${form.title}</a>`} />
        <Copied
          label="The form within a page of yours"
          text={`<iframe src="${url}" title="${form.title}" width="100%" height="900" style="border:0"></iframe>`}
        />
      </div>
    </section>
  )
}

function LetItGo({ view: { form, receipts, namedBy } }: { view: FormView }) {
  const navigate = useNavigate()
  const close = useTell('changeForm')
  const remove = useTell('removeForm', () => void navigate('/set-up'))
  const { id, revision } = form
  const isFree = receipts === 0 && namedBy.length === 0
  return (
    <section className={table.sheet} aria-label="Let go of it" style={{ marginTop: '1rem' }}>
      <h2 className={table.group}>Let go of it</h2>
      <div className={styles.form}>
        <p>
          {namedBy.length > 0 && `It is named by ${namedBy.join(', ')}. `}
          Closed, nobody can fill it in; what came in stays.
        </p>
        <Problem of={close.error ?? remove.error} />
        <div className={table.acts}>
          <Button
            variant="default"
            loading={close.isPending}
            onClick={() =>
              close.mutate({
                parameters: { id },
                body: { revision, form: { ...inputOf(form), isActive: !form.isActive } },
              })
            }
          >
            {form.isActive ? 'Close it' : 'Open it again'}
          </Button>
          {isFree && (
            <Button
              variant="default"
              loading={remove.isPending}
              onClick={() => remove.mutate({ parameters: { id }, body: {} })}
            >
              Delete
            </Button>
          )}
        </div>
      </div>
    </section>
  )
}

function Editor({ present, settings }: { present: Form | null; settings: SettingsView }) {
  const { isOwner } = useBusiness()
  const navigate = useNavigate()
  const view = useAsk('form', { parameters: { id: present?.id ?? '' } }, { enabled: present !== null })
  const [first] = useState(() =>
    present ? inputOf(present) : newForm(settings.pipelines.find(({ isActive }) => isActive)?.id ?? ''),
  )
  const [draft, setDraft] = useState(first)
  const set = (part: Partial<FormInput>) => setDraft({ ...draft, ...part })
  const read = readDraft(draft)
  const isOther = draft !== first
  const faults = isOther && 'faults' in read ? read.faults : {}
  const meant = 'meant' in read ? read.meant : null
  const asked = isOther ? meant : null
  const leave = () => void navigate('/set-up')
  const act = { word: 'Save', takesFocus: false, onClose: leave, onDone: leave } as const
  return (
    <>
      <div className={table.split}>
        <div className={`${table.sheet ?? ''} ${styles.form ?? ''}`}>
          <Head {...{ draft, settings, faults, set }} />
          <Fields {...{ draft, settings, faults, set }} />
          <Textarea
            label="What is read once it has been sent"
            autosize
            minRows={2}
            value={draft.thanks}
            error={faults['thanks']}
            onChange={(event) => set({ thanks: event.currentTarget.value })}
          />
          {!isOwner && <p>Only the owner saves it.</p>}
          {isOwner && present && (
            <ConsideredAct
              {...act}
              name="changeForm"
              asked={
                asked && { parameters: { id: present.id }, body: { revision: present.revision, form: asked } }
              }
            />
          )}
          {isOwner && !present && (
            <ConsideredAct {...act} name="addForm" asked={asked && { body: { form: asked } }} />
          )}
        </div>
        <Page form={meant} />
      </div>
      {view.data && <Where view={view.data} />}
      {isOwner && view.data && <LetItGo view={view.data} />}
    </>
  )
}

/** A form, to be put together or changed, beside its page; `new`: a new one. */
export default function FormPage() {
  return (
    <EditPage what="form" itemsOf={({ forms }) => forms}>
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
