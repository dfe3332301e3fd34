import { Select, type SelectProps } from '@mantine/core'
import { realZones } from '#core/time/realZones.ts'

/** A time zone of the world by its name; none chosen: that of the business. */
export function ZoneSelect(props: SelectProps) {
  return (
    <Select
      placeholder="that of the business"
      searchable
      clearable
      clearButtonProps={{ 'aria-label': 'The zone of the business' }}
      limit={50}
      data={[...realZones.names()]}
      {...props}
    />
  )
}
