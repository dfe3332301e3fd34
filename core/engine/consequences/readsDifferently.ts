import { mergeLetter } from '../../letters/merge.ts'
import type { Letter } from '../../model/letter.ts'
import type { Send } from '../../model/send.ts'
import type { Slice } from '../../planning/slice.ts'
import { letterOfCopy, mergeFactsOf, sendFactsOf } from '../atSending/mergeFacts.ts'

/**
 * Whether a message that has not gone would say something else with other text of its letter: what is special to its
 * service, its client or this copy can make it stay the same.
 */
export function readsDifferently(send: Send, slice: Slice, letter: Letter, now: number): boolean {
  const present = slice.settings.letters.find(({ id }) => id === send.letterId)
  const found = sendFactsOf(send, slice)
  if (!present || !found) return false
  const facts = mergeFactsOf(send, found, slice, send.dueAt ?? now)
  const merged = (one: Letter) => {
    const own = letterOfCopy(one, found.of, slice, send.decision.ownWords)
    return JSON.stringify(mergeLetter(own, slice.settings.passages, facts))
  }
  return merged(present) !== merged(letter)
}
