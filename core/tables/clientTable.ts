import type { Client } from '../model/client.ts'
import { folded } from '../model/folded.ts'
import { clientFields, describedFields, type ClientField } from './clientFields.ts'
import { birthdayLabel } from './clientRows.ts'
import { writtenDate } from './dates.ts'

/** The heads of a table of clients: by these its columns are known again. */
export const clientHeads: readonly string[] = clientFields.map(
  (field) => describedFields[field].heads[0] ?? field,
)

/** The birthday among a client's dates, whatever its letters' case. */
export const birthdayOf = ({ namedDates }: Pick<Client, 'namedDates'>) =>
  namedDates.find(({ label }) => folded(label) === folded(birthdayLabel))

/**
 * A client as a row. Of contacts the primary one and a second address are in it, of dates the birthday; what else there is
 * stands in the file of the whole business.
 */
export function clientCells({
  name,
  zone,
  language,
  contacts,
  namedDates,
  tags,
  takesPromotional,
}: Client): string[] {
  const primary = contacts.find(({ isPrimary }) => isPrimary)
  const second = contacts.find(({ isPrimary, email }) => !isPrimary && email !== null)
  const birthday = birthdayOf({ namedDates })
  const cells: Readonly<Record<ClientField, string>> = {
    name,
    firstName: primary?.firstName ?? '',
    lastName: primary?.lastName ?? '',
    email: primary?.email ?? '',
    secondEmail: second?.email ?? '',
    phone: primary?.phone ?? '',
    language,
    zone: zone ?? '',
    tags: tags.join(', '),
    birthday: birthday ? writtenDate(birthday) : '',
    takesPromotional: takesPromotional ? 'yes' : 'no',
  }
  return clientFields.map((field) => cells[field])
}
