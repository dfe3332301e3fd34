import type { ClientFacts } from '#core/planning/slice.ts'
import { booking, type Booking } from '#core/model/booking.ts'
import { client, type Client } from '#core/model/client.ts'
import { enquiry, happening, invoice, type Enquiry, type Invoice } from '#core/model/dealings.ts'
import { run, type Run } from '#core/model/sequence.ts'
import { task, type Task } from '#core/model/task.ts'
import { variation, type Variation } from '#core/model/variation.ts'
import { asJson, flag, fromJson, isSet, kept } from './columns.ts'
import { subjectOfRow } from './eventStore.ts'
import { readSendsOfClient } from './sendStore.ts'
import type { Statements } from './statements.ts'
import { isOfStore } from './storeFault.ts'
import { noteReading, readRows, UnreadableClient } from './unreadable.ts'

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
    isHeldBack: isSet(row['isHeldBack']),
    contacts,
    namedDates: statements.all('namedDatesOfClient', { clientId }),
    tags: statements.all('tagsOfClient', { clientId }).map((tag) => tag['tag']),
  })
}

export function putClient(statements: Statements, put: Client) {
  const { contacts, namedDates, tags, ...plain } = kept(client, put)
  const clientId = put.id
  statements.run('putClient', {
    ...plain,
    takesPromotional: flag(put.takesPromotional),
    isActive: flag(put.isActive),
    isHeldBack: flag(put.isHeldBack),
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

function asBooking(row: Record<string, unknown>): Booking {
  const { sessionsJson, statusAtJson, historyJson, settlingJson, toldJson, ...plain } = row
  return booking.parse({
    ...plain,
    sessions: fromJson(sessionsJson),
    statusAt: fromJson(statusAtJson),
    history: fromJson(historyJson),
    settling: fromJson(settlingJson),
    told: fromJson(toldJson),
  })
}

export function putBooking(statements: Statements, put: Booking) {
  const { sessions, statusAt, history, settling, told, ...plain } = kept(booking, put)
  statements.run('putBooking', {
    ...plain,
    sessionsJson: asJson(sessions),
    statusAtJson: asJson(statusAt),
    historyJson: asJson(history),
    settlingJson: settling && asJson(settling),
    toldJson: asJson(told),
  })
}

function asRun(row: Record<string, unknown>): Run {
  const { subjectKind, subjectId, branchesJson, timingSetAtJson, passedOverJson, ...plain } = row
  return run.parse({
    ...plain,
    subject: { kind: subjectKind, id: subjectId },
    branches: fromJson(branchesJson),
    timingSetAt: fromJson(timingSetAtJson),
    passedOver: fromJson(passedOverJson),
  })
}

export function putRun(statements: Statements, put: Run) {
  const { subject, branches, timingSetAt, passedOver, ...plain } = kept(run, put)
  statements.run('putRun', {
    ...plain,
    subjectKind: subject.kind,
    subjectId: subject.id,
    branchesJson: asJson(branches),
    timingSetAtJson: asJson(timingSetAt),
    passedOverJson: asJson(passedOver),
  })
}

function asEnquiry({ stageAtJson, eveningJson, ticksJson, ...plain }: Record<string, unknown>): Enquiry {
  const parts = { stageAt: fromJson(stageAtJson), evening: fromJson(eveningJson), ticks: fromJson(ticksJson) }
  return enquiry.parse({ ...plain, ...parts })
}

export function putEnquiry(statements: Statements, put: Enquiry) {
  const { stageAt, evening, ticks, ...plain } = kept(enquiry, put)
  statements.run('putEnquiry', {
    ...plain,
    stageAtJson: asJson(stageAt),
    eveningJson: evening && asJson(evening),
    ticksJson: asJson(ticks),
  })
}

function asInvoice(row: Record<string, unknown>): Invoice {
  return invoice.parse({ ...row, isFee: isSet(row['isFee']) })
}

export function putInvoice(statements: Statements, put: Invoice) {
  statements.run('putInvoice', { ...kept(invoice, put), isFee: flag(put.isFee) })
}

export function putVariation(statements: Statements, put: Variation) {
  const { id, sequenceId, stepId, scope } = kept(variation, put)
  statements.run('putVariation', {
    id,
    sequenceId,
    stepId,
    serviceId: scope.of === 'service' ? scope.serviceId : null,
    clientId: scope.of === 'client' ? scope.clientId : null,
    variationJson: asJson(put),
  })
}

export function readTask(statements: Statements, id: string): Task | null {
  const row = statements.one('readTask', { id })
  return row ? task.parse(subjectOfRow(row)) : null
}

export function putTask(statements: Statements, put: Task) {
  const { subject, ...plain } = kept(task, put)
  statements.run('putTask', {
    ...plain,
    subjectKind: subject?.kind ?? null,
    subjectId: subject?.id ?? null,
  })
}

export function readTasks(statements: Statements, clientId: string): Task[] {
  return readRows(statements, 'task', statements.all('tasksOfClient', { clientId }), (row) =>
    task.parse(subjectOfRow(row)),
  )
}

export function readBooking(statements: Statements, bookingId: string): Booking | null {
  const row = statements.one('readBooking', { id: bookingId })
  return row ? asBooking(row) : null
}

function readRuns(statements: Statements, clientId: string): Run[] {
  return statements.all('runsOfClient', { clientId }).map(asRun)
}

/**
 * Everything about one client that a command can need; null when there is no such client. What of it cannot be read
 * makes the client unreadable as a whole: to plan without a booking would take its messages back.
 */
export function readClientFacts(statements: Statements, clientId: string): ClientFacts | null {
  try {
    const facts = factsOfClient(statements, clientId)
    noteReading(statements, 'client', clientId, null)
    return facts
  } catch (fault) {
    // A database that is busy says nothing about the client.
    if (isOfStore(fault)) throw fault
    noteReading(statements, 'client', clientId, fault)
    throw new UnreadableClient(clientId, fault)
  }
}

/** The same where many clients are gone through: one that cannot be read is passed over, and noted. */
export function readableClientFacts(statements: Statements, clientId: string): ClientFacts | null {
  try {
    return readClientFacts(statements, clientId)
  } catch (fault) {
    if (fault instanceof UnreadableClient) return null
    throw fault
  }
}

function factsOfClient(statements: Statements, clientId: string): ClientFacts | null {
  const found = readClient(statements, clientId)
  if (!found) return null
  return {
    client: found,
    bookings: statements.all('bookingsOfClient', { clientId }).map(asBooking),
    enquiries: statements.all('enquiriesOfClient', { clientId }).map(asEnquiry),
    invoices: statements.all('invoicesOfClient', { clientId }).map(asInvoice),
    happenings: statements.all('happeningsOfClient', { clientId }).map((row) => happening.parse(row)),
    variations: statements
      .all('variationsOfClient', { clientId })
      .map((row) => variation.parse(fromJson(row['variationJson']))),
    runs: readRuns(statements, clientId),
    sends: readSendsOfClient(statements, clientId),
  }
}

export function readVariation(statements: Statements, id: string): Variation | null {
  const row = statements.one('readVariation', { id })
  return row ? variation.parse(fromJson(row['variationJson'])) : null
}
