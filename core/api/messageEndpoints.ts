import { z } from 'zod'
import { sendDecision } from '../engine/commands/sendCommands.ts'
import { letterId, ownWords } from '../model/letter.ts'
import { sendId, sendState } from '../model/send.ts'
import { sourcesKeptMonths } from '../model/sourcesKept.ts'
import { instant, isoDate, localDateTime } from '../model/values.ts'
import { ask, change, changed, command, commandOn, largeFile, part, tell } from './described.ts'
import { taskLine } from './taskEndpoints.ts'
import { announcement, manyAnswer } from './announcements.ts'
import {
  alike,
  decideLine,
  desk,
  forecast,
  load,
  partOf,
  sendLine,
  sendPreview,
  sendView,
  sentMail,
} from './views.ts'

/** Which messages a list shows. The last day is included. */
const sendsAsked = {
  from: isoDate,
  to: isoDate,
  states: z
    .string()
    .transform((text) => text.split(','))
    .pipe(z.array(sendState)),
  clientId: z.string().optional(),
  serviceId: z.string().optional(),
  sequenceId: z.string().optional(),
  letterId: z.string().optional(),
}

const sendIds = z.array(sendId).min(1, 'Choose messages first.').max(500, 'At most 500 messages at once.')

/** One thing to do with many messages. */
const manyAct = z.discriminatedUnion('act', [
  z.object({ act: z.enum(['hold back', 'release', 'skip', 'send now']) }).strict(),
  z.object({ act: z.literal('move'), toLocal: localDateTime }).strict(),
])
export type AskedManyAct = z.infer<typeof manyAct>

/** Messages: what waits and what went wrong, all that is ahead, and what a person can do about it. */
export const messageEndpoints = {
  desk: ask({ path: '/api/desk', summary: 'How much needs a person now and went out today', answer: desk }),
  deskWaiting: ask({
    path: '/api/desk/decide',
    summary: 'Messages that wait for a person, those with the least time left first; a part of them',
    query: z.object({ ...part, id: sendId.optional() }).strict(),
    answer: partOf(decideLine),
  }),
  deskMessages: ask({
    path: '/api/desk/messages/:group',
    summary:
      'Messages in trouble (trouble), gone today (went-out) or still to go (still-today); a part of them',
    query: z.object(part).strict(),
    answer: partOf(sendLine),
  }),
  deskTasks: ask({
    path: '/api/desk/to-do',
    summary: 'Open tasks, the earliest first; a part of them',
    query: z.object(part).strict(),
    answer: partOf(taskLine),
  }),
  sends: ask({
    path: '/api/sends',
    summary: 'Messages within some dates, by state, client, service, sequence and letter; a part of them',
    query: z
      .object({
        ...sendsAsked,
        offset: z.coerce.number().int().min(0).default(0),
        limit: z.coerce.number().int().min(1).max(500).default(200),
      })
      .strict(),
    answer: z.object({ sends: z.array(sendLine) }),
  }),
  sendDays: ask({
    path: '/api/sends/days',
    summary: 'How many messages each day has, with the same choice as the list',
    query: z.object(sendsAsked).strict(),
    answer: z.object({ days: z.array(z.object({ on: isoDate, count: z.number().int() })) }),
  }),
  load: ask({
    path: '/api/load',
    summary: "How much goes out day by day, against the mail account's allowance, and who gets much",
    query: z.object({ from: isoDate, to: isoDate }).strict(),
    answer: load,
  }),
  forecast: ask({
    path: '/api/forecast',
    summary: "What the mail account's allowance will hold back",
    answer: forecast,
  }),
  sourcesKept: ask({
    path: '/api/sources-kept',
    summary: 'For how long e-mails are kept as they went, and how many are older than some months',
    query: z.object({ months: z.coerce.number().int().min(1).max(600).optional() }).strict(),
    answer: z.object({ months: sourcesKeptMonths, older: z.number().int() }),
  }),
  setSourcesKept: change({
    path: '/api/sources-kept',
    summary: 'Set for how long e-mails are kept as they went',
    body: z.object({ ...command, months: sourcesKeptMonths }).strict(),
    answer: z.object({ months: sourcesKeptMonths }),
    access: 'owner',
  }),
  send: ask({ path: '/api/sends/:id', summary: 'One message with its trace', answer: sendView }),
  sendPreview: ask({
    path: '/api/sends/:id/preview',
    summary: 'A message as its recipient will see it',
    answer: sendPreview,
  }),
  alike: ask({
    path: '/api/sends/:id/alike',
    summary: 'Waiting messages of the same step, each with the lines in which it differs',
    answer: alike,
  }),
  sentMail: ask({
    path: '/api/sends/:id/sent-mail',
    summary: "Whether a message is in the mail account's sent mail, looked up by its Message-ID",
    answer: sentMail,
  }),
  writePersonalLine: change({
    path: '/api/sends/:id/personal-line',
    summary: 'A line for this copy only',
    body: z.object({ ...commandOn, line: z.string().max(2000, 'At most 2,000 characters.') }).strict(),
    answer: changed,
  }),
  writeOwnWords: change({
    path: '/api/sends/:id/own-words',
    summary: "Other words for this copy only; null: the letter's again",
    body: z.object({ ...commandOn, ownWords: ownWords.nullable() }).strict(),
    answer: changed,
  }),
  compareSent: tell({
    path: '/api/sent-mail',
    summary: 'Note as gone what stands in the sent mail of an account (mbox), as after a backup was put back',
    body: z.object({ ...command, base64: largeFile }).strict(),
    answer: z.object({
      noted: z.number().int(),
      known: z.number().int(),
      /** Went out from here and nothing is known of it; the first ones. */
      unknown: z.array(z.object({ to: z.string(), at: instant.nullable() })),
      unknownCount: z.number().int(),
      /** Mails in the file that are none of this house's. */
      others: z.number().int(),
    }),
    access: 'owner',
  }),
  decideSend: tell({
    path: '/api/sends/:id/decision',
    summary: 'Decide about a message: send it now, skip it, or say that it went',
    body: z.object({ ...commandOn, decision: sendDecision }).strict(),
    answer: changed,
  }),
  postponeSend: tell({
    path: '/api/sends/:id/postpone',
    summary: 'Put a message off to a later moment of business time',
    body: z.object({ ...commandOn, toLocal: localDateTime }).strict(),
    answer: changed,
  }),
  mendAddress: tell({
    path: '/api/sends/:id/address',
    summary: 'Give the contact another address and send what did not get through',
    body: z.object({ ...commandOn, address: z.string().max(254) }).strict(),
    answer: changed,
  }),
  sendByLetter: tell({
    path: '/api/sends/:id/letter',
    summary: 'Send what did not go with another letter, now',
    body: z.object({ ...commandOn, letterId }).strict(),
    answer: changed,
  }),
  askAboutSends: tell({
    path: '/api/sends/consequences',
    summary: 'What one act on many messages would do; nothing is done',
    body: z.object({ ids: sendIds, act: manyAct }).strict(),
    answer: announcement.extend(manyAnswer.shape),
    isRecorded: false,
  }),
  actOnSends: tell({
    path: '/api/sends/acts',
    summary: 'One act on many messages, as it was announced',
    body: z.object({ ...command, ids: sendIds, act: manyAct }).strict(),
    answer: manyAnswer,
  }),
} as const
