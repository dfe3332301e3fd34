import { letterContent, type Letter, type LetterContent } from '../model/letter.ts'

/** What a person writes of a letter, without what the house keeps of it. */
export function contentOf(letter: Letter): LetterContent {
  const { name, moment, class: kind, language, letterhead, subject, preheader } = letter
  const { sections, variants, attachments, isUnnoticed } = letter
  return {
    name,
    moment,
    class: kind,
    language,
    letterhead,
    subject,
    preheader,
    sections,
    variants,
    attachments,
    isUnnoticed,
  }
}

/** Words that are no saved letter, or not yet, as one: to be made ready and merged. */
export function letterWith(content: LetterContent, id = 'lt_unsaved'): Letter {
  return { ...content, id, isStarter: false, isArchived: false, version: 1, changedAt: 0 }
}

/** Whether two texts of a letter say the same, in whatever order their parts came. */
export function isSameText(one: LetterContent, other: LetterContent): boolean {
  const text = (of: LetterContent) => JSON.stringify(letterContent.parse(of))
  return text(one) === text(other)
}
