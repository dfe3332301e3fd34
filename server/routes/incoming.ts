import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { IncomingLine, IncomingView, WrittenAnswerView } from '#core/api/incomingEndpoints.ts'
import { answerSubject } from '#core/engine/commands/answerCommands.ts'
import { proposalWords, proposedFor } from '#core/engine/commands/proposals.ts'
import { ownWordsOf } from '#core/incoming/ownWords.ts'
import { readAnswer } from '#core/incoming/readAnswer.ts'
import { primaryContact } from '#core/model/client.ts'
import { incomingPlace, type Incoming } from '#core/model/incoming.ts'
import { writtenAnswer, type WrittenAnswer } from '#core/model/writtenAnswer.ts'
import { addressBlockedCode } from '#core/planning/reasons.ts'
import { dayAt } from '#core/time/zones.ts'
import { presentClientId } from '../db/clientMerges.ts'
import { readClient } from '../db/clientStore.ts'
import {
  answersTo,
  answersToClient,
  incomingAtDesk,
  incomingOfClient,
  incomingSource,
  readIncoming,
  undeliveredOfClient,
} from '../db/incomingStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { sendLines } from './lines.ts'
import { inParts } from './parts.ts'
import { give, serve, valueOf } from './route.ts'

const noMail = 'There is no such mail.'

const nameOfClient = ({ store: { statements } }: Application, id: string | null) =>
  id === null ? null : (readClient(statements, presentClientId(statements, id))?.name ?? null)

const nameOfPerson = ({ settings }: Application, id: string | null) =>
  settings.required().people.find((one) => one.id === id)?.name ?? null

const lineOf =
  (application: Application) =>
  ({ id, at, from, subject, what, match, followed, place, doneAt, personId }: Incoming): IncomingLine => ({
    id,
    at,
    from: from.name || from.address,
    subject,
    what,
    match,
    clientName: nameOfClient(application, match.clientId),
    followed,
    place,
    doneAt,
    personName: nameOfPerson(application, personId),
  })

/** A page needs no quoted mail twice. */
const shownAnswer = writtenAnswer.omit({ quoted: true, references: true }).strip()

const answerView =
  (application: Application) =>
  (answer: WrittenAnswer): WrittenAnswerView => ({
    ...shownAnswer.parse(answer),
    personName: nameOfPerson(application, answer.personId),
  })

/** What an answer seems to want. */
function readOf(application: Application, incoming: Incoming): IncomingView['read'] {
  const { match, what } = incoming
  if (what.kind !== 'answer' || match.clientId === null || match.isFromTeam) return null
  const slice = application.sliceOf(
    presentClientId(application.store.statements, match.clientId),
    'everything',
  )
  if (!slice) return null
  const { zones, business } = slice.settings
  const now = application.clock.now()
  // Dates are seen from the day on which it came.
  const read = readAnswer(
    incoming.text,
    dayAt(zones.zone(business.zone), incoming.at),
    slice.facts.client.language,
  )
  const { sentence, proposal } = proposedFor(slice, incoming, read, now)
  return {
    sentence,
    marks: [...read.marks],
    proposal,
    words: proposal && proposalWords(proposal, slice),
  }
}

/** What is known of the address of a client that messages came back from, and all that waits because of it. */
function blockedOf(application: Application, { match, what }: Incoming) {
  const { statements } = application.store
  const nothing = { undelivered: null, blocked: [] }
  if (match.clientId === null || what.kind !== 'delivery report') return nothing
  const clientId = presentClientId(statements, match.clientId)
  const undelivered = undeliveredOfClient(statements, clientId).find(({ isBlocked }) => isBlocked) ?? null
  const blocked = sendLines(application, 'troubleOfClient', { clientId }).filter(
    ({ reason }) => reason?.code === addressBlockedCode,
  )
  return { undelivered, blocked }
}

function viewOf(application: Application, incoming: Incoming): IncomingView {
  const { statements } = application.store
  const { match } = incoming
  const client =
    match.clientId === null ? null : readClient(statements, presentClientId(statements, match.clientId))
  return {
    ...incoming,
    clientName: client?.name ?? null,
    personName: nameOfPerson(application, incoming.personId),
    candidates: match.candidateIds.flatMap((id) => {
      const name = nameOfClient(application, id)
      return name === null ? [] : [{ id: presentClientId(statements, id), name }]
    }),
    ownWords: ownWordsOf(incoming.text).slice(0, 4000),
    send: (match.sendId !== null && sendLines(application, 'lineOfSend', { id: match.sendId })[0]) || null,
    read: readOf(application, incoming),
    ...blockedOf(application, incoming),
    phone: client ? primaryContact(client).phone : '',
    answers: answersTo(statements, incoming.id).map(answerView(application)),
    answerSubject: answerSubject(incoming.subject).slice(0, 200),
  }
}

/** What was asked for by its id. */
function required(application: Application, id: string): Incoming {
  const incoming = readIncoming(application.store.statements, id)
  if (!incoming) throw new Refusal('not found', noMail)
  return incoming
}

function listRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.deskIncoming, ({ parameters, query }) =>
    inParts<IncomingLine>(query, (asked) =>
      incomingAtDesk(statements, { ...asked, place: incomingPlace.parse(parameters.place) }).map(
        lineOf(application),
      ),
    ),
  )
  serve(router, statements, endpoints.incoming, ({ parameters }) =>
    viewOf(application, required(application, parameters.id)),
  )
  serve(router, statements, endpoints.incomingOfClient, ({ parameters: { id } }) => ({
    incoming: incomingOfClient(statements, id, 100).map(lineOf(application)),
    answers: answersToClient(statements, id).map(answerView(application)),
    undelivered: [...undeliveredOfClient(statements, id)],
  }))
}

/** Nothing of a mail may run, load or be taken for a page of this house. */
const frameRules =
  "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'self'"

function fileRoutes(router: Router, { application, incoming: { reader } }: RunningApplication) {
  const { statements } = application.store
  const sourceOf = (id: string) => {
    const source = incomingSource(statements, id)
    if (!source) throw new Refusal('not found', noMail)
    return source
  }
  give(router, statements, fileEndpoints.incomingMail, ({ parameters, response }) => {
    response.type('message/rfc822').attachment(`${parameters.id}.eml`).send(sourceOf(parameters.id))
  })
  give(router, statements, fileEndpoints.incomingHtml, async ({ parameters, response }) => {
    const html = await reader.html(sourceOf(parameters.id))
    if (html === null) throw new Refusal('not found', 'This mail has no HTML part.')
    response.set('Content-Security-Policy', frameRules)
    response.type('text/html').send(html)
  })
  give(router, statements, fileEndpoints.incomingFile, async ({ parameters, response }) => {
    const file = await reader.file(sourceOf(parameters.id), Number(parameters.index))
    if (!file) throw new Refusal('not found', 'There is no such file in this mail.')
    response.set('Content-Security-Policy', frameRules)
    response.set('X-Content-Type-Options', 'nosniff')
    response.type('application/octet-stream').attachment(file.name).send(Buffer.from(file.bytes))
  })
}

/** Mail that came in: lists, one of it, and what a person does about it. */
export function incomingRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  listRoutes(router, running)
  fileRoutes(router, running)
  const on = ({ id }: { readonly id: string }, { revision }: { readonly revision: number }) => ({
    id,
    revision,
  })
  serve(router, statements, endpoints.finishIncoming, ({ parameters, body, called }) =>
    valueOf(commands.finishIncoming(called('finishIncoming'), on(parameters, body), body.isDone)),
  )
  serve(router, statements, endpoints.handIncomingOn, ({ parameters, body, called }) =>
    valueOf(commands.handIncomingOn(called('handIncomingOn'), on(parameters, body), body.personId)),
  )
  serve(router, statements, endpoints.chooseIncomingClient, ({ parameters, body, called }) =>
    valueOf(
      commands.chooseIncomingClient(called('chooseIncomingClient'), on(parameters, body), body.clientId),
    ),
  )
  serve(router, statements, endpoints.countAsAnswer, ({ parameters, body, called }) =>
    valueOf(commands.countAsAnswer(called('countAsAnswer'), on(parameters, body))),
  )
  serve(router, statements, endpoints.actOnIncoming, ({ parameters, body, called }) =>
    valueOf(commands.actOnIncoming(called('actOnIncoming'), on(parameters, body), body.proposal)),
  )
  serve(router, statements, endpoints.writeAnswer, ({ parameters, body, called }) =>
    valueOf(commands.writeAnswer(called('writeAnswer'), on(parameters, body), body.answer)),
  )
  serve(router, statements, endpoints.sendAnswerAgain, ({ parameters, called }) =>
    valueOf(commands.sendAnswerAgain(called('sendAnswerAgain'), parameters.id)),
  )
  serve(router, statements, endpoints.unblockAddress, ({ parameters, body, called }) =>
    valueOf(commands.unblockAddress(called('unblockAddress'), parameters.id, body.address)),
  )
}
