import { Checkbox, MultiSelect, NumberInput, Radio, Group, Select, Textarea, TextInput } from '@mantine/core'
import type { UseFormReturnType } from '@mantine/form'
import type { Person } from '#core/model/business.ts'
import table from '../../parts/timetable.module.css'
import { ZoneSelect } from '../../parts/ZoneSelect.tsx'
import { ClosedDates } from './ClosedDates.tsx'
import { Departures } from './Departures.tsx'
import { HolidaysField, HoursFields } from './HoursFields.tsx'
import { Questions } from './Questions.tsx'
import type { ServiceDraft } from './serviceDraft.ts'
import styles from './setup.module.css'

export type ServiceForm = UseFormReturnType<ServiceDraft>

interface FieldsProps {
  readonly form: ServiceForm
}

/** The sentence that stands at a field because of what is wrong with it; null: nothing is. */
const faultAt = (form: ServiceForm, path: string) => {
  const fault = form.errors[path]
  return typeof fault === 'string' ? fault : null
}

function What({ form }: FieldsProps) {
  return (
    <>
      <h2 className={table.group}>What it is</h2>
      <div className={styles.form}>
        <TextInput label="Name" {...form.getInputProps('name')} />
        <Textarea
          label="What clients read about it"
          autosize
          minRows={2}
          {...form.getInputProps('forClients')}
        />
        <div className={styles.several}>
          <NumberInput label="Takes, in minutes" min={1} {...form.getInputProps('durationMinutes')} />
          <NumberInput
            label="Kept free before, in minutes"
            min={0}
            {...form.getInputProps('bufferBeforeMinutes')}
          />
          <NumberInput
            label="Kept free after, in minutes"
            min={0}
            {...form.getInputProps('bufferAfterMinutes')}
          />
          <NumberInput label="Seats" min={1} {...form.getInputProps('seats')} />
        </div>
        <Radio.Group
          label="At one time it is for"
          value={form.values.isShared ? 'several' : 'one'}
          onChange={(value) => form.setFieldValue('isShared', value === 'several')}
        >
          <Group>
            <Radio value="one" label="one booking" />
            <Radio value="several" label="several bookings, until the seats are taken" />
          </Group>
        </Radio.Group>
        <TextInput label="Place" {...form.getInputProps('place')} />
        <Textarea label="How to get there" autosize minRows={2} {...form.getInputProps('directions')} />
        <ZoneSelect label="Zone of the place" {...form.getInputProps('placeZone')} />
        <div className={styles.several}>
          <TextInput
            label="Messages about it come from (name)"
            placeholder="as everywhere"
            {...form.getInputProps('senderName')}
          />
          <TextInput
            label="Answers about it go to (e-mail address)"
            placeholder="as everywhere"
            {...form.getInputProps('senderReplyTo')}
          />
        </div>
      </div>
    </>
  )
}

function When({ form, people }: FieldsProps & { people: readonly Person[] }) {
  const { startsBy, hours, departures, holidays, closedDates } = form.values
  return (
    <>
      <h2 className={table.group}>When it can be booked</h2>
      <div className={styles.form}>
        <Radio.Group
          label="It begins"
          value={startsBy}
          onChange={(value) => form.setFieldValue('startsBy', value === 'hours' ? 'hours' : 'departures')}
        >
          <Group>
            <Radio value="hours" label="every so often within some hours" />
            <Radio value="departures" label="at fixed departures" />
          </Group>
        </Radio.Group>
        {startsBy === 'hours' ? (
          <>
            <HoursFields
              legend="Bookable hours"
              hours={hours}
              onChange={(next) => form.setFieldValue('hours', next)}
              faultOf={(index) => faultAt(form, `hours.${index}`)}
            />
            <NumberInput
              label="From one start to the next, in minutes"
              w="16rem"
              min={5}
              {...form.getInputProps('everyMinutes')}
            />
          </>
        ) : (
          <Departures
            departures={departures}
            onChange={(next) => form.setFieldValue('departures', next)}
            faultOf={(path) => faultAt(form, path)}
          />
        )}
        <HolidaysField value={holidays} onChange={(next) => form.setFieldValue('holidays', next)} />
        <ClosedDates dates={closedDates} onChange={(next) => form.setFieldValue('closedDates', next)} />
        <MultiSelect
          label="Who can do it"
          description="Nobody chosen: that does not matter. Else it can be booked when one of them is free."
          data={people.map(({ id, name }) => ({ value: id, label: name }))}
          {...form.getInputProps('personIds')}
        />
      </div>
    </>
  )
}

function Paying({ form }: FieldsProps) {
  const { paysBy } = form.values
  return (
    <>
      <Radio.Group
        label="Once it is confirmed, ask to be paid"
        description="By invoices with a date; sequences on them can remind until they are paid."
        {...form.getInputProps('paysBy')}
      >
        <Group>
          <Radio value="nothing" label="nothing by itself" />
          <Radio value="whole" label="all of it" />
          <Radio value="deposit" label="a deposit, then the rest" />
        </Group>
      </Radio.Group>
      {paysBy !== 'nothing' && (
        <div className={styles.several}>
          {paysBy === 'deposit' && (
            <>
              <NumberInput label="Deposit, in %" min={1} {...form.getInputProps('depositPercent')} />
              <NumberInput label="Due within, in days" min={0} {...form.getInputProps('depositWithinDays')} />
            </>
          )}
          <NumberInput
            label={paysBy === 'deposit' ? 'The rest due, in days before' : 'Due, in days before'}
            min={0}
            {...form.getInputProps('balanceDaysBefore')}
          />
        </div>
      )}
    </>
  )
}

function Money({ form }: FieldsProps) {
  return (
    <>
      <h2 className={table.group}>Price and cancelling</h2>
      <div className={styles.form}>
        <div className={styles.several}>
          <NumberInput
            label="Price, in €"
            description="Empty: it is not said."
            min={0}
            decimalScale={2}
            {...form.getInputProps('price')}
          />
          <Select
            label="For"
            allowDeselect={false}
            data={[
              { value: 'person', label: 'each person' },
              { value: 'booking', label: 'the whole booking' },
            ]}
            {...form.getInputProps('pricePer')}
          />
        </div>
        <div className={styles.several}>
          <NumberInput
            label="Free to cancel until, in hours before"
            min={0}
            {...form.getInputProps('freeUntilHours')}
          />
          <NumberInput
            label="Fee after that, in % of the price"
            min={0}
            {...form.getInputProps('feePercent')}
          />
        </div>
        <Paying form={form} />
      </div>
    </>
  )
}

function Online({ form }: FieldsProps) {
  const { questions } = form.values
  return (
    <>
      <h2 className={table.group}>Booking by clients</h2>
      <div className={styles.form}>
        <Checkbox
          size="md"
          label="Clients can book it on the public page"
          {...form.getInputProps('isPublic', { type: 'checkbox' })}
        />
        <Radio.Group label="A booking made there" {...form.getInputProps('confirms')}>
          <Group>
            <Radio value="at once" label="counts at once" />
            <Radio value="on request" label="is a request, which you confirm" />
            <Radio value="by the client" label="counts once they confirm it from their mailbox" />
          </Group>
        </Radio.Group>
        <div className={styles.several}>
          <NumberInput label="Until, in hours before" min={0} {...form.getInputProps('noticeHours')} />
          <NumberInput label="At most ahead, in days" min={1} {...form.getInputProps('horizonDays')} />
          <NumberInput
            label="Clients move or cancel until, in hours before"
            min={0}
            {...form.getInputProps('changeUntilHours')}
          />
        </div>
        <Questions
          questions={questions}
          onChange={(next) => form.setFieldValue('questions', next)}
          faultOf={(path) => faultAt(form, path)}
        />
      </div>
    </>
  )
}

/** Everything that can be said of a service. */
export function ServiceFields({ form, people }: FieldsProps & { people: readonly Person[] }) {
  return (
    <>
      <What form={form} />
      <When form={form} people={people} />
      <Money form={form} />
      <Online form={form} />
    </>
  )
}
