import { fieldList, isOfMoment } from '../../letters/fieldList.ts'
import { readyLetter } from '../../letters/merge.ts'
import { fieldName } from '../../model/letter.ts'
import type { Reason, Send } from '../../model/send.ts'
import { fieldValue } from '../../letters/fields.ts'
import { whyAskedAgain } from '../../planning/reasons.ts'
import type { Slice } from '../../planning/slice.ts'
import { letterOfCopy, mergeFactsOf, sendFactsOf } from './mergeFacts.ts'

/**
 * The facts of a message as they are at present, by field: what approval freezes. Words that depend on the moment of
 * sending are not among them.
 */
export function factsToApprove(send: Send, slice: Slice, now: number): Record<string, string> {
  const letter = slice.settings.letters.find(({ id }) => id === send.letterId)
  const found = letter && sendFactsOf(send, slice)
  if (!letter || !found) return {}
  const facts = mergeFactsOf(send, found, slice, now)
  const own = letterOfCopy(letter, found.of, slice, send.decision.ownWords)
  const { fields } = readyLetter(own, slice.settings.passages)
  const frozen = fields.filter((field) => !isOfMoment(field))
  return Object.fromEntries(frozen.map((field) => [field, fieldValue(field, facts, own.language)]))
}

const labelOf = (field: string) => {
  const known = fieldName.safeParse(field)
  return known.success ? fieldList[known.data].label : field
}

/** Which facts of an approved message have other values by now, as a reason to ask again; null: none. */
export function changedFacts(send: Send, slice: Slice, now: number): Reason | null {
  const { approvedFacts } = send
  if (approvedFacts === null) return null
  const present = factsToApprove(send, slice, now)
  const changed = Object.entries(approvedFacts).filter(([field, value]) => (present[field] ?? '') !== value)
  if (changed.length === 0) return null
  const words = changed.map(
    ([field, value]) => `${labelOf(field)} was “${value}” and is “${present[field] ?? 'missing'}”`,
  )
  return whyAskedAgain.factsChanged(words)
}
