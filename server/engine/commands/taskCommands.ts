import type { NoteAnswer } from '#core/api/taskEndpoints.ts'
import { taskInNote } from '#core/incoming/taskInNote.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { addTask, changeTask, finishTask, writeNote } from '#core/engine/commands/taskCommands.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Subject } from '#core/model/subject.ts'
import type { Task, TaskInput } from '#core/model/task.ts'
import type { Settings } from '#core/planning/slice.ts'
import { dayAt } from '#core/time/zones.ts'
import type { NoteWishes } from '#core/model/noteWishes.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { onClient, type Changed } from './onClient.ts'
import { readBooking, readTask } from '../../db/clientStore.ts'
import { onlyLiving } from '../../db/livingStore.ts'

const noClient = 'There is no such client.'

/** A note about what a subject is, and the dated task it speaks of. */
export function noted(
  about: Pick<Task, 'clientId' | 'subject'>,
  id: string,
  text: string,
  settings: Settings,
  context: EngineContext,
): Decision<NoteAnswer> {
  const { business, zones } = settings
  const task = taskInNote(text, dayAt(zones.zone(business.zone), context.now), 'en')
  return { effects: writeNote(about, text, context), answer: { id, task } }
}

const notingOnBooking =
  (application: Application) =>
  (call: CommandCall, id: string, text: string): Result<NoteAnswer> =>
    application.command(call, (context, settings): Result<Decision<NoteAnswer>> => {
      const booking = readBooking(application.store.statements, id)
      if (!booking) return refused('not found', 'There is no such booking.')
      const about = { clientId: booking.clientId, subject: { kind: 'booking', id } } as const
      return done(noted(about, id, text, settings, context))
    })

/** What the team has to do, and what it writes down. */
export function createTaskCommands(application: Application) {
  const revisionOf = (id: string) =>
    Number(application.store.statements.one('taskRevision', { id })?.['revision'] ?? 0)
  const onTask = (
    call: CommandCall,
    { id, revision }: Changed,
    decide: (task: Task, settings: Settings, context: EngineContext) => Result<readonly Effect[]>,
  ): Result<Changed> => {
    const acted = application.command(call, (context, settings) => {
      const task = readTask(application.store.statements, id)
      if (!task) return refused<never>('not found', 'There is no such task.')
      if (revisionOf(id) !== revision) {
        return refused<never>('changed meanwhile', 'This task has changed meanwhile. Look at it once more.')
      }
      const decided = decide(task, settings, context)
      return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
    })
    return acted.ok ? done({ id, revision: revisionOf(id) }) : acted
  }
  return {
    addTask: (call: CommandCall, clientId: string, input: TaskInput, subject: Subject | null = null) =>
      application.command(call, (context) =>
        onClient(
          application,
          clientId,
          onlyLiving,
          noClient,
          ({ settings }) => addTask(settings, { clientId, subject }, input, context),
          (effects) => ({
            id: effects.flatMap((one) => (one.kind === 'put task' ? [one.task.id] : []))[0] ?? '',
          }),
        ),
      ),
    changeTask: (call: CommandCall, on: Changed, input: TaskInput) =>
      onTask(call, on, (task, settings, context) => changeTask(settings, task, input, context)),
    finishTask: (call: CommandCall, on: Changed, isDone: boolean) =>
      onTask(call, on, (task, _, context) => done(finishTask(task, isDone, context))),
    setNoteWishes: (call: CommandCall, wishes: NoteWishes) =>
      application.command(call, () => {
        const personId = call.personId ?? ''
        return done({ effects: [{ kind: 'set note wishes', personId, wishes }], answer: { id: personId } })
      }),
    writeNote: (call: CommandCall, clientId: string, text: string): Result<NoteAnswer> =>
      application.command(call, (context, settings) => {
        const slice = application.sliceOf(clientId, onlyLiving)
        if (!slice) return refused('not found', noClient)
        return done(noted({ clientId, subject: null }, clientId, text, settings, context))
      }),
    noteOnBooking: notingOnBooking(application),
  }
}
