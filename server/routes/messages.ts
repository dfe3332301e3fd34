import type { Language } from '#core/model/values.ts'
import type { Router } from 'express'
import { simpleParser } from 'mailparser'
import { instantOfLocal } from '#core/time/localText.ts'
import { aheadStates } from '#core/model/sendState.ts'
import { stepTraits } from '#core/model/step.ts'
import { endpoints } from '#core/api/endpoints.ts'
import type { SendPreview, SendView } from '#core/api/views.ts'
import { checkAtSending, wordsAt, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { letterWritten, sendFactsOf } from '#core/engine/atSending/mergeFacts.ts'
import { isTrouble } from '#core/model/sendState.ts'
import { differingParagraphs } from '#core/letters/alike.ts'
import type { OwnWords } from '#core/model/letter.ts'
import type { Send } from '#core/model/send.ts'
import type { Slice } from '#core/planning/slice.ts'
import { visitsOfSend } from '../db/visitStore.ts'
import { readMessage } from '../db/messageStore.ts'
import { readSend } from '../db/sendStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { businessZone } from './businessTime.ts'
import { decideLines, historyLines, sendLines } from './lines.ts'
import { serve, valueOf } from './route.ts'
import { focusOnSend } from '../db/livingStore.ts'

const gone = 'There is no such message.'

function sendAndSlice(application: Application, id: string): { send: Send; slice: Slice } {
  const send = readSend(application.store.statements, id)
  const slice = send && application.sliceOf(send.clientId, focusOnSend(send))
  if (!send || !slice) throw new Refusal('not found', gone)
  return { send, slice }
}

async function sendView({ application }: RunningApplication, id: string): Promise<SendView> {
  const { statements } = application.store
  const { send, slice } = sendAndSlice(application, id)
  const [line] = sendLines(application, 'lineOfSend', { id })
  if (!line) throw new Refusal('not found', gone)
  const message = readMessage(statements, id)
  const source = message?.source ?? null
  const contact = slice.facts.client.contacts.find((one) => one.id === send.recipientId)
  return {
    ...line,
    send,
    recipientName: sendFactsOf(send, slice)?.recipient?.name ?? '',
    phone: contact?.phone ?? '',
    isToContact: contact !== undefined && stepTraits[send.stepKind].goesTo === 'email',
    history: historyLines(application, 'eventsOfSend', { sendId: id }),
    subject: message?.subject ?? null,
    text: source ? ((await simpleParser(source)).text ?? null) : (message?.text ?? null),
    isSourceKept: source !== null,
    answer: message?.answer ?? null,
    visits: visitsOfSend(statements, id)
      .slice(0, 50)
      .map(({ at, url, isPerson }) => ({ at, url, isPerson })),
  }
}

/** A message as it would leave at the moment it is to go, or why it could not. */
function asItGoes(
  send: Send,
  slice: Slice,
  now: number,
): { message: OutgoingMessage | null; problem: string | null } {
  const meantAt = send.dueAt ?? send.wantedAt
  // What is in trouble is shown as it was meant, at its own moment.
  if (isTrouble(send.state) && meantAt !== null) {
    const message = wordsAt(send, slice, meantAt)
    if (message) return { message, problem: null }
  }
  const verdict = checkAtSending(send, slice, Math.max(now, send.dueAt ?? 0))
  if (verdict.goes) return { message: verdict.message, problem: null }
  return { message: null, problem: verdict.state === null ? null : verdict.reason.sentence }
}

/** Subject and sections of one copy, with what differs for its service, its client and itself, and their language. */
function wordsOfCopy(send: Send, slice: Slice): { words: OwnWords; language: Language } | null {
  const letter = slice.settings.letters.find(({ id }) => id === send.letterId)
  const found = letter && sendFactsOf(send, slice)
  if (!letter || !found) return null
  const { subject, sections, language } = letterWritten(letter, found.of, slice, send.decision.ownWords)
  return { words: { subject, sections }, language }
}

const momentOf = ({ dueAt, wantedAt, stateSince }: Send) => dueAt ?? wantedAt ?? stateSince

/** What the client gets next after a message. */
function nextAfter(send: Send, { facts }: Slice): Send | undefined {
  const coming = facts.sends.filter(
    (one) =>
      aheadStates.includes(one.state) &&
      one.state !== 'waiting' &&
      one.id !== send.id &&
      momentOf(one) >= momentOf(send),
  )
  return coming.toSorted((one, other) => momentOf(one) - momentOf(other))[0]
}

const toTell = ['answered', 'opened', 'followed a link'] as const

/** When the client last answered, opened, followed a link and booked, as far as that is known. */
function didLately({ facts }: Slice): SendPreview['did'] {
  const did = toTell.flatMap((kind) => {
    const last = facts.happenings.findLast((one) => one.kind === kind)
    return last ? [{ kind, at: last.at }] : []
  })
  const made = facts.bookings.map(({ madeAt }) => madeAt)
  return made.length === 0 ? did : [...did, { kind: 'booked', at: Math.max(...made) }]
}

function sendPreview({ application }: RunningApplication, id: string): SendPreview {
  const { send, slice } = sendAndSlice(application, id)
  const { message, problem } = asItGoes(send, slice, application.clock.now())
  const { clientId } = send
  const copy = wordsOfCopy(send, slice)
  const [line] = sendLines(application, 'lineOfSend', { id })
  const [before] = sendLines(application, 'lastGoneOfClient', { clientId })
  const next = nextAfter(send, slice)
  const [after] = next ? sendLines(application, 'lineOfSend', { id: next.id }) : []
  const booking = slice.facts.bookings.find((one) => one.id === send.subject.id)
  return {
    subject: message?.subject ?? '',
    html: message?.html ?? null,
    text: message?.text ?? '',
    problem,
    personalLine: send.decision.personalLine ?? '',
    revision: line?.revision ?? 1,
    words: copy?.words ?? null,
    hasOwnWords: send.decision.ownWords !== null,
    language: copy?.language ?? 'en',
    hasLetter: send.stepKind === 'mail',
    noted: historyLines(application, 'notesOfClient', { clientId, limit: 3 }),
    before: before ?? null,
    after: after ?? null,
    bookingStartAt: booking?.startAt ?? null,
    did: didLately(slice),
    meantAt: send.dueAt ?? send.wantedAt,
    notAfter: send.notAfter,
  }
}

/** More than so many are not decided at once. */
const mostAlike = 200

/** Waiting messages of the same step and letter as one, each with the paragraphs in which it differs from that one. */
function alikeTo({ application }: RunningApplication, id: string) {
  const { send, slice } = sendAndSlice(application, id)
  const now = application.clock.now()
  const first = asItGoes(send, slice, now).message
  const { sequenceId, stepId, letterId } = send
  const rows = application.store.statements.all('alikeIds', {
    id,
    sequenceId,
    stepId,
    letterId,
    limit: mostAlike,
  })
  const others = rows.flatMap((row) => {
    const other = sendAndSlice(application, String(row['id']))
    const { message, problem } = asItGoes(other.send, other.slice, now)
    const [line] = decideLines(application, 'waitingLine', { id: other.send.id })
    return line
      ? [{ line, problem, differing: first && message ? [...differingParagraphs(first, message)] : [] }]
      : []
  })
  return { others }
}

/** Looks a message up in the sent mail of the account; only the built-in post office lets one look. */
function sentMail({ application, postOffice, ways }: RunningApplication, id: string) {
  const { send } = sendAndSlice(application, id)
  const at = postOffice?.takenAt(send.messageId) ?? null
  return { messageId: send.messageId, isFound: ways().isReal ? null : at !== null, at }
}

/** What an act is about, as it was when it was decided on. */
const onMessage = ({ id }: { readonly id: string }, { revision }: { readonly revision: number }) => ({
  id,
  revision,
})

/** Single messages: what is known of them, and what a person can do about them. */
export function messageRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { statements } = application.store
  serve(router, statements, endpoints.send, ({ parameters }) => sendView(running, parameters.id))
  serve(router, statements, endpoints.sendPreview, ({ parameters }) => sendPreview(running, parameters.id))
  serve(router, statements, endpoints.alike, ({ parameters }) => alikeTo(running, parameters.id))
  serve(router, statements, endpoints.sentMail, ({ parameters }) => sentMail(running, parameters.id))
  serve(router, statements, endpoints.writePersonalLine, ({ parameters, body, called }) =>
    valueOf(commands.writePersonalLine(called('writePersonalLine'), onMessage(parameters, body), body.line)),
  )
  serve(router, statements, endpoints.writeOwnWords, ({ parameters, body, called }) =>
    valueOf(commands.writeOwnWords(called('writeOwnWords'), onMessage(parameters, body), body.ownWords)),
  )
  serve(router, statements, endpoints.decideSend, ({ parameters, body, called }) =>
    valueOf(commands.decideSend(called('decideSend'), onMessage(parameters, body), body.decision)),
  )
  serve(router, statements, endpoints.postponeSend, ({ parameters, body, called }) =>
    valueOf(
      commands.postponeSend(
        called('postponeSend'),
        onMessage(parameters, body),
        instantOfLocal(businessZone(application), body.toLocal),
      ),
    ),
  )
  serve(router, statements, endpoints.mendAddress, ({ parameters, body, called }) =>
    valueOf(commands.mendAddress(called('mendAddress'), onMessage(parameters, body), body.address)),
  )
  serve(router, statements, endpoints.sendByLetter, ({ parameters, body, called }) =>
    valueOf(commands.sendByLetter(called('sendByLetter'), onMessage(parameters, body), body.letterId)),
  )
}
