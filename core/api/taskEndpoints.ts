import { z } from 'zod'
import { noteText } from '../engine/commands/taskCommands.ts'
import { noteWishes } from '../model/noteWishes.ts'
import { subject } from '../model/subject.ts'
import { task, taskInput } from '../model/task.ts'
import { ask, change, changed, command, commandOn, made, tell } from './described.ts'

/** A task as lists show it. */
export const taskLine = task.extend({
  revision: z.number().int(),
  clientName: z.string(),
  personName: z.string().nullable(),
})
export type TaskLine = z.infer<typeof taskLine>

/** A note that was written, and the dated task it speaks of: proposed, not set. */
export const noteAnswer = made.extend({ task: taskInput.pick({ title: true, dueOn: true }).nullable() })
export type NoteAnswer = z.infer<typeof noteAnswer>

/** What the team has to do, and what it writes down. */
export const taskEndpoints = {
  addTask: tell({
    path: '/api/clients/:id/tasks',
    summary: 'Set a task about a client',
    body: z
      .object({
        ...command,
        task: taskInput,
        /** What of the client it is about; null: the client. */
        subject: subject.nullable().default(null),
      })
      .strict(),
    answer: made,
  }),
  changeTask: change({
    path: '/api/tasks/:id',
    summary: 'Move a task to another day, hand it on, or change its words',
    body: z.object({ ...commandOn, task: taskInput }).strict(),
    answer: changed,
  }),
  finishTask: tell({
    path: '/api/tasks/:id/done',
    summary: 'Mark a task as done, or open it again',
    body: z.object({ ...commandOn, isDone: z.boolean() }).strict(),
    answer: changed,
  }),
  noteWishes: ask({
    path: '/api/note-wishes',
    summary: 'Which notes by mail the person who asks wants',
    answer: z.object({ wishes: noteWishes, email: z.string() }),
  }),
  setNoteWishes: change({
    path: '/api/note-wishes',
    summary: 'Set or switch off the notes by mail of the person who asks',
    body: z.object({ ...command, wishes: noteWishes }).strict(),
    answer: made,
    access: 'signed in',
  }),
  writeNote: tell({
    path: '/api/clients/:id/notes',
    summary: 'Write a note about a client, kept with its time and author',
    body: z.object({ ...command, text: noteText }).strict(),
    answer: noteAnswer,
  }),
  noteOnBooking: tell({
    path: '/api/bookings/:id/notes',
    summary: 'Write a note about a booking, kept with its time and author',
    body: z.object({ ...command, text: noteText }).strict(),
    answer: noteAnswer,
  }),
} as const
