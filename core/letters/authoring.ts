import type { FieldName, Inline, Letter, Section } from '../model/letter.ts'

/** A merge field; with a substitute for a missing value, or else the message is held without it. */
export function field(name: FieldName, substitute?: string): Inline {
  const ifMissing =
    substitute === undefined
      ? ({ kind: 'hold' } as const)
      : ({ kind: 'substitute', text: substitute } as const)
  return { kind: 'field', field: name, ifMissing }
}

/** A merge field whose sentence is left out where it has no value. */
export function optional(name: FieldName): Inline {
  return { kind: 'field', field: name, ifMissing: { kind: 'leave out' } }
}

/** Words with fields between them, as a tagged template: words`Hello ${field('contact.firstName', 'there')},`. */
export function words(texts: TemplateStringsArray, ...fields: readonly Inline[]): Inline[] {
  return texts.flatMap((text, index): Inline[] => {
    const following = fields[index]
    return [...(text === '' ? [] : [{ kind: 'text', text } as const]), ...(following ? [following] : [])]
  })
}

/** A part of a letter before it has its place in it. */
export type WithoutId<Of> = Of extends Section ? Omit<Of, 'id'> : never

interface Written extends Partial<Omit<Letter, 'sections'>> {
  readonly id: string
  readonly name: string
  readonly moment: Letter['moment']
  readonly subject: Inline[]
  readonly sections: readonly WithoutId<Section>[]
}

/** A letter as it is written in code: sections get their ids by their place, and what is usual needs no words. */
export function writtenLetter({ sections, ...part }: Written): Letter {
  return {
    class: 'service',
    language: 'en',
    letterhead: 'business',
    preheader: [],
    variants: [],
    attachments: [],
    isUnnoticed: false,
    isStarter: false,
    isArchived: false,
    version: 1,
    changedAt: 0,
    ...part,
    sections: sections.map((section, index) => ({ ...section, id: `s${index}` })),
  }
}
