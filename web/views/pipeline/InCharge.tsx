import { Select, type SelectProps } from '@mantine/core'
import { useAsk } from '../../app/queries.ts'

type InChargeProps = Omit<SelectProps, 'data' | 'clearable'>

/** Somebody of the team, or nobody. */
export function InCharge({ value, ...field }: InChargeProps) {
  const settings = useAsk('settings')
  const people = (settings.data?.people ?? []).filter(({ id, isActive }) => isActive || id === value)
  return (
    <Select
      label="In charge"
      clearable
      clearButtonProps={{ 'aria-label': 'Nobody in charge' }}
      data={people.map(({ id, name }) => ({ value: id, label: name }))}
      value={value ?? null}
      {...field}
    />
  )
}
