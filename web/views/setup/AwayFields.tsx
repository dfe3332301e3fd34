import { Button, Select } from '@mantine/core'
import type { UseFormReturnType } from '@mantine/form'
import type { ReactNode } from 'react'
import type { SettingsView } from '#core/api/views.ts'
import { DateField } from '../../parts/DateField.tsx'
import type { AwayDraft, PersonDraft } from './personDraft.ts'
import styles from './setup.module.css'

interface AwayFieldsProps {
  readonly form: UseFormReturnType<PersonDraft>
  /** Who can stand in. */
  readonly others: SettingsView['people']
}

const nobody = ''

interface TimeAwayProps {
  readonly one: AwayDraft
  readonly others: AwayFieldsProps['others']
  readonly number: number
  readonly faultOf: (field: string) => ReactNode
  readonly onChange: (part: Partial<AwayDraft>) => void
  readonly onRemove: () => void
}

function TimeAway({ one, others, number, faultOf, onChange, onRemove }: TimeAwayProps) {
  const { from, to, standInId } = one
  return (
    <div className={styles.away}>
      <DateField
        label="First day"
        value={from}
        error={faultOf('from')}
        onChange={(date) => onChange({ from: date })}
      />
      <DateField
        label="Last day"
        value={to}
        error={faultOf('to')}
        onChange={(date) => onChange({ to: date })}
      />
      <Select
        label="Stand-in"
        allowDeselect={false}
        data={[
          { value: nobody, label: 'nobody' },
          ...others.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        value={standInId ?? nobody}
        error={faultOf('standInId')}
        onChange={(id) => onChange({ standInId: id === null || id === nobody ? null : id })}
      />
      <Button size="compact-sm" variant="subtle" aria-label={`Remove time away ${number}`} onClick={onRemove}>
        Remove
      </Button>
    </div>
  )
}

/** When somebody is away, and who stands in for them then. */
export function AwayFields({ form, others }: AwayFieldsProps) {
  const { away } = form.values
  const put = (index: number, part: Partial<AwayDraft>) =>
    form.setFieldValue(
      'away',
      away.map((one, other) => (other === index ? { ...one, ...part } : one)),
    )
  return (
    <fieldset className={styles.hours}>
      <legend>Away</legend>
      <p>
        On these days nobody can book them; what would go to them goes to the stand-in, and so do answers to
        messages in their name.
      </p>
      {away.map((one, index) => (
        <TimeAway
          key={index}
          one={one}
          others={others}
          number={index + 1}
          faultOf={(field) => form.errors[`away.${index}.${field}`] ?? null}
          onChange={(part) => put(index, part)}
          onRemove={() =>
            form.setFieldValue(
              'away',
              away.filter((_, other) => other !== index),
            )
          }
        />
      ))}
      <p>
        <Button
          size="compact-md"
          variant="default"
          onClick={() =>
            form.setFieldValue('away', [...away, { from: null, to: null, standInId: others[0]?.id ?? null }])
          }
        >
          Add a time away
        </Button>
      </p>
    </fieldset>
  )
}
