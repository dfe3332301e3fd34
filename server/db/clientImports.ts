import type { Comparable } from '#core/tables/doubles.ts'
import { clientImport, type ClientImport } from '#core/model/clientImport.ts'
import { asJson, fromJson, isSet, kept } from './columns.ts'
import type { Statements } from './statements.ts'

export function putClientImport(statements: Statements, put: ClientImport) {
  const { clients, ...plain } = kept(clientImport, put)
  statements.run('putClientImport', plain)
  clients.forEach(({ clientId, was, revision }) =>
    statements.run('insertImportedClient', {
      importId: put.id,
      clientId,
      wasJson: was && asJson(was),
      revision,
    }),
  )
}

/** An import that stands; null: there is none, or it was taken back. */
export function readClientImport(statements: Statements, id: string): ClientImport | null {
  const row = statements.one('readClientImport', { id })
  if (!row) return null
  const clients = statements
    .all('importedClients', { importId: id })
    .map(({ wasJson, ...plain }) => ({ ...plain, was: fromJson(wasJson) }))
  return clientImport.parse({ ...row, clients })
}

/** Whether anything is about a client: a booking, a message, a note. */
export const isClientUsed = (statements: Statements, id: string) =>
  isSet(statements.one('isClientUsed', { id })?.['isUsed'])

/** A client as others are compared with. */
export interface ToCompare extends Comparable {
  readonly id: string
}

/** All clients, as far as they are compared, the oldest first. */
export function clientsToCompare(statements: Statements): readonly ToCompare[] {
  const dates = new Map<string, ToCompare['namedDates'][number][]>()
  for (const { clientId, label, monthDay, year } of statements.all('namedDatesToCompare')) {
    const own = dates.get(String(clientId)) ?? []
    own.push({ label: String(label), monthDay: String(monthDay), year: year === null ? null : Number(year) })
    dates.set(String(clientId), own)
  }
  const found = new Map<string, ToCompare & { readonly contacts: ToCompare['contacts'][number][] }>()
  for (const { id, name, email, phone } of statements.all('clientsToCompare')) {
    const key = String(id)
    const one = found.get(key) ?? {
      id: key,
      name: String(name),
      contacts: [],
      namedDates: dates.get(key) ?? [],
    }
    one.contacts.push({ email: typeof email === 'string' ? email : null, phone: String(phone) })
    found.set(key, one)
  }
  return [...found.values()]
}
