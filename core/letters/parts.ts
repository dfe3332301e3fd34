import type { FieldName, MissingRule } from '../model/letter.ts'

/**
 * A letter made ready for merging: text that stands, slots for fields, and groups that are left out when a field in
 * them has no value or nothing is in them. It is made once a version; filling it is all that merging does.
 */
export type Part =
  | string
  | { readonly kind: 'slot'; readonly field: FieldName; readonly ifMissing: MissingRule }
  | {
      readonly kind: 'group'
      readonly parts: readonly Part[]
      /** Without a value of each of these it is left out. */
      readonly needs: readonly FieldName[]
      /** Left out where nothing but spaces would be in it. */
      readonly isDroppedEmpty: boolean
      /** What stands around them where they stand. */
      readonly before: Part
      readonly after: Part
    }
  /** What is worked out whole for each recipient: the facts block, the signature. */
  | { readonly kind: 'made'; readonly make: 'facts' | 'signature' | 'footer' }

export const group = (
  parts: readonly Part[],
  before: Part = '',
  after: Part = '',
  isDroppedEmpty = true,
  needs: readonly FieldName[] = [],
): Part => ({ kind: 'group', parts, needs, isDroppedEmpty, before, after })

export interface Filling {
  readonly value: (field: FieldName) => string
  /** How a value is written: escaped for HTML, or as it is. */
  readonly write: (value: string) => string
  readonly make: (what: 'facts' | 'signature' | 'footer') => string
  /** Called for every field without a value that must hold the message. */
  readonly onMissing: (field: FieldName) => void
}

function fillSlot({ field, ifMissing }: Extract<Part, { kind: 'slot' }>, filling: Filling): string {
  const value = filling.value(field)
  if (value !== '') return filling.write(value)
  switch (ifMissing.kind) {
    case 'substitute':
      return filling.write(ifMissing.text)
    case 'leave out':
      return ''
    case 'hold':
    case 'undecided':
      filling.onMissing(field)
      return ''
  }
}

function fillGroup(part: Extract<Part, { kind: 'group' }>, filling: Filling): string {
  if (part.needs.some((field) => filling.value(field) === '')) return ''
  const inner = fill(part.parts, filling)
  if (part.isDroppedEmpty && inner.trim() === '') return ''
  return fill([part.before], filling) + inner + fill([part.after], filling)
}

/** Fills the slots of some parts. */
export function fill(parts: readonly Part[], filling: Filling): string {
  let text = ''
  for (const part of parts) {
    if (typeof part === 'string') text += part
    else if (part.kind === 'slot') text += fillSlot(part, filling)
    else if (part.kind === 'made') text += filling.make(part.make)
    else text += fillGroup(part, filling)
  }
  return text
}
