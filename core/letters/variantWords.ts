import type { LetterContent, LetterVariant, Section } from '../model/letter.ts'

export type VariantScope = LetterVariant['scope']

export function isSameScope(one: VariantScope, other: VariantScope): boolean {
  switch (one.of) {
    case 'language':
      return other.of === 'language' && one.language === other.language
    case 'service':
      return other.of === 'service' && one.serviceId === other.serviceId && one.language === other.language
    case 'client':
      return other.of === 'client' && one.clientId === other.clientId
  }
}

type Variants = LetterContent['variants']

function changed(
  variants: Variants,
  scope: VariantScope,
  change: (one: LetterVariant) => LetterVariant,
): Variants {
  return variants.map((one) => (isSameScope(one.scope, scope) ? change(one) : one))
}

/** A letter's variants with one more, which has no words of its own yet. The same scope is never there twice. */
export function withScope(variants: Variants, scope: VariantScope): Variants {
  if (variants.some((one) => isSameScope(one.scope, scope))) return variants
  return [...variants, { scope, subject: null, preheader: null, sections: [] }]
}

export function withoutScope(variants: Variants, scope: VariantScope): Variants {
  return variants.filter((one) => !isSameScope(one.scope, scope))
}

/** Other words for a section; null: the general ones count again. */
export function withOwnSection(
  variants: Variants,
  scope: VariantScope,
  sectionId: string,
  section: Section | null,
): Variants {
  return changed(variants, scope, (one) => {
    const others = one.sections.filter(({ id }) => id !== sectionId)
    return { ...one, sections: section === null ? others : [...others, { ...section, id: sectionId }] }
  })
}

/** Another subject or preview text; null: the general one counts again. */
export function withOwnLine(
  variants: Variants,
  scope: VariantScope,
  which: 'subject' | 'preheader',
  words: LetterVariant['subject'],
): Variants {
  return changed(variants, scope, (one) => ({ ...one, [which]: words }))
}
