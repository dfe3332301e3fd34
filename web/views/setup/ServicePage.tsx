import { useForm } from '@mantine/form'
import type { SettingsView } from '#core/api/views.ts'
import { serviceInput } from '#core/engine/commands/settingsCommands.ts'
import { LetGo } from './LetGo.tsx'
import { draftOfService, readServiceDraft, type ServiceDraft } from './serviceDraft.ts'
import { ServiceFields } from './ServiceFields.tsx'
import { EditPage } from './EditPage.tsx'
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
  return (
    <EditPage what="service" itemsOf={({ services }) => services}>
      {(service, settings) => <Editor key={service?.id ?? 'new'} service={service} settings={settings} />}
    </EditPage>
  )
}
