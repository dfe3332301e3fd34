import { folded } from '../model/folded.ts'
import { emailAddress } from '../model/values.ts'

/** What a column of a table of clients can say. */
export const clientFields = [
  'name',
  'firstName',
  'lastName',
  'email',
  'secondEmail',
  'phone',
  'language',
  'zone',
  'tags',
  'birthday',
  'takesPromotional',
] as const
export type ClientField = (typeof clientFields)[number]

interface Described {
  /** What it is called on screens. */
  readonly label: string
  /** Words at the head of a column that mean it, folded; common practice, no source. */
  readonly heads: readonly string[]
}

export const describedFields: Readonly<Record<ClientField, Described>> = {
  name: {
    label: 'Name of the client',
    heads: ['name', 'full name', 'fn', 'client', 'customer', 'kunde', 'kundin', 'family', 'familie'],
  },
  firstName: { label: 'First name', heads: ['first name', 'firstname', 'given name', 'forename', 'vorname'] },
  lastName: {
    label: 'Last name',
    heads: ['last name', 'lastname', 'surname', 'family name', 'nachname', 'familienname'],
  },
  email: {
    label: 'E-mail address',
    heads: [
      'email',
      'e mail',
      'mail',
      'email address',
      'e mail address',
      'e mail adresse',
      'mailadresse',
      'email 1',
    ],
  },
  secondEmail: {
    label: 'Second e-mail address',
    heads: ['email 2', 'e mail 2', 'second email', 'zweite e mail'],
  },
  phone: {
    label: 'Telephone',
    heads: [
      'phone',
      'telephone',
      'tel',
      'mobile',
      'mobil',
      'handy',
      'telefon',
      'telefonnummer',
      'phone number',
      'tel 1',
    ],
  },
  language: { label: 'Language', heads: ['language', 'lang', 'sprache'] },
  zone: { label: 'Time zone', heads: ['time zone', 'timezone', 'zone', 'tz', 'zeitzone'] },
  tags: {
    label: 'Tags',
    heads: ['tags', 'tag', 'categories', 'groups', 'gruppen', 'kategorien', 'stichworte', 'schlagworte'],
  },
  birthday: {
    label: 'Birthday',
    heads: ['birthday', 'bday', 'date of birth', 'born', 'geburtstag', 'geburtsdatum', 'geboren'],
  },
  takesPromotional: {
    label: 'Takes promotional mail',
    heads: ['takes promotional', 'promotional', 'newsletter', 'marketing', 'werbung', 'opt in'],
  },
}

/** Which field each column is; null: it is left out. */
export type Matching = readonly (ClientField | null)[]

const headOf = (text: string) =>
  folded(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

/** How columns are told apart, to know them again in the next file. */
export const signatureOf = (heads: readonly string[]) => heads.map(headOf).join('|')

const isPhone = (text: string) => /^[+(\d][\d\s()/.-]{5,}$/.test(text) && text.replace(/\D/g, '').length >= 6

/** What the values of a column look like; null: nothing in particular. */
function looksLike(values: readonly string[]): ClientField | null {
  const given = values.filter((value) => value !== '')
  if (given.length === 0) return null
  const most = (is: (value: string) => boolean) => given.filter(is).length >= given.length * 0.8
  if (most((value) => emailAddress.safeParse(value).success)) return 'email'
  if (most((value) => /^\d{4}-\d\d-\d\d$|^\d{1,2}[./]\d{1,2}[./]\d{4}$/.test(value))) return null
  return most(isPhone) ? 'phone' : null
}

/**
 * What the columns of a table mean, by their heads, then by what stands in them. No field is guessed twice.
 */
export function guessMatching(
  heads: readonly string[],
  rows: readonly (readonly string[])[],
): (ClientField | null)[] {
  const taken = new Set<ClientField>()
  const once = (field: ClientField | null) => {
    if (field === null || taken.has(field)) return null
    taken.add(field)
    return field
  }
  const byHead = heads.map((head) =>
    once(clientFields.find((field) => describedFields[field].heads.includes(headOf(head))) ?? null),
  )
  return byHead.map((field, index) => field ?? once(looksLike(rows.map((row) => (row[index] ?? '').trim()))))
}

/** Whether the first row names the columns: nothing in it looks like a value of a client. */
export function hasHeads(first: readonly string[]): boolean {
  const isNamed = first.some((cell) =>
    clientFields.some((field) => describedFields[field].heads.includes(headOf(cell))),
  )
  return isNamed || !first.some((cell) => looksLike([cell.trim()]) !== null)
}
