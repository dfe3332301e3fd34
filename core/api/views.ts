import { z } from 'zod'
import { signingView } from './documentEndpoints.ts'
import { offeredMove, pressedView } from './moveViews.ts'
import { invoice } from '../model/dealings.ts'
import { booking, bookingId, bookingStatus } from '../model/booking.ts'
import { business, person, service, serviceId } from '../model/business.ts'
import { client, clientId, contact } from '../model/client.ts'
import { clientMergeId } from '../model/clientMerge.ts'
import { accountId } from '../model/furtherAccount.ts'
import { enquiryId } from '../model/enquiry.ts'
import { event } from '../model/event.ts'
import { ownStatus } from '../model/ownStatus.ts'
import { signableDocument } from '../model/document.ts'
import { form } from '../model/form.ts'
import { onePressMove } from '../model/onePressMove.ts'
import { pipeline } from '../model/pipeline.ts'
import { letterId, letterMoment, ownWords } from '../model/letter.ts'
import { run, sequenceState } from '../model/sequence.ts'
import { sequenceId, stepId, stepKind } from '../model/step.ts'
import { purpose } from '../model/timing.ts'
import { reason, send, sendId, sendState, traceLine } from '../model/send.ts'
import { instant, isoDate } from '../model/values.ts'
import { variation } from '../model/variation.ts'
import { sameBy } from '../tables/doubles.ts'
import { deskGroups } from './deskGroups.ts'
import { taskLine } from './taskEndpoints.ts'

/** One place where a person is signed in; times are real. */
export const sessionLine = z.object({
  id: z.string(),
  startedAt: instant,
  seenAt: instant,
  agent: z.string(),
  /** The one this is asked in. */
  isThis: z.boolean(),
})

/** Who is signed in, and what a page needs to know before that. */
export const sessionView = z.object({
  isDemo: z.boolean(),
  needsFirstRun: z.boolean(),
  businessName: z.string().nullable(),
  person: person.nullable(),
  csrfToken: z.string().nullable(),
  /** The demo's people, to sign in as at one press. */
  people: z.array(person),
})
export type SessionView = z.infer<typeof sessionView>

export const clockView = z.object({
  kind: z.enum(['real', 'demo']),
  now: instant,
  /** Where the demo's clock is on its way to; null: it stands. */
  movingTo: instant.nullable(),
  /** When the next message goes; null: none is planned or sending is held back. */
  nextMessageAt: instant.nullable(),
})
export type ClockView = z.infer<typeof clockView>

/** What the frame shows on every page. */
export const overview = z.object({
  businessName: z.string(),
  /** The zone of the business, as a line of packed tz data: pages that show times need no other. */
  zoneLine: z.string(),
  timeDataVersion: z.string(),
  clock: clockView,
  sending: z.object({
    isOn: z.boolean(),
    onTheirWay: z.number().int(),
    /** In quiet mode the addresses that messages reach; null: everybody. */
    onlyTo: z.array(z.string()).nullable(),
    /** When more were due than may go in a day, and everything was held back; null: it was not, or that was looked at. */
    capReachedAt: instant.nullable(),
  }),
  /** What needs a person: messages that wait, those in trouble, tasks due. */
  needs: z.object({ decide: z.number().int(), trouble: z.number().int(), toDo: z.number().int() }),
  /** True: this database is a copy and starts held back. */
  isCopy: z.boolean(),
  /** True: messages go to the built-in post office and its made-up mailboxes. */
  hasPostOffice: z.boolean(),
})
export type Overview = z.infer<typeof overview>

export const ribbonDay = z.object({
  on: isoDate,
  isClosed: z.boolean(),
  holiday: z.string().nullable(),
  sent: z.number().int(),
  planned: z.number().int(),
  waiting: z.number().int(),
  trouble: z.number().int(),
})
export type RibbonDay = z.infer<typeof ribbonDay>
export const ribbon = z.object({ days: z.array(ribbonDay) })

/** A message as lists show it. */
export const sendLine = z.object({
  id: sendId,
  clientId,
  clientName: z.string(),
  /** Who gets it by name, of the client or of the team; empty: the step writes to nobody. */
  recipientName: z.string(),
  /** False: a copy for a colleague, or for an address of one's own. */
  isToClient: z.boolean(),
  /** Null where it is not about a booking. */
  bookingId: bookingId.nullable(),
  serviceName: z.string().nullable(),
  /** Null for a step without a letter. */
  letterId: letterId.nullable(),
  stepKind,
  /** The letter's name, or what the step does. */
  letterName: z.string(),
  sequenceId,
  sequenceName: z.string(),
  purpose,
  state: sendState,
  /** When it went, will go or would have gone; where that is not known yet, since when it waits to be. */
  shownAt: instant,
  /** False: it has no time yet, and waits for what its reason says. */
  hasTime: z.boolean(),
  /** Its last useful moment; null: it has none. */
  notAfter: instant.nullable(),
  stateSince: instant,
  /** Counts what a person decides by; an act names the one it was decided on. */
  revision: z.number().int(),
  reason: reason.nullable(),
  address: z.string().nullable(),
  /** Codes of the rules that changed its time. */
  movedBy: z.array(traceLine.pick({ rule: true, code: true })),
})
export type SendLine = z.infer<typeof sendLine>

export const historyLine = event.extend({ personName: z.string().nullable() })
export type HistoryLine = z.infer<typeof historyLine>

export const sendView = sendLine.extend({
  send,
  /** Whom to call about it. */
  recipientName: z.string(),
  phone: z.string(),
  /** Whether it goes to a contact of the client, whose address can be mended. */
  isToContact: z.boolean(),
  /** What happened to it, the newest first. */
  history: z.array(historyLine),
  subject: z.string().nullable(),
  text: z.string().nullable(),
  /** Whether it is there as it went, to be kept as a file. */
  isSourceKept: z.boolean(),
  /** What the mail server answered. */
  answer: z.string().nullable(),
  /** What was asked for of it, the last first: a link, or the picture that tells that it was opened. */
  visits: z.array(
    z.object({
      at: instant,
      /** Null: it was opened. */
      url: z.string().nullable(),
      /** A program looked at it beforehand; null: not told yet. */
      isPerson: z.boolean().nullable(),
    }),
  ),
})
export type SendView = z.infer<typeof sendView>

/** What the mail account takes, and what of the messages ahead will have to wait for it. */
export const forecast = z.object({
  allowance: business.shape.allowance,
  waiting: z.number().int(),
  /** When the last of them goes; null: none waits. */
  lastAt: instant.nullable(),
})

/** A message that waits for a person, with the last moment at which it can still go; null: no bound. */
export const decideLine = z.object({
  ...sendLine.shape,
  lastChanceAt: instant.nullable(),
  stepId,
  /** The same for messages of one step with one letter: they can be decided together. */
  alikeKey: z.string(),
})
export type DecideLine = z.infer<typeof decideLine>

/** A message as its recipient will see it, before it goes. */
export const sendPreview = z.object({
  subject: z.string(),
  /** Null: plain text alone. */
  html: z.string().nullable(),
  text: z.string(),
  /** Why it could not go as it stands; null: it can. */
  problem: z.string().nullable(),
  personalLine: z.string(),
  revision: z.number().int(),
  /** Subject and sections of this copy before its values are put in; null: it has no letter. */
  words: ownWords.nullable(),
  /** Whether a person has written this copy in other words. */
  hasOwnWords: z.boolean(),
  language: z.enum(['en', 'de']),
  /** The newest notes about the client, to draw a personal line from. */
  noted: z.array(historyLine),
  hasLetter: z.boolean(),
  /** What the client got before, and what comes after. */
  before: sendLine.nullable(),
  after: sendLine.nullable(),
  bookingStartAt: instant.nullable(),
  /** When the client last did something of each kind; what they did not do is left out. */
  did: z.array(z.object({ kind: z.enum(['answered', 'opened', 'followed a link', 'booked']), at: instant })),
  /** When it goes, or was meant to; null: not known. */
  meantAt: instant.nullable(),
  /** Its last useful moment; null: none. */
  notAfter: instant.nullable(),
})
export type SendPreview = z.infer<typeof sendPreview>

/** Waiting messages like one that waits, each with the lines in which it differs from that one. */
export const alike = z.object({
  others: z.array(
    z.object({
      line: decideLine,
      differing: z.array(z.string()),
      /** Why it could not go as it stands; null: it can. */
      problem: z.string().nullable(),
    }),
  ),
})

/** What the sent mail of the account knows of a message. */
export const sentMail = z.object({
  messageId: z.string(),
  /** Null: this account's sent mail cannot be looked into from here. */
  isFound: z.boolean().nullable(),
  at: instant.nullable(),
})

/** What one day brings. */
const dayLoad = z.object({
  on: isoDate,
  messages: z.number().int(),
  waiting: z.number().int(),
  isOverAllowance: z.boolean(),
  isCrowded: z.boolean(),
})
export type DayLoad = z.infer<typeof dayLoad>

export const load = z.object({
  allowance: business.shape.allowance,
  days: z.array(dayLoad),
  /** Clients who get much within a week: how many messages, and the days of the first and the last of them. */
  crowdedClients: z.array(
    z.object({ clientId, clientName: z.string(), messages: z.number().int(), from: isoDate, to: isoDate }),
  ),
})
export type LoadView = z.infer<typeof load>

/** Something that the house itself cannot do, whoever is concerned. */
export const houseTrouble = z.object({
  key: z.string(),
  sentence: z.string(),
  since: instant.nullable(),
  /** What more there is to know before acting. */
  lines: z.array(z.string()),
  /** What a person can do about it, if anything. */
  act: z
    .discriminatedUnion('does', [
      z.object({ does: z.literal('try account'), accountId }),
      z.object({ does: z.literal('trust clock'), machineAt: instant }),
    ])
    .nullable(),
})
export type HouseTrouble = z.infer<typeof houseTrouble>

/** What the house itself cannot do, and how many entries each group has. */
export const desk = z.object({
  house: z.array(houseTrouble),
  counts: z.record(z.enum(deskGroups), z.number().int()),
  /** The message that went last, and the next that goes by itself; null: there is none. */
  last: sendLine.nullable(),
  next: sendLine.nullable(),
})

/** A part of a list: its lines, and after which one the next part begins; null: there is none. */
export const partOf = <Line extends z.ZodType>(line: Line) =>
  z.object({ lines: z.array(line), next: z.string().nullable() })

export const bookingLine = z.object({
  id: bookingId,
  clientId,
  clientName: z.string(),
  serviceId,
  serviceName: z.string(),
  status: bookingStatus,
  /** One of the business's own beside that, by name. */
  ownStatus: z.string().nullable(),
  startAt: instant,
  endAt: instant,
  partySize: z.number().int(),
  revision: z.number().int(),
  placeZone: z.string(),
})
export type BookingLine = z.infer<typeof bookingLine>

export const bookingView = z.object({
  booking,
  clientName: z.string(),
  service,
  personInCharge: person.nullable(),
  placeZone: z.string(),
  sends: z.array(sendLine),
  history: z.array(historyLine),
  seatsTaken: z.number().int(),
  /** The enquiry it came of; null: none. */
  enquiryId: enquiryId.nullable(),
  invoices: z.array(invoice),
  /** The statuses of the business's own. */
  ownStatuses: z.array(ownStatus),
  /** The client's, to name who takes part and who pays. */
  contacts: z.array(contact),
  /** The one-press moves that make sense for it at present. */
  moves: z.array(offeredMove),
  /** What was sent to be signed, the latest first. */
  signings: z.array(signingView),
  /** The one that was pressed last; null: none was, or it was taken back. */
  pressed: pressedView.nullable(),
})
export type BookingView = z.infer<typeof bookingView>

export const clientLine = z.object({
  id: clientId,
  name: z.string(),
  email: z.string().nullable(),
  isActive: z.boolean(),
  tags: z.array(z.string()),
  nextStartAt: instant.nullable(),
  lastSentAt: instant.nullable(),
})
export type ClientLine = z.infer<typeof clientLine>

export const clientView = z.object({
  client,
  /** Whether it is noticed what they open and follow; null: nothing is noticed of anybody. */
  isNoticed: z.boolean().nullable(),
  /** Those that still have something to do. */
  runs: z.array(
    z.object({ run, sequenceName: z.string(), sequenceState, serviceName: z.string().nullable() }),
  ),
  variations: z.array(variation),
  tasks: z.array(taskLine),
  /** Who was merged into this client, the latest first. */
  merges: z.array(
    z.object({ id: clientMergeId, at: instant, name: z.string(), personName: z.string().nullable() }),
  ),
})
export type ClientView = z.infer<typeof clientView>

/** Somebody who may be the same client as another. */
export const doubleLine = z.object({
  id: clientId,
  name: z.string(),
  /** The first address there is; null: none. */
  email: z.string().nullable(),
  sameBy: z.enum(sameBy),
})
export type DoubleLine = z.infer<typeof doubleLine>

export const nameInUse = z.object({
  kind: z.enum(['tag', 'stage', 'document', 'form', 'move', 'date']),
  name: z.string(),
})

export const settingsView = z.object({
  services: z.array(service.extend({ id: serviceId, zone: z.string() })),
  ownStatuses: z.array(ownStatus),
  pipelines: z.array(pipeline),
  documents: z.array(signableDocument),
  forms: z.array(form),
  onePressMoves: z.array(onePressMove),
  people: z.array(person),
  letters: z.array(
    z.object({
      id: letterId,
      name: z.string(),
      moment: letterMoment,
      class: z.enum(['service', 'promotional']),
    }),
  ),
  sequences: z.array(z.object({ id: sequenceId, name: z.string(), state: sequenceState })),
  hasSharedMailbox: z.boolean(),
  /** Where clients reach this house. */
  publicUrl: z.string(),
  /** Tags, stages and dates that are in use, to choose from. */
  namesInUse: z.array(nameInUse),
  /** What differs in single steps for services. */
  variations: z.array(variation),
})
export type SettingsView = z.infer<typeof settingsView>

/** Something found by what was typed. */
export const foundLine = z.object({
  kind: z.enum(['client', 'booking', 'enquiry', 'letter', 'sequence']),
  id: z.string(),
  title: z.string(),
  words: z.string(),
})
export type FoundLine = z.infer<typeof foundLine>
