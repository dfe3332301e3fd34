import type { Task } from '../../model/task.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

/** A task that is to be done from now on, and the sentence that tells of it. */
export function taskSet(
  asked: Omit<Task, 'id' | 'madeAt' | 'doneAt'>,
  sentence: string,
  context: EngineContext,
): readonly Effect[] {
  const { clientId, subject } = asked
  const task: Task = { ...asked, id: context.newId('tk'), madeAt: context.now, doneAt: null }
  return [{ kind: 'put task', task }, appendEvent(context, 'task set', { clientId, subject }, sentence)]
}
