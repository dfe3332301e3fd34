import { done, refused, type Result } from '../../model/problem.ts'
import type { Task, TaskInput } from '../../model/task.ts'
import { requiredLine } from '../../model/values.ts'
import type { Settings } from '../../planning/slice.ts'
import { epochDayOf, isoDateOf } from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import { dayAt } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { taskSet } from '../following/taskSet.ts'

export const noteText = requiredLine(4000, 'The note needs words.')

function fault(settings: Settings, { dueOn, personId }: TaskInput, now: number): Result<never> | null {
  const zone = settings.zones.zone(settings.business.zone)
  if (dueOn < isoDateOf(dayAt(zone, now))) return refused('invalid', 'Choose today or a later day.', 'dueOn')
  const isKnown = settings.people.some(({ id, isActive }) => id === personId && isActive)
  return personId === null || isKnown ? null : refused('not found', 'There is no such person.', 'personId')
}

const about = ({ clientId, subject }: Pick<Task, 'clientId' | 'subject'>) => ({ clientId, subject })
const nameOf = (settings: Settings, personId: string | null) =>
  settings.people.find(({ id }) => id === personId)?.name ?? 'whoever comes first'
const dayOf = (isoDate: string) => longDate(epochDayOf(isoDate))

/** A task a person sets, such as a call on a certain day, about a client or one of their dealings. */
export function addTask(
  settings: Settings,
  { clientId, subject }: Pick<Task, 'clientId' | 'subject'>,
  input: TaskInput,
  context: EngineContext,
): Result<readonly Effect[]> {
  const wrong = fault(settings, input, context.now)
  if (wrong) return wrong
  const words = `Task for ${dayOf(input.dueOn)}: ${input.title}.`
  return done(taskSet({ ...input, clientId, subject }, words, context))
}

/** Another day, other hands or other words for a task that is still open. */
export function changeTask(
  settings: Settings,
  old: Task,
  input: TaskInput,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (old.doneAt !== null) return refused('not allowed now', 'This task is done by now.')
  const isOtherDay = input.dueOn !== old.dueOn
  const wrong = fault(settings, isOtherDay ? input : { ...input, dueOn: '9999-12-31' }, context.now)
  if (wrong) return wrong
  const changes = [
    ...(isOtherDay ? [`moved from ${dayOf(old.dueOn)} to ${dayOf(input.dueOn)}`] : []),
    ...(input.personId === old.personId ? [] : [`handed on to ${nameOf(settings, input.personId)}`]),
    ...(input.title === old.title ? [] : [`now “${input.title}”`]),
  ]
  if (changes.length === 0) return done([])
  const words = `Task “${old.title}” ${changes.join(', ')}.`
  const put: Effect = { kind: 'put task', task: { ...old, ...input } }
  return done([put, appendEvent(context, 'task changed', about(old), words)])
}

/** A task done, or open again. Doing it twice is doing it once. */
export function finishTask(old: Task, isDone: boolean, context: EngineContext): readonly Effect[] {
  if ((old.doneAt !== null) === isDone) return []
  const put: Effect = { kind: 'put task', task: { ...old, doneAt: isDone ? context.now : null } }
  const kind = isDone ? 'task done' : 'task taken up again'
  return [
    put,
    appendEvent(context, kind, about(old), `Task ${isDone ? 'done' : 'open again'}: ${old.title}.`),
  ]
}

/** What a person writes down about a client, or about one of their bookings, with its time and author. */
export function writeNote(
  { clientId, subject }: Pick<Task, 'clientId' | 'subject'>,
  text: string,
  context: EngineContext,
): readonly Effect[] {
  return [appendEvent(context, 'note written', { clientId, subject }, text)]
}
