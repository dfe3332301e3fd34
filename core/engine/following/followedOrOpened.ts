import type { Send } from '../../model/send.ts'
import { shownUrl } from '../../incoming/visits.ts'
import { sendLabel } from '../../planning/sendLabel.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from './react.ts'

/** What somebody did with a message, and when in business time. */
interface Did {
  /** Null: it was opened. */
  readonly url: string | null
  readonly at: number
}

/** A client followed a link of a message or opened it, with what follows from that. */
export function followedOrOpened(
  slice: Slice,
  send: Send,
  { url, at }: Did,
  context: EngineContext,
): readonly Effect[] {
  const { client } = slice.facts
  const kind = url === null ? 'opened' : 'followed a link'
  const label = `“${sendLabel(send, slice.settings)}”`
  const words =
    url === null
      ? `Opened ${label}, as its picture tells: that is uncertain.`
      : `Followed a link in ${label}: ${shownUrl(url)}.`
  return conclude(
    slice,
    [
      { kind: 'add happening', clientId: client.id, happening: { kind, name: '', at } },
      appendEvent(context, kind, { clientId: client.id, sendId: send.id }, words),
    ],
    context,
  )
}
