import { Button, Select } from '@mantine/core'
import { useState } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import { nothingWished } from '#core/model/enquiry.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { Consequences } from '../../parts/Consequences.tsx'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { useConsidered } from '../../parts/useConsidered.ts'
import { InCharge } from './InCharge.tsx'
import { draftOfWish, readWish, type Errors } from './wishDraft.ts'
import { WishFields } from './WishFields.tsx'

interface NewEnquiryProps {
  readonly pipelineId: string
  readonly clientId: string | null
  readonly onClose: () => void
  readonly onMade: (id: string) => void
}

/** An enquiry while it is being typed: what writing it down would do, and the one press that does. */
function useWriting(of: NewEnquiryProps) {
  const [clientId, setClientId] = useState(of.clientId)
  const [pipelineId, setPipelineId] = useState(of.pipelineId)
  const [personInChargeId, setPerson] = useState<string | null>(null)
  const [draft, setDraft] = useState(() => draftOfWish(nothingWished))
  const [errors, setErrors] = useState<Errors>({})
  const make = useTell('addEnquiry', ({ id }) => of.onMade(id))
  const read = readWish(draft)
  const enquiry =
    clientId === null || 'errors' in read ? null : { ...read.wish, clientId, pipelineId, personInChargeId }
  const considered = useConsidered('addEnquiry', enquiry && { body: { enquiry } })
  const submit = () => {
    const own = 'errors' in read ? read.errors : {}
    setErrors(clientId === null ? { ...own, clientId: 'Choose the client.' } : own)
    if (enquiry === null) return
    const seen = considered.isCurrent ? considered.seen : {}
    make.mutate(
      { body: { enquiry, ...seen } },
      {
        onError: (problem) => {
          setErrors(fieldErrors(problem, 'enquiry'))
          if (problem.details.code === 'changed meanwhile') considered.again()
        },
      },
    )
  }
  return {
    ...{ clientId, setClientId, pipelineId, setPipelineId, personInChargeId, setPerson },
    ...{ draft, errors, considered, make, submit },
    set: (part: Partial<typeof draft>) => {
      setDraft({ ...draft, ...part })
      setErrors({})
    },
  }
}

function Form({ settings, ...of }: { settings: SettingsView } & NewEnquiryProps) {
  const writing = useWriting(of)
  const { draft, errors, considered, make, set } = writing
  const pipelines = settings.pipelines.filter(({ isActive }) => isActive)
  return (
    <SheetForm noValidate onSubmit={writing.submit}>
      <h2>New enquiry</h2>
      <ClientPicker
        label="Client"
        placeholder="type a name"
        value={writing.clientId}
        error={errors['clientId']}
        onChange={writing.setClientId}
      />
      {pipelines.length > 1 && (
        <Select
          label="Pipeline"
          allowDeselect={false}
          data={pipelines.map(({ id, name }) => ({ value: id, label: name }))}
          value={writing.pipelineId}
          onChange={(id) => writing.setPipelineId(id ?? of.pipelineId)}
        />
      )}
      <WishFields settings={settings} draft={draft} errors={errors} set={set} />
      <InCharge
        placeholder="who takes over the first stage"
        value={writing.personInChargeId}
        error={errors['personInChargeId']}
        onChange={writing.setPerson}
      />
      {considered.lines !== null && <Consequences considered={considered} />}
      <Problem of={make.error} />
      <div className={table.acts}>
        <Button type="submit" loading={make.isPending}>
          Write it down
        </Button>
        <Button variant="default" onClick={of.onClose}>
          Cancel
        </Button>
      </div>
    </SheetForm>
  )
}

/** The form of a new enquiry, beside the board. */
export function NewEnquiry(of: NewEnquiryProps) {
  const settings = useAsk('settings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  return settings.data ? <Form settings={settings.data} {...of} /> : <Waiting />
}
