import { useForm } from '@mantine/form'
import { Link, useParams } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { serviceInput } from '#core/engine/commands/settingsCommands.ts'
import { useAsk } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { LetGo } from './LetGo.tsx'
import { draftOfService, readServiceDraft, type ServiceDraft } from './serviceDraft.ts'
import { ServiceFields } from './ServiceFields.tsx'
import { SettingsForm, type Read } from './SettingsForm.tsx'

type Service = SettingsView['services'][number]

function Editor({ service, settings }: { service: Service | null; settings: SettingsView }) {
  const form = useForm<ServiceDraft>({
    initialValues: draftOfService(service && serviceInput.strip().parse(service)),
  })
  const read = (draft: ServiceDraft): Read => {
    const { service: meant, faults } = readServiceDraft(draft)
    if (meant === null) return { change: null, faults }
    const { id = null, revision = 0 } = service ?? {}
    return { change: { of: 'service', id, revision, service: meant }, faults: null }
  }
  return (
    <SettingsForm
      form={form}
      read={read}
      below={(look) =>
        service && (
          <LetGo
            kind="service"
            of={service}
            onArchive={() => look({ ...form.values, isActive: !service.isActive })}
          />
        )
      }
    >
      <ServiceFields form={form} people={settings.people.filter(({ isActive }) => isActive)} />
    </SettingsForm>
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
