import { MultiSelect, NumberInput, Select, Switch, TextInput } from '@mantine/core'
import { useForm, type UseFormReturnType } from '@mantine/form'
import type { SettingsView } from '#core/api/views.ts'
import { ownStatusInput, type OwnStatusInput } from '#core/engine/commands/statusSettings.ts'
import { bookingStatus } from '#core/model/booking.ts'
import table from '../../parts/timetable.module.css'
import { LetGo } from './LetGo.tsx'
import { EditPage } from './EditPage.tsx'
import { SettingsForm, type Read } from './SettingsForm.tsx'
import styles from './setup.module.css'
import { sayFault } from './typed.ts'

type OwnStatus = SettingsView['ownStatuses'][number]
type Comes = NonNullable<OwnStatusInput['comes']>

/** A status as its form holds it: texts where something is typed. */
interface StatusDraft extends Omit<OwnStatusInput, 'comes'> {
  isByItself: boolean
  hours: number | string
  side: Comes['side']
  of: Comes['of']
}

function draftOf(own: OwnStatus | null): StatusDraft {
  const { name = '', meaning = 'confirmed', after = [], comes = null, isActive = true } = own ?? {}
  const serviceIds = [...(own?.serviceIds ?? [])]
  const { hours = 48, side = 'before', of = 'start' } = comes ?? {}
  return {
    name,
    meaning,
    after: [...after],
    serviceIds,
    isActive,
    isByItself: comes !== null,
    hours,
    side,
    of,
  }
}

function readDraft(own: OwnStatus | null, draft: StatusDraft): Read {
  const { isByItself, hours, side, of, ...plain } = draft
  const comes = isByItself ? { hours: hours === '' ? null : hours, side, of } : null
  const parsed = ownStatusInput.safeParse({ ...plain, comes })
  if (!parsed.success) {
    const faults = parsed.error.issues.map((issue): [string, string] => [
      issue.path[0] === 'comes' ? 'hours' : String(issue.path[0]),
      sayFault(issue.message),
    ])
    return { change: null, faults: Object.fromEntries(faults) }
  }
  const { id = null, revision = 0 } = own ?? {}
  return { change: { of: 'own status', id, revision, ownStatus: parsed.data }, faults: null }
}

/** When a booking gets it without anybody giving it. */
function ByItself({ form }: { form: UseFormReturnType<StatusDraft> }) {
  const { isByItself, side, of } = form.values
  return (
    <>
      <Switch
        label="A booking gets it by itself when a date passes"
        checked={isByItself}
        onChange={(event) => form.setFieldValue('isByItself', event.currentTarget.checked)}
      />
      {isByItself && (
        <div className={styles.several}>
          <NumberInput label="Hours" allowDecimal={false} min={0} {...form.getInputProps('hours')} />
          <Select
            label="Before or after"
            allowDeselect={false}
            data={['before', 'after']}
            value={side}
            onChange={(next) => next !== null && form.setFieldValue('side', next)}
          />
          <Select
            label="Its start or end"
            allowDeselect={false}
            data={['start', 'end']}
            value={of}
            onChange={(next) => next !== null && form.setFieldValue('of', next)}
          />
        </div>
      )}
      {isByItself && (
        <p className={table.quiet}>
          To a booking that means something else by then it comes only where “May follow only” names the
          status it has. Dates that have passed before you save this do not count.
        </p>
      )}
    </>
  )
}

const meaningHelp = 'For seats, messages and payments it counts as this.'

function Editor({ own, settings }: { own: OwnStatus | null; settings: SettingsView }) {
  const form = useForm<StatusDraft>({ initialValues: draftOf(own) })
  const others = settings.ownStatuses.filter(({ id, isActive }) => id !== own?.id && isActive)
  return (
    <SettingsForm
      form={form}
      read={(draft) => readDraft(own, draft)}
      below={(look) =>
        own && (
          <LetGo kind="status" of={own} onArchive={() => look({ ...form.values, isActive: !own.isActive })} />
        )
      }
    >
      <div className={styles.form}>
        <TextInput
          label="Name"
          description={own ? 'For good: bookings, sequences and histories go by it.' : 'Such as “papers in”.'}
          readOnly={own !== null}
          {...form.getInputProps('name')}
        />
        {own ? (
          <TextInput label="Means" description={meaningHelp} readOnly value={own.meaning} />
        ) : (
          <Select
            label="Means"
            description={meaningHelp}
            allowDeselect={false}
            data={bookingStatus.options}
            {...form.getInputProps('meaning')}
          />
        )}
        <MultiSelect
          label="May follow only"
          description="Nothing chosen: every status after which its meaning is possible."
          data={[...bookingStatus.options, ...others.map(({ name }) => name)]}
          {...form.getInputProps('after')}
        />
        <MultiSelect
          label="Only for"
          placeholder={form.values.serviceIds.length === 0 ? 'all services' : ''}
          data={settings.services.map(({ id, name }) => ({ value: id, label: name }))}
          {...form.getInputProps('serviceIds')}
        />
        <ByItself form={form} />
      </div>
    </SettingsForm>
  )
}

/** A status of the business's own, to be changed; `new`: a new one. */
export default function StatusPage() {
  return (
    <EditPage what="status" itemsOf={({ ownStatuses }) => ownStatuses}>
      {(own, settings) => <Editor key={own?.id ?? 'new'} own={own} settings={settings} />}
    </EditPage>
  )
}
