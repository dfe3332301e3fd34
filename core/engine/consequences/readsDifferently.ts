import { mergeLetter } from '../../letters/merge.ts'
import type { Send } from '../../model/send.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import { copyWordsOf, letterOfCopy, mergeFactsOf, sendFactsOf } from '../atSending/mergeFacts.ts'

/** The texts of a house. */
export type Texts = Pick<Settings, 'letters' | 'passages'>

/**
 * Whether a message that has not gone would say something else with other texts: what was approved, and what is special
 * to its service, its client or this copy, can make it stay the same.
 */
export function readsDifferently(send: Send, slice: Slice, texts: Texts, now: number): boolean {
  const found = sendFactsOf(send, slice)
  if (!found) return false
  const facts = mergeFactsOf(send, found, slice, send.dueAt ?? now)
  const merged = ({ letters, passages }: Texts) => {
    const letter = letters.find(({ id }) => id === send.letterId)
    const own = letter && letterOfCopy(letter, found.of, slice, copyWordsOf(send))
    return own && JSON.stringify(mergeLetter(own, passages, facts))
  }
  return merged(slice.settings) !== merged(texts)
}
