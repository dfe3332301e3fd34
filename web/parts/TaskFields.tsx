import { Select, TextInput } from '@mantine/core'
import { DateField } from './DateField.tsx'
import type { TaskInput } from '#core/model/task.ts'
import type { ApiProblem } from '../app/api.ts'
import { useAsk } from '../app/queries.ts'
import { fieldErrors } from './fieldErrors.ts'

/** A task as a form holds it; nobody is an empty id. */
export interface TaskDraft {
  readonly title: string
  readonly dueOn: string | null
  readonly personId: string
}

/** A draft as the server takes it. */
export const taskOf = ({ title, dueOn, personId }: TaskDraft): TaskInput => ({
  title,
  dueOn: dueOn ?? '',
  personId: personId === '' ? null : personId,
})

interface TaskFieldsProps {
  readonly draft: TaskDraft
  readonly problem: ApiProblem | null
  readonly onChange: (draft: TaskDraft) => void
}

/** What is to be done, on which day, by whom. */
export function TaskFields({ draft, problem, onChange }: TaskFieldsProps) {
  const { data } = useAsk('settings')
  const errors = problem ? fieldErrors(problem, 'task') : {}
  const people = (data?.people ?? []).filter(({ isActive }) => isActive)
  return (
    <>
      <TextInput
        label="Task"
        placeholder="Call about the date"
        value={draft.title}
        error={errors['title']}
        onChange={(event) => onChange({ ...draft, title: event.currentTarget.value })}
      />
      <DateField
        label="On"
        value={draft.dueOn}
        error={errors['dueOn']}
        onChange={(dueOn) => onChange({ ...draft, dueOn })}
      />
      <Select
        label="Who"
        allowDeselect={false}
        data={[
          { value: '', label: 'whoever comes first' },
          ...people.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        value={draft.personId}
        onChange={(personId) => onChange({ ...draft, personId: personId ?? '' })}
      />
    </>
  )
}
