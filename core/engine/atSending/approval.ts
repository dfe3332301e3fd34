import { fieldInfo, isOfMoment } from '../../letters/fieldList.ts'
import { readyLetter } from '../../letters/merge.ts'
import { passageIn } from '../../letters/translations.ts'
import {
  approvedWords,
  fieldName,
  type ApprovedWords,
  type Passage,
  type Section,
} from '../../model/letter.ts'
import type { Reason, Send } from '../../model/send.ts'
import { fieldValue } from '../../letters/fields.ts'
import { whyAskedAgain, whyKept } from '../../planning/reasons.ts'
import type { Slice } from '../../planning/slice.ts'
import { copyWordsOf, letterOfCopy, mergeFactsOf, sendFactsOf } from './mergeFacts.ts'

/**
 * The facts of a message as they are at present, by field: what approval freezes. Words that depend on the moment of
 * sending are not among them.
 */
export function factsToApprove(send: Send, slice: Slice, now: number): Record<string, string> {
  const letter = slice.settings.letters.find(({ id }) => id === send.letterId)
  const found = letter && sendFactsOf(send, slice)
  if (!letter || !found) return {}
  const facts = mergeFactsOf(send, found, slice, now)
  const own = letterOfCopy(letter, found.of, slice, copyWordsOf(send))
  const { fields } = readyLetter(own, slice.settings.passages)
  const frozen = fields.filter((field) => !isOfMoment(field))
  return Object.fromEntries(frozen.map((field) => [field, fieldValue(field, facts, own.language)]))
}

function writtenOut(
  section: Section,
  passages: readonly Passage[],
  language: ApprovedWords['language'],
): Section {
  if (section.kind !== 'passage') return section
  const { id, passageId, isAdvertising } = section
  const passage = passages.find((one) => one.id === passageId)
  return { id, isAdvertising, kind: 'text', paragraphs: [...passageIn(passage, language)] }
}

/** The words of a message as they would be approved now: what approval freezes. Null: it has no letter. */
export function wordsToApprove(send: Send, slice: Slice): ApprovedWords | null {
  const letter = slice.settings.letters.find(({ id }) => id === send.letterId)
  const found = letter && sendFactsOf(send, slice)
  if (!letter || !found) return null
  const own = letterOfCopy(letter, found.of, slice, { ...copyWordsOf(send), approved: null })
  const { language, letterhead, subject, preheader, sections, attachments } = own
  return approvedWords.parse({
    letterId: letter.id,
    language,
    letterhead,
    subject,
    preheader,
    sections: sections.map((section) => writtenOut(section, slice.settings.passages, language)),
    attachments,
  })
}

/** That the letter of an approved message says something else by now, while it keeps what was approved; null: it does not. */
export function keptWords(send: Send, slice: Slice): Reason | null {
  if (send.approvedWords === null) return null
  const present = JSON.stringify(wordsToApprove(send, slice))
  return present === JSON.stringify(approvedWords.parse(send.approvedWords)) ? null : whyKept
}

const labelOf = (field: string) => {
  const known = fieldName.safeParse(field)
  return known.success ? fieldInfo(known.data).label : field
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
