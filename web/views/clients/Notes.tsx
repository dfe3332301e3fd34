import { Button, Checkbox } from '@mantine/core'
import { useState } from 'react'
import type { TaskLine } from '#core/api/taskEndpoints.ts'
import { epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { TaskFields, taskOf, type TaskDraft } from '../../parts/TaskFields.tsx'
import table from '../../parts/timetable.module.css'

/** Sets a task about a client, such as a call next week. */
export function SetTask({ clientId }: { clientId: string }) {
  const { zone, now } = useBusiness()
  const empty: TaskDraft = { title: '', dueOn: isoDateOf(dayAt(zone, now) + 7), personId: '' }
  const [draft, setDraft] = useState(empty)
  const set = useTell('addTask', () => setDraft(empty))
  return (
    <SheetForm
      onSubmit={() => {
        set.mutate({ parameters: { id: clientId }, body: { task: taskOf(draft) } })
      }}
    >
      <TaskFields draft={draft} problem={set.error} onChange={setDraft} />
      <Problem of={set.error} />
      <div className={table.acts}>
        <Button type="submit" variant="default" disabled={draft.title.trim() === ''} loading={set.isPending}>
          Set the task
        </Button>
      </div>
    </SheetForm>
  )
}

/** What is to be done for a client, and what was. */
export function Tasks({ tasks }: { tasks: readonly TaskLine[] }) {
  const { year } = useBusiness()
  const finish = useTell('finishTask')
  return (
    <>
      <ul className={table.list}>
        {tasks.map((task) => (
          <li
            key={task.id}
            className={`${table.row ?? ''} ${table.dated ?? ''}`}
            style={{ '--columns': '11rem minmax(0, 1fr) auto' }}
          >
            <span className={table.time}>{shortDate(epochDayOf(task.dueOn), year)}</span>
            <Checkbox
              label={task.title}
              checked={task.doneAt !== null}
              disabled={finish.isPending}
              onChange={(event) =>
                finish.mutate({
                  parameters: { id: task.id },
                  body: { revision: task.revision, isDone: event.currentTarget.checked },
                })
              }
            />
            <span className={table.quiet}>{task.personName ?? 'anybody'}</span>
          </li>
        ))}
      </ul>
      <Problem of={finish.error} />
    </>
  )
}
