import type { Letter, LetterVariant } from '../model/letter.ts'
import type { Language } from '../model/values.ts'

/** For whom a letter is made ready: null where nobody is known. */
export interface Reader {
  readonly serviceId: string | null
  readonly client: { readonly id: string; readonly language: Language } | null
}

const cache = new WeakMap<Letter, Map<string, Letter>>()

function withVariant(letter: Letter, variant: LetterVariant | undefined): Letter {
  if (!variant) return letter
  const own = new Map(variant.sections.map((section) => [section.id, section]))
  return {
    ...letter,
    language: variant.scope.of === 'language' ? variant.scope.language : letter.language,
    subject: variant.subject ?? letter.subject,
    preheader: variant.preheader ?? letter.preheader,
    sections: letter.sections.map((section) => own.get(section.id) ?? section),
  }
}

/** The variants that count for a reader, the general ones first. */
function variantsFor(
  { language, variants }: Letter,
  { serviceId, client }: Reader,
): readonly LetterVariant[] {
  const wanted = client?.language ?? language
  const translation = variants.find(({ scope }) => scope.of === 'language' && scope.language === wanted)
  const spoken = translation ? wanted : undefined
  const ofService = (asked: Language | undefined) =>
    variants.find(
      ({ scope }) => scope.of === 'service' && scope.serviceId === serviceId && scope.language === asked,
    )
  const ofClient = variants.find(({ scope }) => scope.of === 'client' && scope.clientId === client?.id)
  return [translation, (spoken && ofService(spoken)) ?? ofService(undefined), ofClient].filter(
    (one) => one !== undefined,
  )
}

/**
 * The letter as it counts for a reader: general, then its translation, the service's words, the client's, section by
 * section; exactly one of them each. What is special to a service matters more than its language: where its words are
 * not translated, they count as they are. The same object for the same variants, so that it is made ready once.
 */
export function letterFor(letter: Letter, reader: Reader): Letter {
  if (letter.variants.length === 0) return letter
  const own = variantsFor(letter, reader)
  if (own.length === 0) return letter
  const key = own.map((one) => letter.variants.indexOf(one)).join(' ')
  const known = cache.get(letter)?.get(key)
  if (known) return known
  const made = own.reduce(withVariant, letter)
  const all = cache.get(letter) ?? new Map<string, Letter>()
  all.set(key, made)
  cache.set(letter, all)
  return made
}
