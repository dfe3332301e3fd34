import { Button, NumberInput, SegmentedControl, Select } from '@mantine/core'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { realZones } from '#core/time/realZones.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Consequences } from '../../parts/Consequences.tsx'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import type { Times } from '../../parts/times.ts'
import { ClientPicker } from '../../parts/ClientPicker.tsx'
import { TimesFields } from '../../parts/TimesFields.tsx'
import table from '../../parts/timetable.module.css'
import { useConsidered } from '../../parts/useConsidered.ts'
import { readDraft, type BookingDraft, type Errors } from './bookingDraft.ts'

const emptyTimes: Times = { date: null, start: '', end: '' }

interface FieldsProps {
  readonly settings: SettingsView
  readonly draft: BookingDraft
  readonly errors: Errors
  readonly set: (part: Partial<BookingDraft>) => void
}

function WhatFields({ settings, draft, errors, set }: FieldsProps) {
  const services = settings.services.filter(({ isActive }) => isActive)
  const service = services.find(({ id }) => id === draft.serviceId)
  return (
    <>
      <ClientPicker
        label="Client"
        placeholder="type a name"
        value={draft.clientId}
        error={errors['clientId']}
        onChange={(clientId) => set({ clientId })}
      />
      <Select
        label="Service"
        allowDeselect={false}
        data={services.map(({ id, name, seats }) => ({ value: id, label: `${name} (${seats} seats)` }))}
        value={draft.serviceId}
        error={errors['serviceId']}
        onChange={(serviceId) => set({ serviceId: serviceId ?? '' })}
      />
      {service && (
        <TimesFields
          times={draft.times}
          onChange={(times) => set({ times })}
          zone={realZones.zone(service.zone)}
          durationMinutes={service.durationMinutes}
          errors={{ start: errors['startLocal'], end: errors['endLocal'] }}
        />
      )}
    </>
  )
}

function WhoFields({ settings, draft, errors, set }: FieldsProps) {
  const people = settings.people.filter(({ isActive }) => isActive)
  return (
    <>
      <NumberInput
        label="For how many people"
        min={1}
        allowDecimal={false}
        value={draft.partySize}
        error={errors['partySize']}
        onChange={(partySize) => set({ partySize })}
      />
      <Select
        label="In charge"
        placeholder="nobody yet: the business"
        clearable
        clearButtonProps={{ 'aria-label': 'Nobody in charge' }}
        data={people.map(({ id, name }) => ({ value: id, label: name }))}
        value={draft.personInChargeId}
        error={errors['personInChargeId']}
        onChange={(personInChargeId) => set({ personInChargeId })}
      />
      <SegmentedControl
        aria-label="Status"
        value={draft.status}
        onChange={(status) => set({ status })}
        data={[
          { value: 'confirmed', label: 'Confirmed' },
          { value: 'requested', label: 'Asked for' },
        ]}
      />
    </>
  )
}

/** A booking while it is being typed: what making it would do, and the one press that makes it. */
function useMaking(settings: SettingsView) {
  const [search] = useSearchParams()
  const navigate = useNavigate()
  const [draft, setDraft] = useState<BookingDraft>({
    clientId: search.get('client'),
    serviceId: settings.services.find(({ isActive }) => isActive)?.id ?? '',
    times: emptyTimes,
    partySize: 1,
    status: 'confirmed',
    personInChargeId: null,
  })
  const [errors, setErrors] = useState<Errors>({})
  const make = useTell('makeBooking', ({ id }) => void navigate(`/booking/${id}`))
  const read = readDraft(draft)
  const considered = useConsidered('makeBooking', 'input' in read ? { body: { booking: read.input } } : null)
  const onError = (problem: Parameters<typeof fieldErrors>[0]) => {
    setErrors(fieldErrors(problem, 'booking'))
    if (problem.details.code === 'changed meanwhile') considered.again()
  }
  return {
    draft,
    errors,
    considered,
    make,
    set: (part: Partial<BookingDraft>) => {
      setDraft({ ...draft, ...part })
      setErrors({})
    },
    submit: () => {
      const seen = considered.isCurrent ? considered.seen : {}
      if ('errors' in read) setErrors(read.errors)
      else make.mutate({ body: { booking: read.input, ...seen } }, { onError })
    },
  }
}

function Form({ settings, onClose }: { settings: SettingsView; onClose: () => void }) {
  const { draft, errors, considered, make, set, submit } = useMaking(settings)
  return (
    <SheetForm noValidate onSubmit={submit}>
      <h2>New booking</h2>
      <WhatFields settings={settings} draft={draft} errors={errors} set={set} />
      <WhoFields settings={settings} draft={draft} errors={errors} set={set} />
      {considered.lines !== null && <Consequences considered={considered} />}
      <Problem of={make.error} />
      <div className={table.acts}>
        <Button type="submit" loading={make.isPending}>
          Make the booking
        </Button>
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </SheetForm>
  )
}

/** The form of a new booking, beside the list. */
export function MakeBooking({ onClose }: { onClose: () => void }) {
  const settings = useAsk('settings')
  return (
    <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label="New booking">
      {settings.error && <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />}
      {!settings.error && !settings.data && <Waiting />}
      {settings.data && <Form settings={settings.data} onClose={onClose} />}
    </aside>
  )
}
