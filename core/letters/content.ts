import type { Letter, LetterContent } from '../model/letter.ts'

/** What a person writes of a letter, without what the house keeps of it. */
export function contentOf(letter: Letter): LetterContent {
  const { name, moment, class: kind, language, letterhead, subject, preheader } = letter
  const { sections, variants, attachments } = letter
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
  }
}

/** Words that are no saved letter, or not yet, as one: to be made ready and merged. */
export function letterWith(content: LetterContent, id = 'lt_unsaved'): Letter {
  return { ...content, id, isStarter: false, isArchived: false, version: 1, changedAt: 0 }
}
