import type { DateInputProps } from '@mantine/dates'
import { lazy } from 'react'
import { LateField } from './LateField.tsx'

const PickedDate = lazy(() => import('./PickedDate.tsx'))

/** A day, typed or picked, with its weekday. */
export function DateField(props: DateInputProps) {
  return (
    <LateField label={props.label}>
      <PickedDate valueFormat="ddd D MMM YYYY" {...props} />
    </LateField>
  )
}
