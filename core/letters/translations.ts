import type { LetterContent, LetterVariant, Passage, Section } from '../model/letter.ts'
import type { Language } from '../model/values.ts'
import { plainWords, wordsOfSection } from './plainWords.ts'

/** Where a translation has no words of its own: readers of that language get the general ones there. */
export type GapPlace =
  { readonly in: 'subject' | 'preheader' } | { readonly in: 'section'; readonly id: string }

export interface Translation {
  readonly language: Language
  readonly gaps: readonly GapPlace[]
  /** Parts that a service has other words for which are not in this language. */
  readonly serviceGaps: readonly GapPlace[]
}

/** The paragraphs of a passage in a language, or its general ones; none where it is not there. */
export function passageIn(passage: Passage | undefined, language: Language): Passage['paragraphs'] {
  const own = passage?.translations.find((one) => one.language === language)
  return own?.paragraphs ?? passage?.paragraphs ?? []
}

const hasWords = (section: Section): boolean =>
  wordsOfSection(section).some((line) => plainWords(line).trim() !== '')

function isGap(section: Section, language: Language, passages: readonly Passage[]): boolean {
  if (section.kind !== 'passage') return hasWords(section)
  const passage = passages.find(({ id }) => id === section.passageId)
  return passage !== undefined && !passage.translations.some((one) => one.language === language)
}

function gapsIn(
  content: LetterContent,
  { subject, preheader, sections }: LetterVariant,
  language: Language,
  passages: readonly Passage[],
): readonly GapPlace[] {
  const own = new Set(sections.map(({ id }) => id))
  return [
    ...(subject === null ? [{ in: 'subject' } as const] : []),
    ...(preheader === null && plainWords(content.preheader).trim() !== ''
      ? [{ in: 'preheader' } as const]
      : []),
    ...content.sections
      .filter((section) => !own.has(section.id) && isGap(section, language, passages))
      .map(({ id }) => ({ in: 'section', id }) as const),
  ]
}

function placesOf({ subject, preheader, sections }: LetterVariant, onlyWords: boolean): readonly GapPlace[] {
  return [
    ...(subject === null ? [] : [{ in: 'subject' } as const]),
    ...(preheader === null ? [] : [{ in: 'preheader' } as const]),
    ...sections
      .filter((section) => !onlyWords || hasWords(section))
      .map(({ id }) => ({ in: 'section', id }) as const),
  ]
}

/**
 * What services say otherwise and a language has no words for. Where a service has none at all in it, its general words
 * count as they are; where it has some, those alone count, and what they lack is as for everybody.
 */
function serviceGapsIn({ variants }: LetterContent, language: Language): readonly GapPlace[] {
  const gaps = variants.flatMap((general) => {
    const { scope } = general
    if (scope.of !== 'service' || scope.language !== undefined) return []
    const own = variants.find(
      (one) =>
        one.scope.of === 'service' &&
        one.scope.serviceId === scope.serviceId &&
        one.scope.language === language,
    )
    const has = new Set((own ? placesOf(own, false) : []).map((place) => JSON.stringify(place)))
    return placesOf(general, own === undefined).filter((place) => !has.has(JSON.stringify(place)))
  })
  return [...new Map(gaps.map((place) => [JSON.stringify(place), place])).values()]
}

/** The languages a letter has besides its general one, and what each of them lacks. */
export function translationsOf(content: LetterContent, passages: readonly Passage[]): readonly Translation[] {
  return content.variants.flatMap((variant) =>
    variant.scope.of === 'language'
      ? [
          {
            language: variant.scope.language,
            gaps: gapsIn(content, variant, variant.scope.language, passages),
            serviceGaps: serviceGapsIn(content, variant.scope.language),
          },
        ]
      : [],
  )
}

/** Languages of clients that a letter does not speak. */
export function missingLanguages(
  content: LetterContent,
  ofClients: readonly Language[],
): readonly Language[] {
  const has = [content.language, ...translationsOf(content, []).map(({ language }) => language)]
  return ofClients.filter((language) => !has.includes(language))
}
