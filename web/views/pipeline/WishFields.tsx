import { Button, NumberInput, Select, Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import { DateField } from '../../parts/DateField.tsx'
import table from '../../parts/timetable.module.css'
import type { Errors, WishDraft } from './wishDraft.ts'

interface WishFieldsProps {
  readonly settings: SettingsView
  readonly draft: WishDraft
  readonly errors: Errors
  readonly set: (part: Partial<WishDraft>) => void
}

/** What was asked and answered beside the usual, line by line. */
function Answers({ draft: { answers }, set }: Pick<WishFieldsProps, 'draft' | 'set'>) {
  const [question, setQuestion] = useState('')
  const isNew = question.trim() !== '' && answers.every((one) => one.question !== question.trim())
  return (
    <>
      {answers.map(({ question: asked, answer }, index) => (
        <Textarea
          key={asked}
          label={asked}
          autosize
          minRows={1}
          maxLength={2000}
          value={answer}
          onChange={(event) =>
            set({ answers: answers.with(index, { question: asked, answer: event.currentTarget.value }) })
          }
        />
      ))}
      <div className={table.when}>
        <TextInput
          label="Another field"
          placeholder="such as “Where do they sleep?”"
          maxLength={200}
          value={question}
          onChange={(event) => setQuestion(event.currentTarget.value)}
        />
        <Button
          variant="default"
          disabled={!isNew}
          onClick={() => {
            set({ answers: [...answers, { question: question.trim(), answer: '' }] })
            setQuestion('')
          }}
        >
          Add it
        </Button>
      </div>
    </>
  )
}

/** For how many, and what it may cost. */
function HowMuch({ draft, errors, set }: Omit<WishFieldsProps, 'settings'>) {
  return (
    <div className={table.when}>
      <NumberInput
        label="People"
        min={1}
        allowDecimal={false}
        w="7rem"
        value={draft.partySize}
        error={errors['partySize']}
        onChange={(partySize) => set({ partySize })}
      />
      <NumberInput
        label="Budget, in €"
        min={0}
        decimalScale={2}
        w="10rem"
        value={draft.budget}
        error={errors['budgetCents']}
        onChange={(budget) => set({ budget })}
      />
    </div>
  )
}

/** What an enquiry is about, as it is written down. */
export function WishFields({ settings, draft, errors, set }: WishFieldsProps) {
  const services = settings.services.filter(({ id, isActive }) => isActive || id === draft.serviceId)
  return (
    <>
      <TextInput
        label="What for"
        placeholder="such as “Silver wedding”"
        value={draft.what}
        error={errors['what']}
        onChange={(event) => set({ what: event.currentTarget.value })}
      />
      <Select
        label="Service"
        placeholder="not said yet"
        clearable
        clearButtonProps={{ 'aria-label': 'No service' }}
        data={services.map(({ id, name }) => ({ value: id, label: name }))}
        value={draft.serviceId}
        error={errors['serviceId']}
        onChange={(serviceId) => set({ serviceId })}
      />
      <DateField
        label="Date wished for"
        placeholder="none yet"
        clearable
        value={draft.wishedOn}
        error={errors['wishedOn']}
        onChange={(wishedOn) => set({ wishedOn })}
        popoverProps={{ withinPortal: false }}
      />
      <HowMuch draft={draft} errors={errors} set={set} />
      <TextInput
        label="Came by"
        placeholder="such as “web page” or “a friend”"
        value={draft.source}
        error={errors['source']}
        onChange={(event) => set({ source: event.currentTarget.value })}
      />
      <Answers draft={draft} set={set} />
    </>
  )
}
