import { folded } from '../model/folded.ts'
import { emailAddress } from '../model/values.ts'

/** What a column of a table can say. */
export interface DescribedField {
  /** What it is called on screens. */
  readonly label: string
  /** Words at the head of a column that mean it, folded; common practice, no source. */
  readonly heads: readonly string[]
}
export type DescribedFields<Field extends string> = Readonly<Record<Field, DescribedField>>

/** Which field each column is; null: it is left out. */
export type MatchedColumns<Field extends string> = readonly (Field | null)[]

export const headOf = (text: string) =>
  folded(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** How columns are told apart, to know them again in the next file. */
export const signatureOf = (heads: readonly string[]) => heads.map(headOf).join('|')

const isPhone = (text: string) => /^[+(\d][\d\s()/.-]{5,}$/.test(text) && text.replace(/\D/g, '').length >= 6
const isDate = (text: string) => /^\d{4}-\d\d-\d\d|^\d{1,2}[./]\d{1,2}[./]\d{4}/.test(text)

/** What all kinds of rows have, told by how it looks. */
export type LooksLike = 'email' | 'phone' | 'date'

/** What the values of a column look like; null: nothing in particular. */
export function looksLike(values: readonly string[]): LooksLike | null {
  const given = values.filter((value) => value !== '')
  if (given.length === 0) return null
  const most = (is: (value: string) => boolean) => given.filter(is).length >= given.length * 0.8
  if (most((value) => emailAddress.safeParse(value).success)) return 'email'
  if (most(isDate)) return 'date'
  return most(isPhone) ? 'phone' : null
}

/**
 * What the columns of a table mean, by their heads, then by what stands in them. No field is guessed twice. `byLooks`: what
 * a column of that look is in this kind of table; null: that says nothing here.
 */
export function guessColumns<Field extends string>(
  described: DescribedFields<Field>,
  byLooks: (looks: LooksLike) => Field | null,
  heads: readonly string[],
  rows: readonly (readonly string[])[],
): (Field | null)[] {
  const fields = Object.keys(described) as Field[]
  const taken = new Set<Field>()
  const once = (field: Field | null) => {
    if (field === null || taken.has(field)) return null
    taken.add(field)
    return field
  }
  const byHead = heads.map((head) =>
    once(fields.find((field) => described[field].heads.includes(headOf(head))) ?? null),
  )
  return byHead.map((field, index) => {
    const looks = looksLike(rows.map((row) => (row[index] ?? '').trim()))
    return field ?? once(looks && byLooks(looks))
  })
}

/** Whether the first row names columns: by what heads are called, or because nothing in it looks like a value. */
export function isHeadRow(
  kinds: readonly Readonly<Record<string, DescribedField>>[],
  first: readonly string[],
): boolean {
  const isNamed = first.some((cell) =>
    kinds.some((described) => Object.values(described).some(({ heads }) => heads.includes(headOf(cell)))),
  )
  return isNamed || !first.some((cell) => looksLike([cell.trim()]) !== null)
}

/** The cells of a row by what they say. What a spreadsheet would take for a formula was written with an apostrophe before it. */
export function cellsByField<Field extends string>(
  cells: readonly string[],
  matching: MatchedColumns<Field>,
): Readonly<Partial<Record<Field, string>>> {
  const found: Partial<Record<Field, string>> = {}
  matching.forEach((field, index) => {
    const plain = (cells[index] ?? '').replace(/^'(?=[=+\-@])/, '')
    const text = plain.normalize('NFC').replace(/\s+/g, ' ').trim()
    if (field !== null && text !== '') found[field] = text
  })
  return found
}
