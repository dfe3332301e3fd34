import { z } from 'zod'
import type { BookingLine, HistoryLine, SendLine } from '#core/api/views.ts'
import { booking } from '#core/model/booking.ts'
import { event } from '#core/model/event.ts'
import { reason, send, traceLine } from '#core/model/send.ts'
import { placeZone, serviceOf, versionOf, type Settings } from '#core/planning/slice.ts'
import { deedWords } from '#core/sequences/deedWords.ts'
import { findStep } from '#core/sequences/steps.ts'
import { fromJson } from '../db/columns.ts'
import { subjectOfRow } from '../db/eventStore.ts'
import type { Parameters } from '../db/statements.ts'
import type { Office } from '../engine/office.ts'

const sendRow = send
  .pick({
    id: true,
    clientId: true,
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
    bookingId: z.string().nullable(),
    serviceId: z.string().nullable(),
    address: z.string().nullable(),
    stateSince: z.number(),
    shownAt: z.number().nullable(),
    reason: reason.nullable(),
    trace: z.array(traceLine),
  })

/** Rules whose lines say that a time was changed, not where it came from. */
const isMove = ({ rule }: { rule: string }) => rule !== 'wanted'

function sendLine(settings: Settings, row: Record<string, unknown>): SendLine {
  const { reasonJson, traceJson, ...plain } = row
  const { trace, shownAt, serviceId, stepId, sequenceVersion, ...line } = sendRow.parse({
    ...plain,
    reason: fromJson(reasonJson),
    trace: fromJson(traceJson),
  })
  const step = findStep(versionOf(settings, line.sequenceId, sequenceVersion), stepId)
  return {
    ...line,
    shownAt: shownAt ?? line.stateSince,
    serviceName: serviceId === null ? null : serviceOf(settings, serviceId).name,
    letterName: step ? deedWords(step, line.letterId, settings) : (line.letterId ?? line.stepKind),
    sequenceName: settings.sequences.find((one) => one.id === line.sequenceId)?.name ?? line.sequenceId,
    movedBy: trace.filter(isMove).map(({ rule, code }) => ({ rule, code })),
  }
}

/** Messages of one of the listing queries, with the names people know. */
export function sendLines({ store, settings }: Office, query: string, parameters: Parameters): SendLine[] {
  const present = settings.required()
  return store.statements.all(query, parameters).map((row) => sendLine(present, row))
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
  })
  .extend({ clientName: z.string() })
  .strip()

export function bookingLine(settings: Settings, row: Record<string, unknown>): BookingLine {
  const line = bookingRow.parse(row)
  const service = serviceOf(settings, line.serviceId)
  return { ...line, serviceName: service.name, placeZone: placeZone(settings, service).name }
}

const historyRow = event.extend({ personName: z.string().nullable() })

export function historyLines({ store }: Office, query: string, parameters: Parameters): HistoryLine[] {
  return store.statements.all(query, parameters).map((row) => historyRow.parse(subjectOfRow(row)))
}
