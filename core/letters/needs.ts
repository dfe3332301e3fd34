import type { Letter, LetterVariant, Passage } from '../model/letter.ts'
import { readyLetter } from './merge.ts'
import type { Part } from './parts.ts'
import { letterFor, type Reader } from './variants.ts'

/** The fields that can hold a letter back, each with those that must have a value before it is asked at all. */
function holding(parts: readonly Part[], within: readonly string[] = []): readonly string[] {
  return parts.flatMap((part) => {
    if (typeof part === 'string' || part.kind === 'made') return []
    if (part.kind === 'group') {
      return holding([part.before, ...part.parts, part.after], [...within, ...part.needs])
    }
    const { field, ifMissing } = part
    const isHolding = ifMissing.kind === 'hold' || ifMissing.kind === 'undecided'
    return isHolding ? [[field, ...within.toSorted()].join(' within ')] : []
  })
}

function ofWords(letter: Letter, passages: readonly Passage[]): readonly string[] {
  const { subject, preheader, html, text } = readyLetter(letter, passages)
  return [...new Set(holding([...subject, ...preheader, ...html, ...text]))].sort()
}

/** Somebody for whom a variant counts. */
function readerOfScope(scope: LetterVariant['scope'], { language }: Letter): Reader {
  switch (scope.of) {
    case 'language':
      return { serviceId: null, client: { id: '', language: scope.language } }
    case 'service':
      return { serviceId: scope.serviceId, client: { id: '', language: scope.language ?? language } }
    case 'client':
      return { serviceId: null, client: { id: scope.clientId, language } }
  }
}

/** All that decides for whom a letter can go: whether it was read, and which values it cannot do without, by variant. */
export function needsOf(letter: Letter, passages: readonly Passage[]): string {
  const ofVariants = letter.variants.map(({ scope }) => {
    return [scope, ofWords(letterFor(letter, readerOfScope(scope, letter)), passages)]
  })
  return JSON.stringify([letter.isStarter, ofWords(letter, passages), ofVariants])
}
