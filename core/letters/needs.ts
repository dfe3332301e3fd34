import type { Letter, Passage } from '../model/letter.ts'
import { readyLetter } from './merge.ts'
import type { Part } from './parts.ts'
import { letterFor } from './variants.ts'

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

/** All that decides for whom a letter can go: whether it was read, and which values it cannot do without, by variant. */
export function needsOf(letter: Letter, passages: readonly Passage[]): string {
  const ofVariants = letter.variants.map(({ scope }) => {
    const [serviceId, clientId] = scope.of === 'service' ? [scope.serviceId, null] : [null, scope.clientId]
    return [scope, ofWords(letterFor(letter, serviceId, clientId), passages)]
  })
  return JSON.stringify([letter.isStarter, ofWords(letter, passages), ofVariants])
}
