import { z } from 'zod'
import { personId } from '../model/business.ts'
import { clientId } from '../model/client.ts'
import { incoming, incomingId, incomingPlace, incomingWhat } from '../model/incoming.ts'
import { proposal } from '../model/proposal.ts'
import { undelivered } from '../model/undelivered.ts'
import { emailAddress, instant } from '../model/values.ts'
import { answerInput, writtenAnswer, writtenAnswerId } from '../model/writtenAnswer.ts'
import { ask, changed, command, commandOn, made, part, tell } from './described.ts'
import { partOf, sendLine } from './views.ts'

/** A mail that came in as lists show it. */
export const incomingLine = z.object({
  id: incomingId,
  at: instant,
  from: z.string(),
  subject: z.string(),
  what: incomingWhat,
  match: incoming.shape.match,
  /** Null: it is not known whose it is. */
  clientName: z.string().nullable(),
  followed: z.array(z.string()),
  place: incomingPlace.nullable(),
  doneAt: instant.nullable(),
  personName: z.string().nullable(),
})
export type IncomingLine = z.infer<typeof incomingLine>

const writtenAnswerView = writtenAnswer
  .omit({ quoted: true, references: true })
  .extend({ personName: z.string().nullable() })
export type WrittenAnswerView = z.infer<typeof writtenAnswerView>

/** One mail with all that there is to know of it. */
export const incomingView = incoming.extend({
  clientName: z.string().nullable(),
  personName: z.string().nullable(),
  candidates: z.array(z.object({ id: clientId, name: z.string() })),
  /** What the person wrote without what they quote. */
  ownWords: z.string(),
  /** The message it is about; null: none is known. */
  send: sendLine.nullable(),
  /** What it seems to want; null: it is no answer, or nobody knows whose. */
  read: z
    .object({
      sentence: z.string(),
      /** Where the words stand that say so, within its own words. */
      marks: z.array(z.object({ from: z.number().int(), to: z.number().int() })),
      proposal: proposal.nullable(),
      /** What the proposed act is called. */
      words: z.string().nullable(),
    })
    .nullable(),
  /** What of an address is known; null: messages go there. */
  undelivered: undelivered.nullable(),
  /** All messages that wait because nothing goes to that address. */
  blocked: z.array(sendLine),
  /** Whom to call. */
  phone: z.string(),
  answers: z.array(writtenAnswerView),
  /** What the subject of an answer would be. */
  answerSubject: z.string(),
})
export type IncomingView = z.infer<typeof incomingView>

/** What came in: read, told whose it is, answered. */
export const incomingEndpoints = {
  deskIncoming: ask({
    path: '/api/desk/came-in/:place',
    summary: 'Mail that came in and needs a person, by where it stands on the Desk; a part of it',
    query: z.object(part).strict(),
    answer: partOf(incomingLine),
  }),
  incoming: ask({ path: '/api/incoming/:id', summary: 'One mail that came in', answer: incomingView }),
  incomingOfClient: ask({
    path: '/api/clients/:id/mail',
    summary: 'Mail of a client, and what the team wrote in answer; the newest first',
    answer: z.object({
      incoming: z.array(incomingLine),
      answers: z.array(writtenAnswerView),
      undelivered: z.array(undelivered),
    }),
  }),
  finishIncoming: tell({
    path: '/api/incoming/:id/done',
    summary: 'Be done with a mail that came in, or take it up again',
    body: z.object({ ...commandOn, isDone: z.boolean() }).strict(),
    answer: changed,
  }),
  handIncomingOn: tell({
    path: '/api/incoming/:id/person',
    summary: 'Hand a mail that came in on to a colleague',
    body: z.object({ ...commandOn, personId: personId.nullable() }).strict(),
    answer: changed,
  }),
  chooseIncomingClient: tell({
    path: '/api/incoming/:id/client',
    summary: 'Say whose a mail that came in is',
    body: z.object({ ...commandOn, clientId }).strict(),
    answer: changed,
  }),
  countAsAnswer: tell({
    path: '/api/incoming/:id/counts',
    summary: 'Say that a mail that came in is an answer of its client',
    body: z.object(commandOn).strict(),
    answer: changed,
  }),
  actOnIncoming: tell({
    path: '/api/incoming/:id/act',
    summary: 'Do what an answer was read to ask for',
    body: z.object({ ...commandOn, proposal }).strict(),
    answer: changed,
  }),
  writeAnswer: tell({
    path: '/api/incoming/:id/answer',
    summary: 'Answer a mail that came in, in its thread',
    body: z.object({ ...commandOn, answer: answerInput }).strict(),
    answer: changed,
  }),
  sendAnswerAgain: tell({
    path: '/api/answers/:id/again',
    summary: 'Send an answer once more that failed, or of which nobody knows whether it went',
    body: z.object(command).strict(),
    answer: z.object({ id: writtenAnswerId }),
  }),
  unblockAddress: tell({
    path: '/api/clients/:id/address-works',
    summary: 'Let messages go to an address again from which they came back',
    body: z.object({ ...command, address: emailAddress }).strict(),
    answer: made,
  }),
} as const
