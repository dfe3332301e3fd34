import { useForm } from '@mantine/form'
import type { SettingsView } from '#core/api/views.ts'
import { serviceInput } from '#core/engine/commands/settingsCommands.ts'
import { LetGo } from './LetGo.tsx'
import { draftOfService, readServiceDraft, type ServiceDraft } from './serviceDraft.ts'
import { ServiceFields } from './ServiceFields.tsx'
import { EditPage } from './EditPage.tsx'
import { SettingsForm, type Read } from './SettingsForm.tsx'

type Service = SettingsView['services'][number]

interface ServiceEditorProps {
  readonly service: Service | null
  readonly settings: SettingsView
  readonly onDone?: () => void
}

/** A service in its form; null: a new one. */
export function ServiceEditor({ service, settings, onDone }: ServiceEditorProps) {
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
      {...(onDone ? { onDone } : {})}
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
  return (
    <EditPage what="service" itemsOf={({ services }) => services}>
      {(service, settings) => (
        <ServiceEditor key={service?.id ?? 'new'} service={service} settings={settings} />
      )}
    </EditPage>
  )
}
