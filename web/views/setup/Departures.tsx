import { Button, Checkbox, Group } from '@mantine/core'
import type { Departure } from '#core/model/offer.ts'
import { isoDateOf, weekdayNames } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import { DateField } from '../../parts/DateField.tsx'
import styles from './setup.module.css'

interface DeparturesProps {
  readonly departures: readonly Departure[]
  readonly onChange: (departures: Departure[]) => void
  readonly faultOf: (path: string) => string | null
}

interface LineProps {
  readonly departure: Departure
  readonly number: number
  readonly onChange: (departure: Departure) => void
  readonly onRemove: () => void
  readonly faultOf: (name: string) => string | null
}

function Line({ departure, number, onChange, onRemove, faultOf }: LineProps) {
  const { at, weekdays, from, to } = departure
  return (
    <fieldset className={styles.departure}>
      <legend>Departure {number}</legend>
      <Group align="start" gap="sm">
        <ClockField
          label="At"
          value={at}
          error={faultOf('at')}
          onChange={(next) => onChange({ ...departure, at: next })}
        />
        <DateField
          label="From"
          value={from}
          error={faultOf('from')}
          onChange={(next) => onChange({ ...departure, from: next ?? from })}
        />
        <DateField
          label="To"
          value={to}
          error={faultOf('to')}
          onChange={(next) => onChange({ ...departure, to: next ?? to })}
        />
      </Group>
      <Checkbox.Group
        label="On"
        value={weekdays.map(String)}
        error={faultOf('weekdays')}
        onChange={(chosen) =>
          onChange({ ...departure, weekdays: chosen.map(Number).sort((one, other) => one - other) })
        }
      >
        <Group gap="sm">
          {weekdayNames.map((name, index) => (
            <Checkbox
              key={name}
              size="md"
              value={String(index + 1)}
              label={name.slice(0, 3)}
              aria-label={name}
            />
          ))}
        </Group>
      </Checkbox.Group>
      <div>
        <Button size="compact-sm" variant="subtle" onClick={onRemove}>
          Remove departure {number}
        </Button>
      </div>
    </fieldset>
  )
}

/** Fixed departures: a time of day on some weekdays of a stretch of dates. */
export function Departures({ departures, onChange, faultOf }: DeparturesProps) {
  const { zone, now } = useBusiness()
  const add = () => {
    const today = dayAt(zone, now)
    const last = departures.at(-1)
    onChange([
      ...departures,
      last ?? {
        at: '10:00',
        weekdays: [1, 2, 3, 4, 5, 6, 7],
        from: isoDateOf(today),
        to: isoDateOf(today + 90),
      },
    ])
  }
  return (
    <div className={styles.departures}>
      {departures.map((departure, index) => (
        <Line
          key={index}
          departure={departure}
          number={index + 1}
          onChange={(next) => onChange([...departures].with(index, next))}
          onRemove={() => onChange(departures.filter((_, at) => at !== index))}
          faultOf={(name) => faultOf(`departures.${index}.${name}`)}
        />
      ))}
      <div>
        <Button variant="default" onClick={add}>
          Add a departure
        </Button>
      </div>
    </div>
  )
}
