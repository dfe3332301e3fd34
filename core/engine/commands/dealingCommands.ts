import type { Client } from '../../model/client.ts'
import type { Happening } from '../../model/dealings.ts'
import { done, type Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'

/** What a client did, as a fact and as an event. */
export function happened(
  clientId: string,
  happening: Happening,
  context: EngineContext,
  /** What tells it in the history; where nothing is given, its kind and name. */
  words?: string,
): readonly Effect[] {
  const { kind, name } = happening
  const sentence = words ?? (name === '' ? `${kind}.` : `${kind}: ${name}.`)
  return [
    { kind: 'add happening', clientId, happening },
    appendEvent(context, kind, { clientId, name }, sentence),
  ]
}

/** A client who takes no promotional mail any more; nothing where they took none. */
export const withoutPromotional = (client: Client): readonly Effect[] =>
  client.takesPromotional
    ? [
        {
          kind: 'put client',
          client: { ...client, takesPromotional: false, revision: client.revision + 1 },
        },
      ]
    : []

/** A client answered, opened, followed, filled in, signed, got a tag or joined a list. */
export function recordHappening(
  slice: Slice,
  kind: Happening['kind'],
  name: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { client } = slice.facts
  const ended = kind === 'opted out' ? withoutPromotional(client) : []
  const did = happened(client.id, { kind, name, at: context.now }, context)
  return done(conclude(slice, [...ended, ...did], context))
}
