import { diffArrays } from 'diff'

/** The paragraphs of a message's plain text. */
function paragraphsOf(text: string): readonly string[] {
  return text
    .split(/\n\s*\n/)
    .map((one) => one.replace(/\s+/g, ' ').trim())
    .filter((one) => one !== '')
}

/** A message as it is compared with others: its subject stands before its text. */
export interface ComparedMessage {
  readonly subject: string
  readonly text: string
}

/** The paragraphs of a message that are not the same in another one, in their order; the subject counts as one. */
export function differingParagraphs(one: ComparedMessage, other: ComparedMessage): readonly string[] {
  const before = [one.subject, ...paragraphsOf(one.text)]
  const after = [other.subject, ...paragraphsOf(other.text)]
  return diffArrays(before, after).flatMap(({ added, value }) => (added ? value : []))
}
