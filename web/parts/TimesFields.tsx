import { DateField } from './DateField.tsx'
import type { ReactNode } from 'react'
import type { Zone } from '#core/time/zones.ts'
import { ClockField } from './ClockField.tsx'
import { endFor, type Times } from './times.ts'
import table from './timetable.module.css'

export interface TimesErrors {
  readonly start?: ReactNode
  readonly end?: ReactNode
}

interface TimesFieldsProps {
  readonly times: Times
  readonly onChange: (times: Times) => void
  readonly zone: Zone
  readonly durationMinutes: number
  readonly errors: TimesErrors
}

/** Date, start and end; choosing a start sets the end by the service's duration. */
export function TimesFields({ times, onChange, zone, durationMinutes, errors }: TimesFieldsProps) {
  const withEnd = (next: Times): Times =>
    next.date !== null && next.start !== ''
      ? { ...next, end: endFor(zone, next.date, next.start, durationMinutes) }
      : next
  const { start, end } = times
  const endsNextDay = start !== '' && end !== '' && end < start
  return (
    <>
      <DateField
        label="Date"
        placeholder="choose a day"
        value={times.date}
        error={errors.start}
        onChange={(date) => onChange(withEnd({ ...times, date }))}
        popoverProps={{ withinPortal: false }}
      />
      <div className={table.acts}>
        <ClockField
          label="Start"
          value={start}
          onChange={(value) => onChange(withEnd({ ...times, start: value }))}
        />
        <ClockField
          label={endsNextDay ? 'End (next day)' : 'End'}
          value={end}
          error={errors.end}
          onChange={(value) => onChange({ ...times, end: value })}
        />
      </div>
      <p className={table.quiet} style={{ margin: 0, fontSize: '0.85rem' }}>
        On the clock of the place ({zone.name}).
      </p>
    </>
  )
}
