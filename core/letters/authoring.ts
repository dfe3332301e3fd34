import type { FieldName, Inline } from '../model/letter.ts'

/** A merge field; with a substitute for a missing value, or else the message is held without it. */
export function field(name: FieldName, substitute?: string): Inline {
  const ifMissing =
    substitute === undefined
      ? ({ kind: 'hold' } as const)
      : ({ kind: 'substitute', text: substitute } as const)
  return { kind: 'field', field: name, ifMissing }
}

/** Words with fields between them, as a tagged template: words`Hello ${field('contact.firstName', 'there')},`. */
export function words(texts: TemplateStringsArray, ...fields: readonly Inline[]): Inline[] {
  return texts.flatMap((text, index): Inline[] => {
    const following = fields[index]
    return [...(text === '' ? [] : [{ kind: 'text', text } as const]), ...(following ? [following] : [])]
  })
}
