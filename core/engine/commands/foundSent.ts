import type { Send } from '../../model/send.ts'
import { sendStateTraits } from '../../model/sendState.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { subjectOf } from './sendCommands.ts'

const sentence = 'It stands in the sent mail of the account.'

/** What has not gone as far as is known here. What is on the wire, or was let go of, stays as it is. */
const isOpen = ({ state }: Pick<Send, 'state'>) =>
  !sendStateTraits[state].hasLeft && !['sending', 'cancelled', 'skipped'].includes(state)

/**
 * Messages of one client that stand in an account's sent mail have gone, whatever is known of them here, as where a backup
 * was put back that is older: they are as sent at that moment, and what comes after them counts from it.
 */
export function noteFoundSent(
  slice: Slice,
  found: ReadonlyMap<string, number>,
  context: EngineContext,
): { readonly effects: readonly Effect[]; readonly noted: number } {
  const gone = slice.facts.sends.flatMap((send) => {
    const at = found.get(send.id)
    return at !== undefined && isOpen(send) ? [{ send, at: Math.min(at, context.now) }] : []
  })
  const effects = gone.flatMap(({ send, at }): Effect[] => {
    const line = { rule: 'person', before: send.dueAt, after: null, code: 'found sent', sentence } as const
    const put: Send = {
      ...send,
      state: 'sent',
      sentAt: at,
      reason: { code: 'found sent', sentence },
      trace: [...send.trace, line],
      stateSince: context.now,
    }
    return [{ kind: 'put send', send: put }, appendEvent(context, 'message sent', subjectOf(send), sentence)]
  })
  return { noted: gone.length, effects: gone.length === 0 ? [] : conclude(slice, effects, context) }
}
