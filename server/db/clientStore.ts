import type { ClientFacts } from '#core/planning/slice.ts'
import { booking, type Booking } from '#core/model/booking.ts'
import { client, type Client } from '#core/model/client.ts'
import { enquiry, happening, invoice, type Enquiry } from '#core/model/dealings.ts'
import { run, type Run } from '#core/model/sequence.ts'
import { asJson, flag, fromJson, isSet } from './columns.ts'
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

function asBooking({ sessionsJson, statusAtJson, settlingJson, ...plain }: Record<string, unknown>): Booking {
  return booking.parse({
    ...plain,
    sessions: fromJson(sessionsJson),
    statusAt: fromJson(statusAtJson),
    settling: fromJson(settlingJson),
  })
}

export function putBooking(statements: Statements, { sessions, statusAt, settling, ...plain }: Booking) {
  statements.run('putBooking', {
    ...plain,
    sessionsJson: asJson(sessions),
    statusAtJson: asJson(statusAt),
    settlingJson: settling && asJson(settling),
  })
}

function asRun({ subjectKind, subjectId, ...plain }: Record<string, unknown>): Run {
  return run.parse({ ...plain, subject: { kind: subjectKind, id: subjectId } })
}

export function putRun(statements: Statements, { subject, ...plain }: Run) {
  statements.run('putRun', { ...plain, subjectKind: subject.kind, subjectId: subject.id })
}

function asEnquiry({ stageAtJson, ...plain }: Record<string, unknown>): Enquiry {
  return enquiry.parse({ ...plain, stageAt: fromJson(stageAtJson) })
}

export function putEnquiry(statements: Statements, { stageAt, ...plain }: Enquiry) {
  statements.run('putEnquiry', { ...plain, stageAtJson: asJson(stageAt) })
}

export function readBooking(statements: Statements, bookingId: string): Booking | null {
  const row = statements.one('readBooking', { id: bookingId })
  return row ? asBooking(row) : null
}

function readRuns(statements: Statements, clientId: string): Run[] {
  return statements.all('runsOfClient', { clientId }).map(asRun)
}

/** Everything about one client that a command can need; null when there is no such client. */
export function readClientFacts(statements: Statements, clientId: string): ClientFacts | null {
  const found = readClient(statements, clientId)
  if (!found) return null
  return {
    client: found,
    bookings: statements.all('bookingsOfClient', { clientId }).map(asBooking),
    enquiries: statements.all('enquiriesOfClient', { clientId }).map(asEnquiry),
    invoices: statements.all('invoicesOfClient', { clientId }).map((row) => invoice.parse(row)),
    happenings: statements.all('happeningsOfClient', { clientId }).map((row) => happening.parse(row)),
    runs: readRuns(statements, clientId),
    sends: readSendsOfClient(statements, clientId),
  }
}
