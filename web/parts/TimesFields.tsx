import { DateInput } from '@mantine/dates'
import type { ReactNode } from 'react'
import { epochDayOf, isoDateOf, minuteMs, minuteOfDay, timeOfDayOf } from '#core/time/calendar.ts'
import { instantAt, wallAt, type Zone } from '#core/time/zones.ts'
import { ClockField } from './ClockField.tsx'
import table from './timetable.module.css'

/** Start and end as a form holds them: a date, two times of day. An end before the start is on the next day. */
export interface Times {
  readonly date: string | null
  readonly start: string
  readonly end: string
}

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

/** The end that belongs to a start, a service's duration later on the clock of the place. */
export function endFor(zone: Zone, date: string, start: string, durationMinutes: number): string {
  const { msOfDay } = wallAt(
    zone,
    instantAt(zone, epochDayOf(date), minuteOfDay(start)) + durationMinutes * minuteMs,
  )
  return timeOfDayOf(Math.floor(msOfDay / minuteMs))
}

/** Start and end as the server takes them. Null while something is missing. */
export function localTimes({ date, start, end }: Times): { startLocal: string; endLocal: string } | null {
  if (date === null || start === '' || end === '') return null
  const endDate = end < start ? isoDateOf(epochDayOf(date) + 1) : date
  return { startLocal: `${date}T${start}`, endLocal: `${endDate}T${end}` }
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
      <DateInput
        label="Date"
        placeholder="choose a day"
        valueFormat="ddd D MMM YYYY"
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
