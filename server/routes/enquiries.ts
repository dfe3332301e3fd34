import type { Router } from 'express'
import { z } from 'zod'
import { endpoints } from '#core/api/endpoints.ts'
import type { PipelineView } from '#core/api/enquiryEndpoints.ts'
import { enquiryLine, type EnquiryLine, type EnquiryView } from '#core/api/enquiryViews.ts'
import type { Enquiry } from '#core/model/enquiry.ts'
import { sendState } from '#core/model/send.ts'
import { aheadStates } from '#core/model/sendState.ts'
import {
  businessDate,
  zoneFor,
  serviceOf,
  versionOf,
  type Settings,
  type Slice,
} from '#core/planning/slice.ts'
import { pipelineOf } from '#core/planning/stages.ts'
import { workOf } from '#core/sequences/standIns.ts'
import { findStep, plainSteps } from '#core/sequences/steps.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { instantAt } from '#core/time/zones.ts'
import { readBooking, readClient, readEnquiry } from '../db/clientStore.ts'
import { asJson, fromJson } from '../db/columns.ts'
import { receiptOfEnquiry } from '../db/formStore.ts'
import { focusOn } from '../db/livingStore.ts'
import type { Given, QueryName } from '../db/statements.ts'
import { readRows } from '../db/unreadable.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { historyLines, sendLines } from './lines.ts'
import { inParts } from './parts.ts'
import { signingViews } from './documents.ts'
import { offeredOn } from './moves.ts'
import { serve, valueOf } from './route.ts'
import { sequencesStartingOn } from './startedBy.ts'

const coming = z.array(z.tuple([z.number(), sendState]))

function lineOf(settings: Settings, { comingJson, ...row }: Record<string, unknown>): EnquiryLine {
  const marks = coming.parse(fromJson(comingJson))
  const serviceId = row['serviceId']
  const inCharge = settings.people.find(({ id }) => id === row['personInChargeId'])
  return enquiryLine.parse({
    ...row,
    serviceName: typeof serviceId === 'string' ? serviceOf(settings, serviceId).name : null,
    personName: inCharge?.name ?? null,
    coming: marks.map(([at, state]) => ({ at, state })).toSorted((one, other) => one.at - other.at),
  })
}

function enquiryLines<Name extends QueryName>(
  { store: { statements }, settings }: Application,
  query: Name,
  ...given: Given<Name>
): EnquiryLine[] {
  const present = settings.required()
  return readRows(statements, 'enquiry', statements.all(query, ...given), (row) => lineOf(present, row))
}

function pipelineView({ application }: RunningApplication, id: string): PipelineView {
  const settings = application.settings.required()
  const pipeline = settings.pipelines.find((one) => one.id === id)
  if (!pipeline) throw new Refusal('not found', 'There is no such pipeline.')
  const rows = application.store.statements.all('enquiriesByStage', { pipelineId: id })
  const open = pipeline.stages.filter(({ meaning }) => meaning === 'open').map(({ name }) => name)
  return {
    pipeline,
    sums: pipeline.stages.map(({ name }) => {
      const row = rows.find(({ stage }) => stage === name)
      const sums = { count: Number(row?.['count'] ?? 0), cents: Number(row?.['cents'] ?? 0) }
      return { name, ...sums, sequences: sequencesStartingOn(settings, 'enquiry stage entered', name) }
    }),
    lines: enquiryLines(application, 'openEnquiryLines', { pipelineId: id, stagesJson: asJson(open) }),
  }
}

/** The evening letter of an enquiry as it is planned at present. */
function eveningOf({ settings, facts }: Slice, { id }: Enquiry) {
  const isEvening = (one: { sequenceId: string; version: number }, stepId: string) =>
    findStep(versionOf(settings, one.sequenceId, one.version), stepId)?.timing.kind === 'evening'
  const runs = facts.runs.filter(({ subject, state }) => subject.id === id && state === 'running')
  const planned = facts.sends.find(
    ({ subject, state, stepId, sequenceId, sequenceVersion, dueAt }) =>
      subject.id === id &&
      dueAt !== null &&
      aheadStates.includes(state) &&
      isEvening({ sequenceId, version: sequenceVersion }, stepId),
  )
  const hasEveningStep = runs.some((run) =>
    plainSteps(versionOf(settings, run.sequenceId, run.version).steps).some(
      ({ timing }) => timing.kind === 'evening',
    ),
  )
  return { eveningSendId: planned?.id ?? null, hasEveningStep }
}

function enquiryView({ application }: RunningApplication, id: string): EnquiryView {
  const { statements } = application.store
  const enquiry = readEnquiry(statements, id)
  if (!enquiry) throw new Refusal('not found', 'There is no such enquiry.')
  const settings = application.settings.required()
  const pipeline = pipelineOf(settings, enquiry)
  if (!pipeline) throw new Refusal('not found', 'The pipeline of this enquiry cannot be read.')
  const client = readClient(statements, enquiry.clientId)
  const service = enquiry.serviceId === null ? null : serviceOf(settings, enquiry.serviceId)
  const zone = zoneFor(settings, enquiry.serviceId)
  const slice = application.readableSliceOf(enquiry.clientId, focusOn(id))
  return {
    enquiry,
    clientName: client?.name ?? '',
    contacts: client?.contacts ?? [],
    serviceName: service?.name ?? null,
    pipeline,
    personInCharge: workOf(settings.people, enquiry.personInChargeId),
    placeZone: zone.name,
    bookingStatus:
      enquiry.bookingId === null ? null : (readBooking(statements, enquiry.bookingId)?.status ?? null),
    day0At: enquiry.wishedOn === null ? null : instantAt(zone, epochDayOf(enquiry.wishedOn), 0),
    sends: sendLines(application, 'listOfSubject', { subjectId: id }),
    history: historyLines(application, 'eventsOfSubject', { subjectId: id }),
    ...(slice ? eveningOf(slice, enquiry) : { eveningSendId: null, hasEveningStep: false }),
    signings: signingViews(statements, id),
    receipt: receiptOfEnquiry(statements, id),
    ...offeredOn(application, slice, { of: 'enquiry', item: enquiry }),
  }
}

function pipelineRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.pipeline, ({ parameters }) => pipelineView(running, parameters.id))
  serve(router, statements, endpoints.endedEnquiries, ({ parameters: { id }, query: { stage, ...asked } }) =>
    inParts(asked, (some) =>
      enquiryLines(application, 'endedEnquiryLines', { pipelineId: id, stage, ...some }),
    ),
  )
  serve(router, statements, endpoints.addPipeline, ({ body: { pipeline }, called }) =>
    valueOf(commands.putPipeline(called('addPipeline'), { id: null, revision: 0, pipeline, moved: [] })),
  )
  serve(router, statements, endpoints.changePipeline, ({ parameters: { id }, body, called }) => {
    const { revision, pipeline, moved } = body
    return valueOf(commands.putPipeline(called('changePipeline'), { id, revision, pipeline, moved }))
  })
  serve(router, statements, endpoints.removePipeline, ({ parameters: { id }, called }) =>
    valueOf(commands.removePipeline(called('removePipeline'), id)),
  )
}

/** Pipelines, and the enquiries in them. */
export function enquiryRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  pipelineRoutes(router, running)
  serve(router, statements, endpoints.addEnquiry, ({ body, called }) =>
    valueOf(commands.addEnquiry(called('addEnquiry'), body.enquiry)),
  )
  serve(router, statements, endpoints.moveEnquiries, ({ body, called }) =>
    valueOf(commands.moveEnquiries(called('moveEnquiries'), body.enquiries, body.move)),
  )
  serve(router, statements, endpoints.enquiry, ({ parameters }) => enquiryView(running, parameters.id))
  serve(router, statements, endpoints.enquiriesOfClient, ({ parameters }) => ({
    lines: enquiryLines(application, 'enquiryLinesOfClient', { clientId: parameters.id }),
  }))
  serve(router, statements, endpoints.enquiriesDue, () => {
    const dueBy = businessDate(application.settings.required(), application.clock.now())
    return { lines: enquiryLines(application, 'enquiriesDue', { dueBy, limit: 200 }) }
  })
  serve(router, statements, endpoints.changeEnquiry, ({ parameters: { id }, body, called }) =>
    valueOf(commands.changeEnquiry(called('changeEnquiry'), { id, revision: body.revision }, body.facts)),
  )
  serve(router, statements, endpoints.moveEnquiry, ({ parameters: { id }, body, called }) =>
    valueOf(commands.moveEnquiry(called('moveEnquiry'), { id, revision: body.revision }, body.move)),
  )
  serve(router, statements, endpoints.bookEnquiry, ({ parameters: { id }, body, called }) =>
    valueOf(commands.bookEnquiry(called('bookEnquiry'), { id, revision: body.revision }, body.booking)),
  )
  for (const name of ['tickLine', 'untickLine', 'tellAgain'] as const) {
    serve(router, statements, endpoints[name], ({ parameters: { id }, body, called }) =>
      valueOf(commands[name](called(name), id, body.lineId)),
    )
  }
  serve(router, statements, endpoints.setEvening, ({ parameters: { id }, body, called }) =>
    valueOf(commands.setEvening(called('setEvening'), id, body.isOn, body.tellsEarlier)),
  )
  serve(router, statements, endpoints.noteOnEnquiry, ({ parameters: { id }, body, called }) =>
    valueOf(commands.noteOnEnquiry(called('noteOnEnquiry'), id, body.text)),
  )
}
