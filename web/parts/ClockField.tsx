import { lazy, type ReactNode } from 'react'
import { LateField } from './LateField.tsx'

const PickedTime = lazy(() => import('./PickedTime.tsx'))

interface ClockFieldProps {
  readonly label: string
  readonly value: string
  readonly onChange: (value: string) => void
  readonly error?: ReactNode
}

/** A time of day on the 24-hour clock, typed as hours and minutes. */
export function ClockField({ label, value, onChange, error }: ClockFieldProps) {
  return (
    <LateField label={label} width="4.6rem">
      <PickedTime
        label={label}
        format="24h"
        value={value}
        onChange={onChange}
        error={error}
        hoursInputLabel={`${label}: hours`}
        minutesInputLabel={`${label}: minutes`}
      />
    </LateField>
  )
}
