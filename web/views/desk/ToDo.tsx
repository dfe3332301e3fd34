import { Button } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useState } from 'react'
import { Link } from 'react-router'
import type { TaskLine } from '#core/api/taskEndpoints.ts'
import { deskKeys } from '../../app/keys.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { TaskFields, taskOf, type TaskDraft } from '../../parts/TaskFields.tsx'
import table from '../../parts/timetable.module.css'
import { finishing } from './acts.ts'
import styles from './Desk.module.css'
import type { Decision } from './useDecisions.ts'

function ChangeTask({ task }: { task: TaskLine }) {
  const present: TaskDraft = { title: task.title, dueOn: task.dueOn, personId: task.personId ?? '' }
  const [draft, setDraft] = useState(present)
  const change = useTell('changeTask')
  const isSame = JSON.stringify(draft) === JSON.stringify(present)
  return (
    <form
      className={styles.panel}
      onSubmit={(event) => {
        event.preventDefault()
        change.mutate({ parameters: { id: task.id }, body: { revision: task.revision, task: taskOf(draft) } })
      }}
    >
      <TaskFields draft={draft} problem={change.error} onChange={setDraft} />
      <Problem of={change.error} />
      <div className={styles.acts}>
        <Button type="submit" variant="default" disabled={isSame} loading={change.isPending}>
          Move or hand on
        </Button>
      </div>
    </form>
  )
}

interface ToDoProps {
  readonly task: TaskLine
  readonly onDecide: (decision: Decision) => void
}

/** Something to do: about whom, by when, by whom; done, moved or handed on. */
export default function ToDo({ task, onDecide }: ToDoProps) {
  const finish = () => onDecide(finishing(task))
  useHotkeys([[deskKeys.taskDone, finish]])
  return (
    <article className={styles.detail} aria-label={task.title}>
      <Link className={styles.back} to="/desk/to-do">
        ← back to the list
      </Link>
      <h2>{task.title}</h2>
      <p>
        About <Link to={`/client/${task.clientId}`}>{task.clientName}</Link>
        {task.subject?.kind === 'booking' && (
          <>
            {' · '}
            <Link to={`/booking/${task.subject.id}`}>the booking</Link>
          </>
        )}
        {task.subject?.kind === 'enquiry' && (
          <>
            {' · '}
            <Link to={`/enquiry/${task.subject.id}`}>the enquiry</Link>
          </>
        )}{' '}
        <span className={table.quiet}>· {task.personName ?? 'whoever comes first'}</span>
      </p>
      <div className={styles.acts}>
        <Button onClick={finish} aria-keyshortcuts={deskKeys.taskDone}>
          Done&nbsp;<kbd className={styles.key}>{deskKeys.taskDone}</kbd>
        </Button>
      </div>
      <ChangeTask key={`${task.id}-${task.dueOn}-${task.personId ?? ''}`} task={task} />
    </article>
  )
}
