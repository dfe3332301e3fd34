import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { Run } from '#core/model/sequence.ts'
import { hasSomethingToDo } from '#core/planning/atRest.ts'
import { serviceOf } from '#core/planning/slice.ts'
import type { ClientLine, ClientView, DoubleLine } from '#core/api/views.ts'
import { sameAs } from '#core/tables/doubles.ts'
import { folded } from '#core/model/folded.ts'
import { clientsToCompare } from '../db/clientImports.ts'
import { mergesOfClient, presentClientId } from '../db/clientMerges.ts'
import { isSet } from '../db/columns.ts'
import type { Statements } from '../db/statements.ts'
import { onlyLiving } from '../db/livingStore.ts'
import { isUnnoticed } from '../db/visitStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { bookingLine, historyLines, sendLines, taskLines } from './lines.ts'
import { Refusal } from '../http/problems.ts'
import { askedOf, asking, serve, valueOf } from './route.ts'
import { inParts } from './parts.ts'

/** So many who may be the same are shown. */
const mostDoubles = 10

function clientLine(row: Record<string, unknown>): ClientLine {
  return {
    ...(row as unknown as ClientLine),
    isActive: isSet(row['isActive']),
    tags: typeof row['tags'] === 'string' ? row['tags'].split(', ') : [],
  }
}

function clientView({ application }: RunningApplication, asked: string): ClientView {
  const { statements } = application.store
  const id = presentClientId(statements, asked)
  const slice = application.sliceOf(id, onlyLiving)
  if (!slice) throw new Refusal('not found', 'There is no such client.')
  const { settings, facts } = slice
  const isAtWork = (run: Run) =>
    hasSomethingToDo(
      run,
      facts.sends.filter(({ runId }) => runId === run.id),
      settings,
    )
  return {
    client: facts.client,
    isNoticed: settings.noticing.links || settings.noticing.opens ? !isUnnoticed(statements, id) : null,
    runs: facts.runs.filter(isAtWork).map((run) => {
      const sequence = settings.sequences.find(({ id: own }) => own === run.sequenceId)
      const booking = facts.bookings.find(({ id: own }) => own === run.subject.id)
      return {
        run,
        sequenceName: sequence?.name ?? run.sequenceId,
        sequenceState: sequence?.state ?? 'draft',
        serviceName: booking ? serviceOf(settings, booking.serviceId).name : null,
      }
    }),
    variations: [...facts.variations],
    tasks: taskLines(application, 'taskLinesOfClient', { clientId: id }),
    merges: mergesOfClient(statements, id).map(({ id: mergeId, at, gone, personId }) => ({
      id: mergeId,
      at,
      name: gone.name,
      personName: settings.people.find((one) => one.id === personId)?.name ?? null,
    })),
  }
}

/** Who may be the same client as another, the oldest first. */
const doublesOf = (statements: Statements, id: string): DoubleLine[] =>
  sameAs(clientsToCompare(statements), id)
    .slice(0, mostDoubles)
    .map(({ one: { id: otherId, name, contacts }, by }) => ({
      id: otherId,
      name,
      email: contacts.find(({ email }) => email !== null)?.email ?? null,
      sameBy: by,
    }))

/** Two clients who are one. */
function mergeRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.doublesOfClient, ({ parameters: { id } }) => ({
    doubles: doublesOf(statements, id),
  }))
  serve(router, statements, endpoints.mergeClients, ({ parameters: { id }, body, called }) => {
    const { revision, otherId, otherRevision } = body
    const other = { id: otherId, revision: otherRevision }
    return valueOf(commands.mergeClients(called('mergeClients'), { id, revision }, other))
  })
  serve(router, statements, endpoints.takeMergeBack, ({ parameters, called }) =>
    valueOf(commands.takeMergeBack(called('takeMergeBack'), parameters.id)),
  )
}

/** What there is of a client, part by part, the newest first. */
function listsOfClient(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.bookingsOfClient, ({ parameters: { id: clientId }, query }) =>
    inParts(query, (asked) => {
      const settings = application.settings.required()
      const rows = statements.all('bookingLinesOfClient', { clientId, ...asked })
      return rows.map((row) => bookingLine(settings, row))
    }),
  )
  serve(router, statements, endpoints.sendsOfClient, ({ parameters: { id: clientId }, query }) =>
    inParts(query, (asked) => sendLines(application, 'listOfClient', { clientId, ...asked })),
  )
  serve(router, statements, endpoints.historyOfClient, ({ parameters: { id: clientId }, query }) =>
    inParts(query, (asked) => historyLines(application, 'eventsOfClient', { clientId, ...asked })),
  )
}

export function clientRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.clients, ({ query: { words, which, ...query } }) => {
    const asked = { now: application.clock.now(), words: folded(words.trim()), which }
    const part = inParts(query, (of) => statements.all('listClients', { ...asked, ...of }).map(clientLine))
    return { ...part, isAny: statements.one('anyClient') !== undefined }
  })
  serve(router, statements, endpoints.clientName, ({ parameters }) => {
    const found = statements.one('nameOfClient', { id: presentClientId(statements, parameters.id) })
    if (!found) throw new Refusal('not found', 'There is no such client.')
    return { id: String(found['id']), name: String(found['name']) }
  })
  listsOfClient(router, running)
  mergeRoutes(router, running)
  serve(router, statements, endpoints.client, ({ parameters }) => clientView(running, parameters.id))
  serve(router, statements, endpoints.addClient, ({ body, called }) =>
    valueOf(commands.addClient(called('addClient'), body.client)),
  )
  serve(router, statements, endpoints.changeClient, ({ parameters, body, called }) =>
    valueOf(commands.changeClient(called('changeClient'), parameters.id, body.revision, body.client)),
  )
  serve(router, statements, endpoints.askAboutClient, ({ parameters: { id }, body, personId }) => {
    const call = asking('changeClient', personId)
    return askedOf(() => valueOf(commands.changeClient(call, id, body.revision, body.client))).announcement
  })
  serve(router, statements, endpoints.stopSequence, ({ parameters, body, called }) =>
    valueOf(commands.stopSequence(called('stopSequence'), parameters.id, body.sequenceId)),
  )
  serve(router, statements, endpoints.resumeSequence, ({ parameters, body, called }) =>
    valueOf(commands.resumeSequence(called('resumeSequence'), parameters.id, body.sequenceId)),
  )
  serve(router, statements, endpoints.noticeClient, ({ parameters, body, called }) =>
    valueOf(commands.noticeClient(called('noticeClient'), parameters.id, body.isNoticed)),
  )
  serve(router, statements, endpoints.holdBackClient, ({ parameters, body, called }) =>
    valueOf(commands.holdBackClient(called('holdBackClient'), parameters.id, body.isHeldBack)),
  )
}
