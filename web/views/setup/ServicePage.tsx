import { Button } from '@mantine/core'
import { useForm } from '@mantine/form'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { serviceInput, type SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { draftOfService, readServiceDraft, type ServiceDraft } from './serviceDraft.ts'
import { ServiceEnd } from './ServiceEnd.tsx'
import { ServiceFields } from './ServiceFields.tsx'
import { SettingsEffect } from './SettingsEffect.tsx'
import styles from './setup.module.css'

type Service = SettingsView['services'][number]

function Editor({ service, settings }: { service: Service | null; settings: SettingsView }) {
  const navigate = useNavigate()
  const form = useForm<ServiceDraft>({
    initialValues: draftOfService(service && serviceInput.strip().parse(service)),
  })
  const [change, setChange] = useState<SettingsChange | null>(null)
  const [hasFaults, setHasFaults] = useState(false)
  const look = (isActive = form.values.isActive) => {
    const read = readServiceDraft({ ...form.values, isActive })
    setHasFaults(read.faults !== null)
    if (read.service === null) {
      form.setErrors(read.faults)
      return
    }
    form.clearErrors()
    setChange({
      of: 'service',
      id: service?.id ?? null,
      revision: service?.revision ?? 0,
      service: read.service,
    })
  }
  if (change) {
    return (
      <SettingsEffect
        change={change}
        onClose={() => setChange(null)}
        onDone={() => void navigate('/set-up')}
      />
    )
  }
  return (
    <>
      <form
        className={table.sheet}
        noValidate
        onSubmit={(event) => {
          event.preventDefault()
          look()
        }}
      >
        <ServiceFields form={form} people={settings.people.filter(({ isActive }) => isActive)} />
        <div className={styles.form}>
          {hasFaults && (
            <p role="alert" className={styles.fault}>
              ✕ Something in the form needs another value; it says so at its place.
            </p>
          )}
          <div className={table.acts}>
            <Button type="submit">See what saving it does</Button>
            <Button variant="default" component={Link} to="/set-up">
              Cancel
            </Button>
          </div>
        </div>
      </form>
      {service && <ServiceEnd service={service} onArchive={() => look(!service.isActive)} />}
    </>
  )
}

/** A service, to be changed; `new`: a new one. */
export default function ServicePage() {
  const { id = '' } = useParams()
  const settings = useAsk('settings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  const service = settings.data.services.find((one) => one.id === id) ?? null
  if (!service && id !== 'new') {
    return (
      <EmptyState title="There is no such service.">
        <p>
          <Link to="/set-up">To Set-up</Link>
        </p>
      </EmptyState>
    )
  }
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          <Link to="/set-up">Set-up</Link> · {service?.name ?? 'New service'}
        </h1>
      </div>
      <Editor key={id} service={service} settings={settings.data} />
    </div>
  )
}
