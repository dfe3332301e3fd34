import { fieldInfo } from '#core/letters/fieldList.ts'
import { languageNames } from '#core/letters/language.ts'
import { fieldOfLink } from '#core/letters/links.ts'
import { plainWords, wordsOfSection } from '#core/letters/plainWords.ts'
import type { LetterContent, LetterVariant, Section } from '#core/model/letter.ts'

/** Names of what a letter mentions by id. */
export interface LetterNames {
  readonly passages: readonly { readonly id: string; readonly name: string }[]
  readonly services: readonly { readonly id: string; readonly name: string }[]
}

const kindNames: Readonly<Partial<Record<Section['kind'], string>>> = {
  facts: 'The facts of the booking',
  divider: 'A line across',
  signature: 'The signature',
}

/** The words of a section, line by line; a block without words by what it is. */
export function linesOfSection(section: Section, { passages }: LetterNames): readonly string[] {
  const lines = wordsOfSection(section).map(plainWords)
  switch (section.kind) {
    case 'button': {
      const field = fieldOfLink(section.link)
      return lines.map((line) => `${line} → ${field === null ? section.link : fieldInfo(field).label}`)
    }
    case 'passage': {
      const name = passages.find(({ id }) => id === section.passageId)?.name
      return [name === undefined ? 'A passage that is not there any more' : `Passage “${name}”`]
    }
    case 'picture':
      return [`Picture: ${section.alternative || 'without words'}`]
    default:
      return lines.length > 0 ? lines : [kindNames[section.kind] ?? ''].filter(Boolean)
  }
}

/** For whom a variant is, in a word or two. */
function scopeName({ scope }: LetterVariant, { services }: LetterNames): string {
  if (scope.of === 'language') return languageNames[scope.language]
  if (scope.of === 'client') return 'For one client'
  const name = services.find(({ id }) => id === scope.serviceId)?.name ?? 'A service that is gone'
  return scope.language === undefined ? name : `${name}, ${languageNames[scope.language]}`
}

/** A letter line by line, fields by their names, its variants after it: for comparing two versions. */
export function linesOf(
  { subject, preheader, sections, variants }: LetterContent,
  names: LetterNames,
): readonly string[] {
  const all = (own: Pick<LetterVariant, 'subject' | 'preheader' | 'sections'>) =>
    [
      plainWords(own.subject ?? []),
      plainWords(own.preheader ?? []),
      ...own.sections.flatMap((section) => linesOfSection(section, names)),
    ].filter((line) => line !== '')
  return [
    ...all({ subject, preheader, sections }),
    ...variants.flatMap((variant) => all(variant).map((line) => `${scopeName(variant, names)}: ${line}`)),
  ]
}
