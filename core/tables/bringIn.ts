import { newClient, type ClientInput } from '../engine/commands/clientCommands.ts'
import { appendEvent, type EngineContext } from '../engine/context.ts'
import type { Effect } from '../engine/effects.ts'
import type { Client } from '../model/client.ts'
import type { ClientImport } from '../model/clientImport.ts'
import { mergedInto } from './doubles.ts'

/** What is done with a row that is taken for somebody who is there. */
export const doubleActs = ['skip', 'merge', 'add'] as const
export type DoubleAct = (typeof doubleActs)[number]

/** A client of a table that is to come in; `into`: somebody who is there, who takes what they lack. */
export interface ComingIn {
  readonly input: ClientInput
  readonly into: Client | null
}

const several = (count: number) => (count === 1 ? '1 client' : `${count} clients`)

/**
 * Clients come in from a file, with what is needed to take that back. Nothing starts because of it: no event is theirs.
 */
export function bringClientsIn(
  coming: readonly ComingIn[],
  fileName: string,
  context: EngineContext,
): { readonly effects: readonly Effect[]; readonly brought: ClientImport } {
  // Several rows may be the same client who is there: each builds on the one before.
  const present = new Map<string, { was: Client | null; client: Client }>()
  for (const { input, into } of coming) {
    const before = into && (present.get(into.id)?.client ?? into)
    const client = before ? mergedInto(before, input, context.newId) : newClient(input, context)
    const was = into ? (present.get(into.id)?.was ?? into) : null
    if (client !== into) present.set(client.id, { was, client })
  }
  const all = [...present.values()]
  const brought: ClientImport = {
    id: context.newId('im'),
    at: context.now,
    personId: context.personId,
    fileName,
    clients: all.map(({ was, client }) => ({ clientId: client.id, was, revision: client.revision })),
  }
  const sentence = `${several(all.length)} brought in from ${fileName}.`
  return {
    brought,
    effects: [
      { kind: 'put client import', brought },
      ...all.map(({ client }): Effect => ({ kind: 'put client', client })),
      appendEvent(context, 'settings changed', { name: fileName }, sentence),
    ],
  }
}

/** What is there now of a client who was brought in. */
export interface BroughtNow {
  readonly client: Client | null
  /** Whether anything is about them: a booking, a message, a note. */
  readonly isUsed: boolean
}

/** An import taken back: who was added goes, who was merged is as before; who has changed since stays as they are. */
export function takeClientsBack(
  brought: ClientImport,
  nowOf: (clientId: string) => BroughtNow,
  context: EngineContext,
): { readonly effects: readonly Effect[]; readonly kept: readonly Client[] } {
  const effects: Effect[] = []
  const kept: Client[] = []
  for (const { clientId, was, revision } of brought.clients) {
    const { client, isUsed } = nowOf(clientId)
    if (!client) continue
    if (client.revision !== revision || (was === null && isUsed)) kept.push(client)
    else if (was === null) effects.push({ kind: 'remove client', id: clientId })
    else effects.push({ kind: 'put client', client: { ...was, revision: client.revision + 1 } })
  }
  const sentence = `${several(effects.length)} from ${brought.fileName} taken back.`
  return {
    kept,
    effects: [
      ...effects,
      { kind: 'end client import', id: brought.id, at: context.now },
      appendEvent(context, 'settings changed', { name: brought.fileName }, sentence),
    ],
  }
}
