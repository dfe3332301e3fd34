import type { ClientFacts } from '#core/planning/slice.ts'
import { booking, type Booking } from '#core/model/booking.ts'
import { client, type Client } from '#core/model/client.ts'
import { folded } from '#core/model/folded.ts'
import { happening, invoice, type Invoice } from '#core/model/dealings.ts'
import { enquiry, type Enquiry } from '#core/model/enquiry.ts'
import { run, type Run } from '#core/model/sequence.ts'
import { task, type Task } from '#core/model/task.ts'
import { variation, type Variation } from '#core/model/variation.ts'
import { asJson, flag, fromJson, isSet, kept } from './columns.ts'
import { subjectOfRow } from './eventStore.ts'
import { undeliveredOfClient } from './incomingStore.ts'
import { readSendsOfClient } from './sendStore.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

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

/** What a client is found by: name, people and addresses, tags. */
function foundBy({ name, contacts, tags }: Client): string {
  const people = contacts.map(({ firstName, lastName, email }) => `${firstName} ${lastName} ${email ?? ''}`)
  return folded([name, ...people, ...tags].join('\n'))
}

export function putClient(statements: Statements, put: Client) {
  const { contacts, namedDates, tags, ...plain } = kept(client, put)
  const clientId = put.id
  statements.run('putClient', {
    ...plain,
    foundBy: foundBy(put),
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

/** Takes a client away of whom nothing is told anywhere. */
export function removeClient(statements: Statements, clientId: string) {
  statements.run('deleteContacts', { clientId })
  statements.run('deleteNamedDates', { clientId })
  statements.run('deleteTags', { clientId })
  statements.run('removeClient', { id: clientId })
}

export function asBooking(row: Record<string, unknown>): Booking {
  const {
    sessionsJson,
    statusAtJson,
    historyJson,
    settlingJson,
    toldJson,
    answersJson,
    cancellationJson,
    peopleJson,
    ownJson,
    ...plain
  } = row
  return booking.parse({
    ...plain,
    sessions: fromJson(sessionsJson),
    statusAt: fromJson(statusAtJson),
    history: fromJson(historyJson),
    settling: fromJson(settlingJson),
    told: fromJson(toldJson),
    answers: fromJson(answersJson),
    cancellation: fromJson(cancellationJson),
    people: fromJson(peopleJson),
    own: fromJson(ownJson),
  })
}

export function putBooking(statements: Statements, put: Booking) {
  const { sessions, statusAt, history, settling, told, answers, cancellation, people, own, ...plain } = kept(
    booking,
    put,
  )
  statements.run('putBooking', {
    ...plain,
    sessionsJson: asJson(sessions),
    statusAtJson: asJson(statusAt),
    historyJson: asJson(history),
    settlingJson: settling && asJson(settling),
    toldJson: asJson(told),
    answersJson: asJson(answers),
    cancellationJson: cancellation && asJson(cancellation),
    peopleJson: asJson(people),
    ownJson: asJson(own),
  })
}

function asRun({ isAtRest, ...row }: Record<string, unknown>): RunRow {
  const { subjectKind, subjectId, branchesJson, timingSetAtJson, passedOverJson, heldJson, ...plain } = row
  const read = run.parse({
    ...plain,
    subject: { kind: subjectKind, id: subjectId },
    branches: fromJson(branchesJson),
    timingSetAt: fromJson(timingSetAtJson),
    passedOver: fromJson(passedOverJson),
    held: heldJson === null ? null : fromJson(heldJson),
  })
  return { run: read, isAtRest: isSet(isAtRest) }
}

interface RunRow {
  readonly run: Run
  readonly isAtRest: boolean
}

/** Runs as they are stored, and which of them are at rest. */
export function asRuns(rows: readonly Record<string, unknown>[]): Pick<ClientFacts, 'runs' | 'resting'> {
  const read = rows.map(asRun)
  const resting = read.flatMap(({ run: one, isAtRest }) => (isAtRest ? [one.id] : []))
  return { runs: read.map(({ run: one }) => one), resting: new Set(resting) }
}

export function putRun(statements: Statements, put: Run) {
  const { subject, branches, timingSetAt, passedOver, held, ...plain } = kept(run, put)
  statements.run('putRun', {
    ...plain,
    subjectKind: subject.kind,
    subjectId: subject.id,
    branchesJson: asJson(branches),
    timingSetAtJson: asJson(timingSetAt),
    passedOverJson: asJson(passedOver),
    heldJson: held && asJson(held),
  })
}

function asEnquiry(row: Record<string, unknown>): Enquiry {
  const { stageAtJson, eveningJson, ticksJson, answersJson, contactIdsJson, ...plain } = row
  const parts = { stageAt: fromJson(stageAtJson), evening: fromJson(eveningJson), ticks: fromJson(ticksJson) }
  return enquiry.parse({
    ...plain,
    ...parts,
    answers: fromJson(answersJson),
    contactIds: fromJson(contactIdsJson),
  })
}

export function readEnquiry(statements: Statements, id: string): Enquiry | null {
  const row = statements.one('readEnquiry', { id })
  return row ? asEnquiry(row) : null
}

export function putEnquiry(statements: Statements, put: Enquiry) {
  const { stageAt, evening, ticks, answers, contactIds, ...plain } = kept(enquiry, put)
  statements.run('putEnquiry', {
    ...plain,
    stageAtJson: asJson(stageAt),
    eveningJson: evening && asJson(evening),
    ticksJson: asJson(ticks),
    contactIdsJson: asJson(contactIds),
    answersJson: asJson(answers),
  })
}

export function asInvoice({ paymentsJson, ...row }: Record<string, unknown>): Invoice {
  return invoice.parse({ ...row, isFee: isSet(row['isFee']), payments: fromJson(paymentsJson) })
}

export function readInvoice(statements: Statements, id: string): Invoice | null {
  const row = statements.one('readInvoice', { id })
  return row ? asInvoice(row) : null
}

export function putInvoice(statements: Statements, put: Invoice) {
  const { payments, ...plain } = kept(invoice, put)
  statements.run('putInvoice', { ...plain, isFee: flag(put.isFee), paymentsJson: asJson(payments) })
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

/** What is about the client as such, and about no single booking. */
export function ofClientHerself(statements: Statements, clientId: string) {
  const found = readClient(statements, clientId)
  return (
    found && {
      client: found,
      enquiries: statements.all('enquiriesOfClient', { clientId }).map(asEnquiry),
      happenings: statements.all('happeningsOfClient', { clientId }).map((row) => happening.parse(row)),
      variations: statements
        .all('variationsOfClient', { clientId })
        .map((row) => variation.parse(fromJson(row['variationJson']))),
      undelivered: undeliveredOfClient(statements, clientId),
    }
  )
}

/** Everything about one client, the archive included; null when there is no such client. */
export function factsOfClient(statements: Statements, clientId: string): ClientFacts | null {
  const ownFacts = ofClientHerself(statements, clientId)
  return (
    ownFacts && {
      ...ownFacts,
      bookings: statements.all('bookingsOfClient', { clientId }).map(asBooking),
      invoices: statements.all('invoicesOfClient', { clientId }).map(asInvoice),
      ...asRuns(statements.all('runsOfClient', { clientId })),
      sends: readSendsOfClient(statements, clientId),
    }
  )
}

export function readVariation(statements: Statements, id: string): Variation | null {
  const row = statements.one('readVariation', { id })
  return row ? variation.parse(fromJson(row['variationJson'])) : null
}
