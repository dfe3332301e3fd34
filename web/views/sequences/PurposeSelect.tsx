import { Select } from '@mantine/core'
import { purpose, type Purpose } from '#core/model/timing.ts'

const messagePurposes = purpose.exclude(['internal']).options

/** The purpose of a message, which settles everything that is not said. */
export function PurposeSelect({
  value,
  onChange,
}: {
  value: Purpose
  onChange: (value: Exclude<Purpose, 'internal'>) => void
}) {
  return (
    <Select
      label="Purpose"
      w="11rem"
      allowDeselect={false}
      data={[...messagePurposes]}
      value={value}
      onChange={(chosen) => {
        const parsed = purpose.exclude(['internal']).safeParse(chosen)
        if (parsed.success) onChange(parsed.data)
      }}
    />
  )
}
