import { NumberInput, SegmentedControl, Select } from '@mantine/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { SettingsView } from '#core/api/views.ts'
import { realZones } from '#core/time/realZones.ts'
import { useAsk } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import { localTimes, type Times } from '../../parts/times.ts'
import { TimesFields } from '../../parts/TimesFields.tsx'
import table from '../../parts/timetable.module.css'

const statuses = [
  { value: 'confirmed', label: 'Confirmed' },
  { value: 'requested', label: 'Asked for' },
] as const

interface BookItProps {
  readonly view: EnquiryView
  readonly onClose: () => void
}

function Form({ view, settings, onClose }: BookItProps & { settings: SettingsView }) {
  const { enquiry } = view
  const navigate = useNavigate()
  const services = settings.services.filter(({ isActive }) => isActive)
  const [serviceId, setServiceId] = useState(enquiry.serviceId ?? services[0]?.id ?? '')
  const [times, setTimes] = useState<Times>({ date: enquiry.wishedOn, start: '', end: '' })
  const [partySize, setPartySize] = useState<number | string>(enquiry.partySize ?? 1)
  const [status, setStatus] = useState<'confirmed' | 'requested'>('confirmed')
  const service = services.find(({ id }) => id === serviceId)
  const local = localTimes(times)
  const isWhole = local !== null && typeof partySize === 'number' && service !== undefined
  const booking = isWhole ? { serviceId, ...local, partySize, status } : null
  return (
    <div className={table.form}>
      <h2>Book it</h2>
      <p className={table.quiet}>
        For {view.clientName}, with what they answered and who is in charge. The enquiry is won by that.
      </p>
      <Select
        label="Service"
        allowDeselect={false}
        data={services.map(({ id, name, seats }) => ({ value: id, label: `${name} (${seats} seats)` }))}
        value={serviceId}
        onChange={(id) => setServiceId(id ?? '')}
      />
      {service && (
        <TimesFields
          times={times}
          onChange={setTimes}
          zone={realZones.zone(service.zone)}
          durationMinutes={service.durationMinutes}
          errors={{}}
        />
      )}
      <NumberInput
        label="For how many people"
        min={1}
        allowDecimal={false}
        value={partySize}
        onChange={setPartySize}
      />
      <SegmentedControl aria-label="Status" value={status} onChange={setStatus} data={[...statuses]} />
      <ConsideredAct
        name="bookEnquiry"
        asked={booking && { parameters: { id: enquiry.id }, body: { revision: enquiry.revision, booking } }}
        word="Book it"
        takesFocus={false}
        onClose={onClose}
        onDone={({ id }) => void navigate(`/booking/${id}`)}
      />
    </div>
  )
}

/** The booking that comes of an enquiry, with nothing typed twice. */
export function BookIt(of: BookItProps) {
  const settings = useAsk('settings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  return settings.data ? <Form {...of} settings={settings.data} /> : <Waiting />
}
