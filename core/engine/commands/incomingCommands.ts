import type { Incoming } from '../../model/incoming.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { answered, cameIn, released } from '../following/cameIn.ts'

const put = (incoming: Incoming): Effect => ({
  kind: 'put incoming',
  incoming: { ...incoming, revision: incoming.revision + 1 },
})

/** A mail as one somebody is done with, or, taken up again, not. */
export function finishIncoming(
  incoming: Incoming,
  isDone: boolean,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (incoming.place === null) return refused('not allowed now', 'Nothing is to be done about this mail.')
  if ((incoming.doneAt !== null) === isDone) return done([])
  return done([
    put({ ...incoming, doneAt: isDone ? context.now : null, doneBy: isDone ? context.personId : null }),
  ])
}

/** A mail in somebody else's hands; null: whoever comes first. */
export const handIncomingOn = (incoming: Incoming, personId: string | null): readonly Effect[] => [
  put({ ...incoming, personId }),
]

/** Whose a mail is, as a person says: what it is follows for that client, and the others go on. */
export function chooseClient(
  incoming: Incoming,
  chosen: Slice,
  others: readonly Slice[],
  context: EngineContext,
): Result<readonly Effect[]> {
  const { match } = incoming
  if (match.clientId !== null) return refused('not allowed now', 'It is known by now whose this mail is.')
  const { client, sends } = chosen.facts
  const isAbout = sends.some(({ id }) => id === match.sendId)
  const own: Incoming = {
    ...incoming,
    match: {
      ...match,
      by: 'person',
      clientId: client.id,
      sendId: isAbout ? match.sendId : null,
      candidateIds: [],
    },
    heldSendIds: [],
    revision: incoming.revision + 1,
  }
  const letGo = others.flatMap((slice) => released(slice, incoming.heldSendIds, context))
  return done([...letGo, ...cameIn(chosen, own, context)])
}

/** What looked like something else is an answer of the client after all, as a person says. */
export function countAsAnswer(
  incoming: Incoming,
  slice: Slice,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (incoming.what.kind === 'answer' && !incoming.match.isFromTeam) {
    return refused('not allowed now', 'It counts as an answer already.')
  }
  const { effects, followed, place } = answered(slice, incoming, context)
  const counted: Incoming = {
    ...incoming,
    what: { kind: 'answer' },
    match: { ...incoming.match, isFromTeam: false },
    followed: [...followed],
    place,
    revision: incoming.revision + 1,
  }
  return done([...effects, { kind: 'put incoming', incoming: counted }])
}
