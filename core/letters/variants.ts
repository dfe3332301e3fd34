import type { Letter, LetterVariant } from '../model/letter.ts'

const cache = new WeakMap<Letter, Map<string, Letter>>()

function withVariant(letter: Letter, variant: LetterVariant | undefined): Letter {
  if (!variant) return letter
  const own = new Map(variant.sections.map((section) => [section.id, section]))
  return {
    ...letter,
    subject: variant.subject ?? letter.subject,
    sections: letter.sections.map((section) => own.get(section.id) ?? section),
  }
}

/**
 * The letter as it counts for a service and a client: general, then the service's words, then the client's, section by
 * section; exactly one of them each. The same object for the same two, so that it is made ready once.
 */
export function letterFor(letter: Letter, serviceId: string | null, clientId: string | null): Letter {
  if (letter.variants.length === 0) return letter
  const ofService = letter.variants.find(
    ({ scope }) => scope.of === 'service' && scope.serviceId === serviceId,
  )
  const ofClient = letter.variants.find(({ scope }) => scope.of === 'client' && scope.clientId === clientId)
  if (!ofService && !ofClient) return letter
  const key = `${ofService ? serviceId : ''}|${ofClient ? clientId : ''}`
  const known = cache.get(letter)?.get(key)
  if (known) return known
  const made = withVariant(withVariant(letter, ofService), ofClient)
  const all = cache.get(letter) ?? new Map<string, Letter>()
  all.set(key, made)
  cache.set(letter, all)
  return made
}
