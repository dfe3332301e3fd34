import type { Inline, Letter, OwnWords } from '../model/letter.ts'

/** A letter with the words a person wrote for one copy; null: as it is. */
export function withOwnWords(letter: Letter, own: OwnWords | null): Letter {
  return own === null ? letter : { ...letter, subject: own.subject, sections: own.sections }
}

/**
 * A letter with a line for one copy: after the greeting, which is the first paragraph of its first text. Where the letter
 * has no text, the line stands before everything else.
 */
export function withPersonalLine(letter: Letter, line: string | null): Letter {
  const words = line?.trim() ?? ''
  if (words === '') return letter
  const paragraph: Inline[] = [{ kind: 'text', text: words }]
  const index = letter.sections.findIndex(({ kind }) => kind === 'text')
  const section = letter.sections[index]
  if (section?.kind !== 'text') {
    const own = { id: 'personal-line', kind: 'text' as const, paragraphs: [paragraph] }
    return { ...letter, sections: [own, ...letter.sections] }
  }
  const paragraphs = section.paragraphs.toSpliced(1, 0, paragraph)
  return { ...letter, sections: letter.sections.with(index, { ...section, paragraphs }) }
}
