import { Radio, TextInput, Group } from '@mantine/core'
import { weekdayNames } from '#core/time/calendar.ts'
import styles from './setup.module.css'

interface HoursFieldsProps {
  readonly legend: string
  /** As they are typed, Monday first. */
  readonly hours: readonly string[]
  readonly onChange: (hours: string[]) => void
  /** By the number of the weekday, Monday 0. */
  readonly faultOf: (index: number) => string | null
}

/** The hours of a week, one line a weekday; nothing means closed. */
export function HoursFields({ legend, hours, onChange, faultOf }: HoursFieldsProps) {
  return (
    <fieldset className={styles.hours}>
      <legend>{legend}</legend>
      {weekdayNames.map((name, index) => (
        <TextInput
          key={name}
          label={name}
          placeholder="closed"
          value={hours[index] ?? ''}
          error={faultOf(index)}
          onChange={(event) => onChange([...hours].with(index, event.currentTarget.value))}
        />
      ))}
    </fieldset>
  )
}

interface HolidaysFieldProps {
  readonly value: 'open' | 'closed'
  readonly onChange: (value: 'open' | 'closed') => void
}

export function HolidaysField({ value, onChange }: HolidaysFieldProps) {
  return (
    <Radio.Group
      label="On public holidays"
      value={value}
      onChange={(next) => onChange(next === 'open' ? 'open' : 'closed')}
    >
      <Group>
        <Radio value="open" label="open as on other days" />
        <Radio value="closed" label="closed" />
      </Group>
    </Radio.Group>
  )
}
