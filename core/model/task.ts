import { z } from 'zod'
import { personId } from './business.ts'
import { clientId } from './client.ts'
import { subject } from './subject.ts'
import { idOf, instant, isoDate, requiredLine } from './values.ts'

export const taskId = idOf('tk')

/** Something a person of the team has to do. */
export const task = z
  .object({
    id: taskId,
    clientId,
    subject: subject.nullable(),
    title: requiredLine(200, 'The task needs a title.'),
    dueOn: isoDate,
    /** Null: whoever comes first. */
    personId: personId.nullable(),
    madeAt: instant,
    doneAt: instant.nullable(),
  })
  .strict()
export type Task = z.infer<typeof task>

/** What a person says of a task: what is to be done, by when, by whom. */
export const taskInput = task.pick({ title: true, dueOn: true, personId: true }).strict()
export type TaskInput = z.infer<typeof taskInput>
