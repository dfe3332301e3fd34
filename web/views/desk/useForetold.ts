import { useQueries } from '@tanstack/react-query'
import type { Announcement } from '#core/api/announcements.ts'
import type { SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import { consider } from '../../app/api.ts'

/** What a single press can do about a message. */
export type Action = SendDecision | 'stop'

function foretell({ id, revision, clientId, sequenceId }: SendLine, action: Action): Promise<Announcement> {
  return action === 'stop'
    ? consider('stopSequence', { parameters: { id: clientId }, body: { sequenceId } })
    : consider('decideSend', { parameters: { id }, body: { revision, decision: action } })
}

/** What each of some actions would do, as far as it is known yet; an action that would be refused is not in it. */
export function useForetold(
  send: SendLine,
  actions: readonly Action[],
): Readonly<Partial<Record<Action, Announcement>>> {
  const answers = useQueries({
    queries: actions.map((action) => ({
      queryKey: ['foretold', send.id, send.revision, action],
      queryFn: () => foretell(send, action),
      gcTime: 0,
      staleTime: 0,
      retry: false,
    })),
  })
  return Object.fromEntries(
    actions.flatMap((action, index): [Action, Announcement][] => {
      const foretold = answers[index]?.data
      return foretold ? [[action, foretold]] : []
    }),
  )
}
