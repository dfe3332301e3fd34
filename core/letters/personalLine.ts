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
  const lines = (line ?? '').split(/\r?\n/).map((one) => one.trim())
  // Each line that was typed stands for itself.
  const own = lines.filter((one) => one !== '').map((text): Inline[] => [{ kind: 'text', text }])
  if (own.length === 0) return letter
  const index = letter.sections.findIndex(({ kind }) => kind === 'text')
  const section = letter.sections[index]
  if (section?.kind !== 'text') {
    const before = { id: 'personal-line', kind: 'text' as const, paragraphs: own }
    return { ...letter, sections: [before, ...letter.sections] }
  }
  const paragraphs = section.paragraphs.toSpliced(1, 0, ...own)
  return { ...letter, sections: letter.sections.with(index, { ...section, paragraphs }) }
}
