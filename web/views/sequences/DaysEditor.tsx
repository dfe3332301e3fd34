import { Checkbox, Group, Select } from '@mantine/core'
import type { OnlyDays, PlainStep } from '#core/model/step.ts'
import { weekdayNames } from '#core/time/calendar.ts'

const choices = [
  { value: 'any', label: 'on any day' },
  { value: 'working days', label: 'only on working days' },
  { value: 'weekdays', label: 'only on certain weekdays' },
]

const mondayToFriday: OnlyDays = { weekdays: [1, 2, 3, 4, 5] }

function daysOf(choice: string): OnlyDays | null {
  if (choice === 'any') return null
  return choice === 'weekdays' ? mondayToFriday : 'working days'
}

interface DaysEditorProps {
  readonly step: PlainStep
  readonly onChange: (step: PlainStep) => void
}

/** The days on which a step goes; all others are closed days for it. */
export function DaysEditor({ step, onChange }: DaysEditorProps) {
  const { onlyDays } = step
  const choice = onlyDays === null ? 'any' : onlyDays === 'working days' ? 'working days' : 'weekdays'
  const put = (days: OnlyDays | null) => onChange({ ...step, onlyDays: days })
  return (
    <Group gap="md" align="end">
      <Select
        label="Days"
        w="15rem"
        allowDeselect={false}
        data={choices}
        value={choice}
        onChange={(next) => next !== null && put(daysOf(next))}
      />
      {onlyDays !== null && onlyDays !== 'working days' && (
        <Checkbox.Group
          label="Weekdays"
          description="One at least."
          value={onlyDays.weekdays.map(String)}
          onChange={(chosen) => {
            // Never on any day would be a step that is switched off.
            if (chosen.length > 0) put({ weekdays: chosen.map(Number).sort((one, other) => one - other) })
          }}
        >
          <Group gap="sm" mt={4}>
            {weekdayNames.map((name, index) => (
              <Checkbox key={name} value={String(index + 1)} label={name} />
            ))}
          </Group>
        </Checkbox.Group>
      )}
    </Group>
  )
}
