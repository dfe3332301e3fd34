import { guessColumns, type DescribedFields, type MatchedColumns } from './matching.ts'

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

export const describedFields: DescribedFields<ClientField> = {
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
export type Matching = MatchedColumns<ClientField>

/** What the columns of a table of clients mean; a date says nothing by its look alone. */
export const guessMatching = (heads: readonly string[], rows: readonly (readonly string[])[]) =>
  guessColumns(describedFields, (looks) => (looks === 'date' ? null : looks), heads, rows)
