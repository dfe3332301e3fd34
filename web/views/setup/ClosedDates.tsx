import { Button } from '@mantine/core'
import { shortDate } from '#core/time/format.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { DateField } from '../../parts/DateField.tsx'
import styles from './setup.module.css'

interface ClosedDatesProps {
  readonly dates: readonly string[]
  readonly onChange: (dates: string[]) => void
}

/** Single days on which it is closed. */
export function ClosedDates({ dates, onChange }: ClosedDatesProps) {
  return (
    <div>
      <DateField
        label="Closed on single days: add a day"
        value={null}
        onChange={(date) => {
          if (date !== null && !dates.includes(date)) onChange([...dates, date].sort())
        }}
      />
      {dates.length > 0 && (
        <ul className={styles.dates} aria-label="Closed days">
          {dates.map((date) => (
            <li key={date}>
              {shortDate(epochDayOf(date))}{' '}
              <Button
                size="compact-sm"
                variant="subtle"
                aria-label={`Open again on ${shortDate(epochDayOf(date))}`}
                onClick={() => onChange(dates.filter((one) => one !== date))}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
