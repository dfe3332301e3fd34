import { useQueries } from '@tanstack/react-query'
import type { Announcement, SendLine } from '#core/api/views.ts'
import type { SendDecision } from '#core/engine/commands/sendCommands.ts'
import { consider } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'

/** What a single press can do about a message. */
export type Deed = SendDecision | 'stop'

function foretell({ id, revision, clientId, sequenceId }: SendLine, deed: Deed): Promise<Announcement> {
  return deed === 'stop'
    ? consider('stopSequence', { parameters: { id: clientId }, body: { sequenceId } })
    : consider('decideSend', { parameters: { id }, body: { revision, decision: deed } })
}

/** What each of some deeds would do, as far as it is known yet; a deed that would be refused is not in it. */
export function useForetold(
  send: SendLine,
  deeds: readonly Deed[],
): Readonly<Partial<Record<Deed, Announcement>>> {
  const { now } = useBusiness()
  const answers = useQueries({
    queries: deeds.map((deed) => ({
      queryKey: ['foretold', send.id, send.revision, deed, now],
      queryFn: () => foretell(send, deed),
      gcTime: 0,
      staleTime: 0,
      retry: false,
    })),
  })
  return Object.fromEntries(
    deeds.flatMap((deed, index): [Deed, Announcement][] => {
      const foretold = answers[index]?.data
      return foretold ? [[deed, foretold]] : []
    }),
  )
}
