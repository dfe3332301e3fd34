import type { OwnWords } from '../../model/letter.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { SendDecided } from '../../model/send.ts'
import type { Slice } from '../../planning/slice.ts'
import type { Effect } from '../effects.ts'

/** Changes the words of one copy; only while the message waits for a person. */
function changeCopy(
  { facts }: Slice,
  sendId: string,
  words: Partial<SendDecided>,
): Result<readonly Effect[]> {
  const send = facts.sends.find(({ id }) => id === sendId)
  if (!send) return refused('not found', 'There is no such message.')
  if (send.state !== 'waiting') {
    return refused('not allowed now', `This message is ${send.state} by now: its words stay as they are.`)
  }
  return done([{ kind: 'put send', send: { ...send, decision: { ...send.decision, ...words } } }])
}

/** Writes a line for one copy of a letter, or takes it out. */
export function writePersonalLine(slice: Slice, sendId: string, line: string): Result<readonly Effect[]> {
  const words = line.trim()
  return changeCopy(slice, sendId, { personalLine: words === '' ? null : words })
}

/** Writes one copy in other words than its letter's; null: the letter's again. */
export function writeOwnWords(slice: Slice, sendId: string, own: OwnWords | null): Result<readonly Effect[]> {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  if (own !== null && send && send.letterId === null) {
    return refused('not allowed now', 'It has no letter whose words could be others.')
  }
  return changeCopy(slice, sendId, { ownWords: own })
}
