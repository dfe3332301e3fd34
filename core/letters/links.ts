import { fieldNames, isSignField, type FieldName } from '../model/letter.ts'

/** Ways of leading somewhere that are safe in a message. */
const schemes = ['https:', 'http:', 'mailto:', 'tel:']

/** A link as it may stand in a message; null: it is none, or of a kind that could do harm. */
export function safeLink(text: string): string | null {
  const trimmed = text.trim()
  try {
    const url = new URL(trimmed)
    if (!schemes.includes(url.protocol)) return null
    const isWeb = url.protocol === 'https:' || url.protocol === 'http:'
    return isWeb && !url.hostname.includes('.') && url.hostname !== 'localhost' ? null : trimmed
  } catch {
    return null
  }
}

const fieldScheme = 'field:'

/** The fields whose values are links, but those to documents. */
export const linkFields = fieldNames.filter((name) => name.startsWith('link.'))

/** What a button leads to where that is a field's link: `field:link.cancel`. */
export const linkToField = (field: FieldName) => `${fieldScheme}${field}`

/** The field whose link a button leads to; null: it leads to an address of its own. */
export function fieldOfLink(link: string): FieldName | null {
  const named = link.startsWith(fieldScheme) ? link.slice(fieldScheme.length) : ''
  return isSignField(named) ? named : (linkFields.find((field) => field === named) ?? null)
}
