import { Button, Textarea } from '@mantine/core'
import { useState } from 'react'
import type { NoteAnswer } from '#core/api/taskEndpoints.ts'
import type { Subject } from '#core/model/subject.ts'
import { useBusiness } from '../app/business.ts'
import { useTell } from '../app/queries.ts'
import { Problem } from './Problem.tsx'
import { SheetForm } from './SheetForm.tsx'
import { TaskFields, taskOf, type TaskDraft } from './TaskFields.tsx'
import table from './timetable.module.css'

interface ProposedTaskProps {
  readonly task: NonNullable<NoteAnswer['task']>
  readonly clientId: string
  /** What of the client it is about; null: the client. */
  readonly subject: Subject | null
  readonly onClose: () => void
}

/** The dated task a note speaks of: set at one press, for oneself or handed on; or left. */
function ProposedTask({ task, clientId, subject, onClose }: ProposedTaskProps) {
  const { session } = useBusiness()
  const [draft, setDraft] = useState<TaskDraft>({ ...task, personId: session.person?.id ?? '' })
  const set = useTell('addTask', onClose)
  return (
    <SheetForm
      aria-label="The note speaks of a day"
      onSubmit={() => {
        set.mutate({ parameters: { id: clientId }, body: { task: taskOf(draft), subject } })
      }}
    >
      <p>The note speaks of a day. Set it as a task?</p>
      <TaskFields draft={draft} problem={set.error} onChange={setDraft} />
      <Problem of={set.error} />
      <div className={table.acts}>
        <Button type="submit" loading={set.isPending} disabled={draft.title.trim() === ''}>
          Set the task
        </Button>
        <Button variant="default" onClick={onClose}>
          No task
        </Button>
      </div>
    </SheetForm>
  )
}

interface WriteNoteProps {
  /** What it is about. */
  readonly on: 'writeNote' | 'noteOnBooking' | 'noteOnEnquiry'
  readonly id: string
  readonly clientId: string
}

const subjectOf = {
  writeNote: () => null,
  noteOnBooking: (id: string) => ({ kind: 'booking', id }) as const,
  noteOnEnquiry: (id: string) => ({ kind: 'enquiry', id }) as const,
}

/** Writes down what is known of a client, a booking or an enquiry, with time and author. */
export function WriteNote({ on, id, clientId }: WriteNoteProps) {
  const [text, setText] = useState('')
  const [task, setTask] = useState<NoteAnswer['task']>(null)
  const write = useTell(on, (answer) => {
    setText('')
    setTask(answer.task)
  })
  return (
    <>
      <SheetForm
        onSubmit={() => {
          write.mutate({ parameters: { id }, body: { text } })
        }}
      >
        <Textarea
          label="Note"
          autosize
          minRows={1}
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.currentTarget.value)}
        />
        <Problem of={write.error} />
        <div className={table.acts}>
          <Button type="submit" variant="default" disabled={text.trim() === ''} loading={write.isPending}>
            Write it down
          </Button>
        </div>
      </SheetForm>
      {task && (
        <ProposedTask
          key={`${task.title} ${task.dueOn}`}
          task={task}
          clientId={clientId}
          subject={subjectOf[on](id)}
          onClose={() => setTask(null)}
        />
      )}
    </>
  )
}
