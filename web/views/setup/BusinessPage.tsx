import { NumberInput, Select, TextInput } from '@mantine/core'
import { useForm, type UseFormReturnType } from '@mantine/form'
import type { BusinessSettings } from '#core/api/settingsEndpoints.ts'
import { useAsk } from '../../app/queries.ts'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import table from '../../parts/timetable.module.css'
import { draftOfBusiness, readBusinessDraft, type BusinessDraft, type HoursDraft } from './businessDraft.ts'
import { ClosedDates } from './ClosedDates.tsx'
import { HolidaysField, HoursFields } from './HoursFields.tsx'
import { SettingsForm, type Read } from './SettingsForm.tsx'
import styles from './setup.module.css'

type Form = UseFormReturnType<BusinessDraft>

function Hours({ form, name, legend }: { form: Form; name: 'sendingHours' | 'officeHours'; legend: string }) {
  const hours = form.values[name]
  const put = (part: Partial<HoursDraft>) => form.setFieldValue(name, { ...hours, ...part })
  const faultOf = (index: number) => {
    const fault = form.errors[`${name}.weekly.${index}`]
    return typeof fault === 'string' ? fault : null
  }
  return (
    <section className={styles.form} aria-label={legend}>
      <HoursFields
        legend={legend}
        hours={hours.weekly}
        onChange={(weekly) => put({ weekly })}
        faultOf={faultOf}
      />
      <HolidaysField value={hours.holidays} onChange={(holidays) => put({ holidays })} />
      <ClosedDates dates={hours.closedDates} onChange={(closedDates) => put({ closedDates })} />
    </section>
  )
}

function Region({ form, regions }: { form: Form; regions: BusinessSettings['regions'] }) {
  const { country } = form.values
  const within = regions.find((one) => one.country === country)?.subdivisions ?? []
  return (
    <div className={styles.several}>
      <Select
        label="Public holidays of"
        searchable
        allowDeselect={false}
        limit={60}
        data={regions.map(({ country: value, name }) => ({ value, label: name }))}
        value={country}
        onChange={(next) => {
          if (next !== null && next !== country) form.setValues({ country: next, subdivision: null })
        }}
      />
      <Select
        label="Part of it"
        placeholder="those of the whole country"
        searchable
        clearable
        clearButtonProps={{ 'aria-label': 'Those of the whole country' }}
        disabled={within.length === 0}
        data={within.map(({ code, name }) => ({ value: code, label: name }))}
        {...form.getInputProps('subdivision')}
      />
    </div>
  )
}

function Rules({ form }: { form: Form }) {
  return (
    <div className={styles.several}>
      <NumberInput
        label="Quick changes settle for, in minutes"
        min={0}
        {...form.getInputProps('settleMinutes')}
      />
      <NumberInput
        label="A move counts from, in minutes"
        min={0}
        {...form.getInputProps('moveThresholdMinutes')}
      />
      <NumberInput
        label="Promotional messages a client and day"
        min={1}
        {...form.getInputProps('promotionalPerDay')}
      />
      <NumberInput
        label="Their distance from others, in hours"
        min={0}
        {...form.getInputProps('promotionalGapHours')}
      />
      <Select
        label="29 February in other years"
        allowDeselect={false}
        data={['28 February', '1 March']}
        {...form.getInputProps('leapDay')}
      />
    </div>
  )
}

function WhoYouAre({ form, settings }: FieldsProps) {
  return (
    <>
      <h2 className={table.group}>Who you are</h2>
      <div className={styles.form}>
        <TextInput label="Name of the business" {...form.getInputProps('name')} />
        <TextInput label="Postal address" {...form.getInputProps('postalAddress')} />
        <TextInput label="Telephone" {...form.getInputProps('phone')} />
        <p className={table.quiet}>Its zone is {settings.zone}.</p>
      </div>
      <h2 className={table.group}>How messages are signed</h2>
      <div className={styles.form}>
        <div className={styles.several}>
          <TextInput label="Name of the sender" {...form.getInputProps('senderName')} />
          <TextInput label="Messages come from (e-mail address)" {...form.getInputProps('senderAddress')} />
          <TextInput
            label="Answers go to (e-mail address)"
            placeholder="the sender’s address"
            {...form.getInputProps('replyTo')}
          />
        </div>
        <p className={table.quiet}>
          A mailbox that several of you read can sign, too: steps can then choose it as their sender.
        </p>
        <div className={styles.several}>
          <TextInput
            label="Name of the shared mailbox"
            placeholder="there is none"
            {...form.getInputProps('sharedName')}
          />
          <TextInput
            label="Address of the shared mailbox"
            placeholder="there is none"
            {...form.getInputProps('sharedAddress')}
          />
        </div>
      </div>
    </>
  )
}

interface FieldsProps {
  readonly form: Form
  readonly settings: BusinessSettings
}

function Fields({ form, settings, isBeginning }: FieldsProps & { readonly isBeginning: boolean }) {
  return (
    <>
      {!isBeginning && <WhoYouAre form={form} settings={settings} />}
      <h2 className={table.group}>When messages may go</h2>
      <Hours form={form} name="sendingHours" legend="Sending hours" />
      <h2 className={table.group}>When you work</h2>
      <Hours form={form} name="officeHours" legend="Office hours" />
      <h2 className={table.group}>{isBeginning ? 'Holidays' : 'Holidays and rules of time'}</h2>
      <div className={styles.form}>
        <Region form={form} regions={settings.regions} />
        {!isBeginning && <Rules form={form} />}
      </div>
    </>
  )
}

interface BusinessEditorProps {
  readonly settings: BusinessSettings
  /** At the beginning, where who it is was said just before and the rules of time are the usual ones: what follows. */
  readonly onBegun?: () => void
}

/** The business in its form. */
export function BusinessEditor({ settings, onBegun }: BusinessEditorProps) {
  const form = useForm<BusinessDraft>({ initialValues: draftOfBusiness(settings.business) })
  const read = (draft: BusinessDraft): Read => {
    const { business, faults } = readBusinessDraft(draft)
    return business === null
      ? { change: null, faults }
      : { change: { of: 'business', revision: settings.revision, business }, faults: null }
  }
  return (
    <SettingsForm form={form} read={read} {...(onBegun ? { onDone: onBegun } : {})}>
      <Fields form={form} settings={settings} isBeginning={onBegun !== undefined} />
    </SettingsForm>
  )
}

/** The business: who it is, its hours, holidays and rules of time. */
export default function BusinessPage() {
  const settings = useAsk('businessSettings')
  if (settings.error) return <ErrorState problem={settings.error} onAgain={() => void settings.refetch()} />
  if (!settings.data) return <Waiting />
  return (
    <SetUpPage title="The business">
      <BusinessEditor settings={settings.data} />
    </SetUpPage>
  )
}
