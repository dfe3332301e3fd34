import { z } from 'zod'
import { taskLine, type TaskLine } from '#core/api/taskEndpoints.ts'
import type { BookingLine, DecideLine, HistoryLine, SendLine } from '#core/api/views.ts'
import { booking } from '#core/model/booking.ts'
import { event } from '#core/model/event.ts'
import { reason, send, traceLine } from '#core/model/send.ts'
import { isClientsOwn, isContactId } from '#core/sequences/recipients.ts'
import { placeZone, serviceOf, type Settings } from '#core/planning/slice.ts'
import { sendLabel } from '#core/planning/sendLabel.ts'
import { fromJson } from '../db/columns.ts'
import { subjectOfRow } from '../db/eventStore.ts'
import type { Given, QueryName } from '../db/statements.ts'
import { readRows } from '../db/unreadable.ts'
import type { Application } from '../engine/application.ts'

const sendRow = send
  .pick({
    id: true,
    clientId: true,
    recipientId: true,
    letterId: true,
    stepKind: true,
    stepId: true,
    sequenceId: true,
    sequenceVersion: true,
    purpose: true,
    state: true,
  })
  .extend({
    clientName: z.string(),
    contactName: z.string().nullable(),
    colleagueName: z.string().nullable(),
    bookingId: z.string().nullable(),
    serviceId: z.string().nullable(),
    address: z.string().nullable(),
    stateSince: z.number(),
    revision: z.number().int(),
    shownAt: z.number().nullable(),
    notAfter: z.number().nullable(),
    reason: reason.nullable(),
    trace: z.array(traceLine),
  })

/** Rules whose lines say that a time was changed, not where it came from. */
const isMove = ({ rule }: { rule: string }) => rule !== 'wanted'

/** Who gets it, by name: a contact, a colleague, the business itself, an address; empty: the step writes to nobody. */
function recipientNameOf(
  recipientId: string,
  names: { readonly contact: string; readonly colleague: string | null },
  address: string | null,
  { business }: Settings,
): string {
  if (recipientId === '') return ''
  if (isContactId(recipientId)) return names.contact
  if (recipientId === 'business' || recipientId === 'copy') return business.senderName
  return names.colleague ?? address ?? ''
}

function sendLine(settings: Settings, row: Record<string, unknown>): SendLine {
  const { reasonJson, traceJson, ...plain } = row
  const read = sendRow.parse({ ...plain, reason: fromJson(reasonJson), trace: fromJson(traceJson) })
  const { trace, shownAt, serviceId, stepId, sequenceVersion, ...named } = read
  const { recipientId, contactName, colleagueName, ...line } = named
  const names = { contact: contactName ?? line.clientName, colleague: colleagueName }
  return {
    ...line,
    recipientName: recipientNameOf(recipientId, names, line.address, settings),
    isToClient: isClientsOwn(recipientId),
    shownAt: shownAt ?? line.stateSince,
    hasTime: shownAt !== null,
    serviceName: serviceId === null ? null : serviceOf(settings, serviceId).name,
    letterName: sendLabel({ ...line, stepId, sequenceVersion }, settings),
    sequenceName: settings.sequences.find((one) => one.id === line.sequenceId)?.name ?? line.sequenceId,
    movedBy: trace.filter(isMove).map(({ rule, code }) => ({ rule, code })),
  }
}

/** Messages of one of the listing queries, with the names people know. */
export function sendLines<Name extends QueryName>(
  { store, settings }: Application,
  query: Name,
  ...given: Given<Name>
): SendLine[] {
  const present = settings.required()
  const { statements } = store
  return readRows(statements, 'message', statements.all(query, ...given), (row) => sendLine(present, row))
}

/** Messages that wait, each with its last chance. */
export function decideLines<Name extends 'listWaiting' | 'waitingLine'>(
  application: Application,
  query: Name,
  ...given: Given<Name>
): DecideLine[] {
  const { statements } = application.store
  const present = application.settings.required()
  return readRows(statements, 'message', statements.all(query, ...given), ({ lastChanceAt, ...row }) => {
    const line = sendLine(present, row)
    const stepId = String(row['stepId'])
    return {
      ...line,
      stepId,
      lastChanceAt: lastChanceAt === null ? null : Number(lastChanceAt),
      alikeKey: [line.sequenceId, stepId, line.letterId].join('|'),
    }
  })
}

export function taskLines<Name extends QueryName>(
  { store }: Application,
  query: Name,
  ...given: Given<Name>
): TaskLine[] {
  const { statements } = store
  return readRows(statements, 'task', statements.all(query, ...given), (row) =>
    taskLine.parse(subjectOfRow(row)),
  )
}

const bookingRow = booking
  .pick({
    id: true,
    clientId: true,
    serviceId: true,
    status: true,
    startAt: true,
    endAt: true,
    partySize: true,
    revision: true,
  })
  .extend({ clientName: z.string(), ownStatus: z.string().nullable() })
  .strip()

export function bookingLine(settings: Settings, row: Record<string, unknown>): BookingLine {
  const line = bookingRow.parse(row)
  const service = serviceOf(settings, line.serviceId)
  return { ...line, serviceName: service.name, placeZone: placeZone(settings, service).name }
}

const historyRow = event.extend({ personName: z.string().nullable() })

export function historyLines<Name extends QueryName>(
  { store }: Application,
  query: Name,
  ...given: Given<Name>
): HistoryLine[] {
  const { statements } = store
  return readRows(statements, 'history', statements.all(query, ...given), (row) =>
    historyRow.parse(subjectOfRow(row)),
  )
}
