import { refused, type Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { oneByOne, type ManyDone } from './oneByOne.ts'
import { decideSend, postponeSend } from './sendCommands.ts'

/** What can be done with many messages at once. */
export type ManyAct =
  | { readonly act: 'hold back' | 'release' | 'skip' | 'send now' }
  | { readonly act: 'move'; readonly to: number }

function one(slice: Slice, id: string, asked: ManyAct, context: EngineContext): Result<readonly Effect[]> {
  switch (asked.act) {
    case 'hold back':
      return decideSend(slice, id, 'hold back', context)
    case 'release':
      return slice.facts.sends.find((send) => send.id === id)?.state === 'ready'
        ? refused('not allowed now', 'This message waits for nobody: it goes by itself.')
        : decideSend(slice, id, 'approve', context)
    case 'skip':
      return decideSend(slice, id, 'skip', context)
    case 'send now':
      return slice.facts.sends.find((send) => send.id === id)?.state === 'in doubt'
        ? refused('not allowed now', 'Nobody knows whether it has gone: look it up, and decide on it alone.')
        : decideSend(slice, id, 'send now', context)
    case 'move':
      return postponeSend(slice, id, asked.to, context)
  }
}

/** Does one thing with several messages of one client, one after the other; the others go on where one cannot. */
export function decideMany(
  slice: Slice,
  ids: readonly string[],
  asked: ManyAct,
  context: EngineContext,
): ManyDone {
  const items = ids.map((id) => ({ id }))
  return oneByOne(slice, items, (present, { id }) => one(present, id, asked, context))
}
