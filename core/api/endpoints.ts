import { z } from 'zod'
import { clientInput } from '../engine/commands/clientCommands.ts'
import { accountId } from '../model/furtherAccount.ts'
import { service } from '../model/business.ts'
import { sequenceId } from '../model/step.ts'
import { emailAddress, localDateTime, requiredLine } from '../model/values.ts'
import { clientId } from '../model/client.ts'
import { clientReaction } from '../model/clientReaction.ts'
import { newPassword, signInCode } from '../model/wayIn.ts'
import { ask, change, changed, command, commandOn, end, made, nothing, part, tell } from './described.ts'
import { bookingEndpoints } from './bookingEndpoints.ts'
import { backupEndpoints } from './backupEndpoints.ts'
import { enquiryEndpoints } from './enquiryEndpoints.ts'
import { documentEndpoints } from './documentEndpoints.ts'
import { formEndpoints } from './formEndpoints.ts'
import { moveEndpoints } from './moveEndpoints.ts'
import { calendarEndpoints } from './calendarEndpoints.ts'
import { callEndpoints } from './callEndpoints.ts'
import { mailAccountEndpoints } from './mailAccountEndpoints.ts'
import { incomingEndpoints } from './incomingEndpoints.ts'
import { keyEndpoints } from './keyEndpoints.ts'
import { mailbox, mailView } from './mailboxViews.ts'
import { mailboxEndpoints } from './mailboxEndpoints.ts'
import { letterEndpoints } from './letterEndpoints.ts'
import { messageEndpoints } from './messageEndpoints.ts'
import { sequenceEndpoints } from './sequenceEndpoints.ts'
import { settingsEndpoints } from './settingsEndpoints.ts'
import { tableEndpoints } from './tableEndpoints.ts'
import { taskEndpoints } from './taskEndpoints.ts'
import { teamEndpoints } from './teamEndpoints.ts'
import { actEndpoints } from './actEndpoints.ts'
import { announcement } from './announcements.ts'
import {
  bookingLine,
  clientLine,
  clientView,
  doubleLine,
  foundLine,
  historyLine,
  sendLine,
  overview,
  ribbon,
  sessionLine,
  sessionView,
  settingsView,
  partOf,
} from './views.ts'

export const clockTarget = z.discriminatedUnion('to', [
  z.object({ to: z.literal('next message') }).strict(),
  z.object({ to: z.literal('hour') }).strict(),
  z.object({ to: z.literal('day') }).strict(),
  z.object({ to: z.literal('date'), local: localDateTime }).strict(),
])
export type ClockTarget = z.infer<typeof clockTarget>

export const firstRunInput = z
  .object({
    /** Shown in the terminal: who sets a business up has started it. */
    word: requiredLine(40, 'Type the word that stands in the terminal where Vorfreude was started.'),
    businessName: requiredLine(120, 'The business needs a name.'),
    zone: requiredLine(60, 'Choose the time zone of the business.'),
    senderAddress: emailAddress,
    postalAddress: requiredLine(300, 'Give the postal address; messages carry it.'),
    phone: z.string().trim().max(60),
    personName: requiredLine(120, 'Give your name.'),
    personEmail: emailAddress,
    password: newPassword,
    /** Null: what can be booked is said later. */
    service: service.pick({ name: true, place: true, durationMinutes: true, seats: true }).nullable(),
  })
  .strict()
export type FirstRunInput = z.infer<typeof firstRunInput>

/** Everything the server can be asked. */
export const endpoints = {
  ...bookingEndpoints,
  ...enquiryEndpoints,
  ...documentEndpoints,
  ...formEndpoints,
  ...moveEndpoints,
  ...actEndpoints,
  ...backupEndpoints,
  ...calendarEndpoints,
  ...mailAccountEndpoints,
  ...mailboxEndpoints,
  ...letterEndpoints,
  ...messageEndpoints,
  ...tableEndpoints,
  ...taskEndpoints,
  ...sequenceEndpoints,
  ...settingsEndpoints,
  ...teamEndpoints,
  ...incomingEndpoints,
  ...keyEndpoints,
  ...callEndpoints,
  session: ask({ path: '/api/session', summary: 'Who is signed in', answer: sessionView, access: 'anybody' }),
  signIn: tell({
    path: '/api/session',
    summary: 'Sign in with e-mail address and password',
    body: z
      .object({ email: z.string().max(254), password: z.string().max(200), code: signInCode.optional() })
      .strict(),
    answer: sessionView,
    access: 'anybody',
    isRecorded: false,
  }),
  signInToDemo: tell({
    path: '/api/session/demo',
    summary: 'Sign in as one of the people of the demo',
    body: z.object({ personId: z.string() }).strict(),
    answer: sessionView,
    access: 'anybody',
    isRecorded: false,
  }),
  signOut: end({
    path: '/api/session',
    summary: 'Sign out',
    answer: nothing,
    access: 'signed in',
    byKey: false,
  }),
  changePassword: tell({
    path: '/api/session/password',
    summary: 'Change the password of the person who asks; their other sessions end',
    body: z.object({ present: z.string().max(200), password: newPassword }).strict(),
    answer: nothing,
    access: 'signed in',
    byKey: false,
  }),
  sessions: ask({
    path: '/api/sessions',
    summary: 'Where the person who asks is signed in',
    answer: z.object({ sessions: z.array(sessionLine) }),
    byKey: false,
  }),
  endSession: end({
    path: '/api/sessions/:id',
    summary: 'Sign out elsewhere: end one session of the person who asks',
    answer: nothing,
    access: 'signed in',
    byKey: false,
  }),
  firstRun: tell({
    path: '/api/first-run',
    summary: 'Set up an empty database: the business, the first person and the first service',
    body: firstRunInput,
    answer: sessionView,
    access: 'anybody',
    isRecorded: false,
  }),

  overview: ask({ path: '/api/overview', summary: 'Clock, switch and counts', answer: overview }),
  ribbon: ask({
    path: '/api/ribbon',
    summary: 'Three days back to three weeks ahead, day by day',
    answer: ribbon,
  }),
  settings: ask({
    path: '/api/settings',
    summary: 'Services, people and letters to choose from',
    answer: settingsView,
  }),

  find: ask({
    path: '/api/find',
    summary: 'Clients, bookings, letters and sequences by name, address or date',
    query: z.object({ text: z.string().max(200) }).strict(),
    answer: z.object({ found: z.array(foundLine) }),
  }),

  moveClock: tell({
    path: '/api/clock/move',
    summary: "Move the demo's clock forward",
    body: clockTarget,
    answer: z.object({ target: z.number() }),
  }),
  stopClock: tell({
    path: '/api/clock/stop',
    summary: "Stop the moving demo's clock where it is",
    answer: nothing,
  }),
  trustClock: tell({
    path: '/api/clock/trust',
    summary: "Say that the machine's clock, which has jumped, is right",
    body: z.object({ machineAt: z.number() }).strict(),
    answer: nothing,
    access: 'owner',
  }),
  tryAccount: tell({
    path: '/api/sending/try',
    summary: 'Try a mail account now that takes nothing',
    body: z.object({ accountId }).strict(),
    answer: z.object({ sentence: z.string().nullable() }),
  }),
  setSending: tell({
    path: '/api/sending',
    summary: 'Hold all sending back, or switch it on',
    body: z.object({ ...command, isOn: z.boolean() }).strict(),
    answer: z.object({ isOn: z.boolean(), missed: z.number().int() }),
    access: 'owner',
  }),

  clients: ask({
    path: '/api/clients',
    summary:
      'Clients by name, those found by some words, with a booking ahead or without an address; a part of them',
    query: z
      .object({
        ...part,
        words: z.string().max(200).default(''),
        which: z.enum(['all', 'booked', 'no-address']).default('all'),
      })
      .strict(),
    answer: partOf(clientLine).extend({ isAny: z.boolean() }),
  }),
  clientName: ask({
    path: '/api/clients/:id/name',
    summary: 'The name of a client',
    answer: z.object({ id: clientId, name: z.string() }),
  }),
  client: ask({
    path: '/api/clients/:id',
    summary: 'One client, and what is at work for them',
    answer: clientView,
  }),
  bookingsOfClient: ask({
    path: '/api/clients/:id/bookings',
    summary: 'The bookings of a client, the newest first; a part of them',
    query: z.object(part).strict(),
    answer: partOf(bookingLine),
  }),
  sendsOfClient: ask({
    path: '/api/clients/:id/sends',
    summary: 'The messages of a client, the newest first; a part of them',
    query: z.object(part).strict(),
    answer: partOf(sendLine),
  }),
  historyOfClient: ask({
    path: '/api/clients/:id/history',
    summary: 'What happened with a client, the newest first; a part of it',
    query: z.object(part).strict(),
    answer: partOf(historyLine),
  }),
  addClient: tell({
    path: '/api/clients',
    summary: 'Add a client',
    body: z.object({ ...command, client: clientInput }).strict(),
    answer: made,
  }),
  changeClient: change({
    path: '/api/clients/:id',
    summary: "Change a client's data",
    body: z.object({ ...commandOn, client: clientInput }).strict(),
    answer: changed,
  }),
  askAboutClient: tell({
    path: '/api/clients/:id/consequences',
    summary: 'What other data of a client would do; nothing is done',
    body: z.object({ revision: commandOn.revision, client: clientInput }).strict(),
    answer: announcement,
    isRecorded: false,
  }),
  doublesOfClient: ask({
    path: '/api/clients/:id/doubles',
    summary: 'Who may be the same client, by an address, a telephone number, or name and a date',
    answer: z.object({ doubles: z.array(doubleLine) }),
  }),
  mergeClients: tell({
    path: '/api/clients/:id/merge',
    summary:
      'Give all that is another client’s to this one, who stays; what was sent to the one counts for both',
    body: z.object({ ...commandOn, otherId: clientId, otherRevision: z.number().int().min(1) }).strict(),
    answer: changed,
  }),
  takeMergeBack: tell({
    path: '/api/client-merges/:id/take-back',
    summary: 'Take two clients apart who were merged; what was made since stays with the one who stayed',
    body: z.object(command).strict(),
    answer: made,
  }),
  stopSequence: tell({
    path: '/api/clients/:id/stop-sequence',
    summary: 'End what a sequence does for a client; nothing more of it goes',
    body: z.object({ ...command, sequenceId }).strict(),
    answer: z.object({ id: z.string() }),
  }),
  resumeSequence: tell({
    path: '/api/clients/:id/resume-sequence',
    summary: 'Let a sequence that waits for a person go on by itself for a client',
    body: z.object({ ...command, sequenceId }).strict(),
    answer: z.object({ id: z.string() }),
  }),
  holdBackClient: tell({
    path: '/api/clients/:id/hold-back',
    summary: 'Hold everything to a client back, or let it go on; what fell due meanwhile is missed',
    body: z.object({ ...command, isHeldBack: z.boolean() }).strict(),
    answer: z.object({ id: z.string(), missed: z.number().int() }),
  }),

  noticeClient: change({
    path: '/api/clients/:id/noticed',
    summary: 'Say whether it is noticed what a client opens and follows',
    body: z.object({ ...command, isNoticed: z.boolean() }).strict(),
    answer: changed.pick({ id: true }),
  }),
  followAsClient: tell({
    path: '/api/mail/:id/follow',
    summary: 'Open a message of the post office, or follow one of its links, as its made-up client would',
    /** Null: it is opened with its pictures. */
    body: z.object({ url: z.string().max(4000).nullable() }).strict(),
    answer: nothing,
    isRecorded: false,
  }),
  reactAsClient: tell({
    path: '/api/mail/:id/reaction',
    summary: 'Do with a message of the post office what its made-up client would',
    body: z.object({ reaction: clientReaction, text: z.string().trim().max(10_000) }).strict(),
    answer: nothing,
    isRecorded: false,
  }),
  mailbox: ask({
    path: '/api/mailboxes/:address',
    summary: 'A made-up mailbox of the built-in post office',
    answer: mailbox,
  }),
  mail: ask({ path: '/api/mail/:id', summary: 'One message in a made-up mailbox', answer: mailView }),
} as const

export type Endpoints = typeof endpoints

/** RFC 9457 problem details, as every refusal is answered. */
export const problemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  code: z.string(),
  errors: z.array(z.object({ path: z.string(), detail: z.string() })).optional(),
})
export type ProblemDetails = z.infer<typeof problemDetails>
