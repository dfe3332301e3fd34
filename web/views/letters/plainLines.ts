import { plainWords, wordsOfSection } from '#core/letters/plainWords.ts'
import type { LetterContent, Section } from '#core/model/letter.ts'

/** The words of a section, line by line; a block without words by what it is. */
export function linesOfSection(section: Section): readonly string[] {
  const lines = wordsOfSection(section).map(plainWords)
  if (section.kind === 'button') return lines.map((line) => `${line}: ${section.link}`)
  const hasWords = section.kind === 'heading' || section.kind === 'text' || section.kind === 'columns'
  return hasWords ? lines : [`(${section.kind})`]
}

/** A letter line by line, fields by their names: for comparing two versions. */
export function linesOf({ subject, preheader, sections }: LetterContent): readonly string[] {
  return [plainWords(subject), plainWords(preheader), ...sections.flatMap(linesOfSection)].filter(
    (line) => line !== '',
  )
}
