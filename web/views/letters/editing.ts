import { createContext, useContext } from 'react'
import { fieldValue, type MergeFacts } from '#core/letters/fields.ts'
import { fieldInfo } from '#core/letters/fieldList.ts'
import type { FieldName, Passage } from '#core/model/letter.ts'

/** What the pieces within an editor need to know of the letter around them. */
export interface Editing {
  readonly language: 'en' | 'de'
  readonly passages: readonly Passage[]
  /** Who the letter is looked at with; null: nobody yet. */
  readonly facts: MergeFacts | null
  /** Chips show real values instead of their names. */
  readonly showsValues: boolean
}

const context = createContext<Editing>({ language: 'en', passages: [], facts: null, showsValues: false })
export const EditingProvider = context.Provider
export const useEditing = () => useContext(context)

/** A field's value for whom the letter is looked at with; empty: it is missing. */
export function valueFor(field: FieldName, { facts, language }: Editing): string {
  return facts === null ? '' : fieldValue(field, facts, language)
}

export const labelOf = (field: FieldName) => fieldInfo(field).label
