import type { ClientFacts } from '#core/planning/slice.ts'
import { booking, type Booking } from '#core/model/booking.ts'
import { client, type Client } from '#core/model/client.ts'
import { run, type Run } from '#core/model/sequence.ts'
import { flag, isSet } from './columns.ts'
import { readSendsOfClient } from './sendStore.ts'
import type { Statements } from './statements.ts'

export function readClient(statements: Statements, clientId: string): Client | null {
  const row = statements.one('readClient', { id: clientId })
  if (!row) return null
  const contacts = statements
    .all('contactsOfClient', { clientId })
    .map((contact) => ({ ...contact, isPrimary: isSet(contact['isPrimary']) }))
  return client.parse({
    ...row,
    takesPromotional: isSet(row['takesPromotional']),
    isActive: isSet(row['isActive']),
    contacts,
    namedDates: statements.all('namedDatesOfClient', { clientId }),
    tags: statements.all('tagsOfClient', { clientId }).map((tag) => tag['tag']),
  })
}

export function putClient(statements: Statements, put: Client) {
  const { contacts, namedDates, tags, ...plain } = put
  const clientId = put.id
  statements.run('putClient', {
    ...plain,
    takesPromotional: flag(put.takesPromotional),
    isActive: flag(put.isActive),
  })
  statements.run('deleteContacts', { clientId })
  contacts.forEach((contact, position) =>
    statements.run('insertContact', { ...contact, clientId, position, isPrimary: flag(contact.isPrimary) }),
  )
  statements.run('deleteNamedDates', { clientId })
  namedDates.forEach((date, position) => statements.run('insertNamedDate', { ...date, clientId, position }))
  statements.run('deleteTags', { clientId })
  tags.forEach((tag) => statements.run('insertTag', { clientId, tag }))
}

export function readBooking(statements: Statements, bookingId: string): Booking | null {
  const row = statements.one('readBooking', { id: bookingId })
  return row ? booking.parse(row) : null
}

function readRuns(statements: Statements, clientId: string): Run[] {
  return statements.all('runsOfClient', { clientId }).map((row) => run.parse(row))
}

/** Everything about one client that a command can need; null when there is no such client. */
export function readClientFacts(statements: Statements, clientId: string): ClientFacts | null {
  const found = readClient(statements, clientId)
  if (!found) return null
  return {
    client: found,
    bookings: statements.all('bookingsOfClient', { clientId }).map((row) => booking.parse(row)),
    runs: readRuns(statements, clientId),
    sends: readSendsOfClient(statements, clientId),
  }
}
