import { usualNoticing } from '../model/noticing.ts'
import { noAllowance } from '../model/allowance.ts'
import { standardOffer } from '../model/offer.ts'
import { instantOfLocal } from '../time/localText.ts'
import { freshHistory, noOwnStatus, nobodyNamed, type Booking } from '../model/booking.ts'
import { plainPerson, type Business, type Person, type Service } from '../model/business.ts'
import type { Client } from '../model/client.ts'
import { startRule, type Run, type Sequence, type SequenceVersion } from '../model/sequence.ts'
import { plainStep, type MailStep, type Step } from '../model/step.ts'
import { undecided, type Send } from '../model/send.ts'
import type { PlannedSend } from '../planning/planStep.ts'
import type { Settings } from '../planning/slice.ts'
import { starterLetters } from '../sequences/starterLetters.ts'
import type { ZoneTable } from '../time/zones.ts'

/** A small made-up business to try rules on: open for sending 08:00 to 20:00 every day, in Berlin. */
export const exampleBusiness: Business = {
  name: 'Kiteworks',
  zone: 'Europe/Berlin',
  postalAddress: 'Kiteworks, Dune Road 1, 00000 Sandby',
  phone: '+49 000 5550100',
  senderName: 'Kiteworks',
  senderAddress: 'hello@kiteworks.example',
  sendingHours: {
    weekly: Array.from({ length: 7 }, () => [{ from: '08:00', to: '20:00' }]),
    holidays: 'open',
    closedDates: [],
  },
  officeHours: {
    weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '08:00', to: '17:00' }] : [])),
    holidays: 'closed',
    closedDates: [],
  },
  holidayRegion: { country: 'DE', subdivision: null },
  completesAfterHours: 12,
  settleMinutes: 2,
  leapDay: '28 February',
  promotionalPerDay: 1,
  promotionalGapHours: 24,
  moveThresholdMinutes: 15,
  sharedMailbox: null,
  replyTo: null,
  allowance: noAllowance,
  revision: 1,
}

export const examplePerson: Person = {
  id: 'pe_ada',
  name: 'Ada Windermeer',
  email: 'ada@kiteworks.example',
  role: 'owner',
  isActive: true,
  ...plainPerson,
  revision: 1,
}

export const exampleService: Service = {
  id: 'sv_lesson',
  name: 'Kite lesson',
  place: 'South beach',
  placeZone: null,
  durationMinutes: 120,
  seats: 4,
  offer: standardOffer,
  revision: 1,
  isActive: true,
}

export const exampleClient: Client = {
  id: 'cl_1',
  name: 'Enno Brackwater',
  zone: null,
  language: 'en',
  contacts: [
    {
      id: 'ct_1',
      firstName: 'Enno',
      lastName: 'Brackwater',
      email: 'enno@brackwater.example',
      phone: '',
      isPrimary: true,
    },
  ],
  namedDates: [],
  tags: [],
  takesPromotional: true,
  isActive: true,
  isHeldBack: false,
  addedAt: 0,
  revision: 1,
}

/** What makes a confirmed booking of the example client: Saturday 16 May 2026, 19:00 to 21:00, for two. */
export const exampleBookingInput = {
  clientId: exampleClient.id,
  serviceId: exampleService.id,
  startLocal: '2026-05-16T19:00',
  endLocal: '2026-05-16T21:00',
  partySize: 2,
  status: 'confirmed',
  personInChargeId: null,
} as const

/** A step with a purpose and a time; everything else as the purpose says. */
export function exampleStep(part: Pick<MailStep, 'id' | 'purpose' | 'timing'> & Partial<MailStep>): MailStep {
  const made = plainStep.parse({ kind: 'mail', letterId: 'lt_starter-reminder', ...part })
  if (made.kind !== 'mail') throw new Error('An example step is a mail')
  return made
}

/** A run of the example sequence that has just begun. */
export function exampleRun(part: Partial<Run> = {}): Run {
  return {
    id: 'ru_1',
    sequenceId: 'sq_1',
    version: 1,
    clientId: exampleClient.id,
    subject: { kind: 'booking', id: 'bk_1' },
    state: 'running',
    startedAt: 0,
    startedOn: 'booking confirmed',
    stoppedAt: null,
    stoppedOn: null,
    stoppedReason: null,
    held: null,
    branches: [],
    timingSetAt: {},
    passedOver: [],
    ...part,
  }
}

export const exampleSteps: readonly MailStep[] = [
  exampleStep({
    id: 'st_confirm',
    purpose: 'confirmation',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'at once' },
  }),
  exampleStep({
    id: 'st_evening',
    purpose: 'reminder',
    timing: {
      kind: 'calendar',
      amount: 1,
      unit: 'days',
      direction: 'before',
      anchor: { of: 'booking start' },
      atTime: '18:00',
    },
  }),
]

const exampleVersion = (steps: readonly Step[]): SequenceVersion => ({
  sequenceId: 'sq_1',
  version: 1,
  start: startRule.parse({ on: 'booking confirmed' }),
  steps: [...steps],
  stops: [],
})

const exampleSequence: Sequence = {
  id: 'sq_1',
  name: 'Before a lesson',
  state: 'live',
  liveSince: 0,
  currentVersion: 1,
}

/** The settings of the example business with one live sequence of the given steps. */
export function exampleSettings(zones: ZoneTable, steps: readonly Step[] = exampleSteps): Settings {
  return {
    business: exampleBusiness,
    people: [examplePerson],
    services: [exampleService],
    ownStatuses: [],
    pipelines: [],
    documents: [],
    forms: [],
    onePressMoves: [],
    letters: starterLetters,
    passages: [],
    clientLinks: {
      optOut: (clientId) => `https://kiteworks.example/choose/${clientId}`,
      booking: (bookingId) => `https://kiteworks.example/yours/${bookingId}`,
      act: (act, bookingId) => `https://kiteworks.example/yours/${bookingId}/${act}`,
      all: (clientId) => `https://kiteworks.example/all/${clientId}`,
      pay: (invoiceId) => `https://kiteworks.example/pay/${invoiceId}`,
      sign: (subjectId, documentId) => `https://kiteworks.example/sign/${subjectId}/${documentId}`,
      followed: (sendId, key) => `https://kiteworks.example/to/${sendId}/${key}`,
      opened: (sendId) => `https://kiteworks.example/seen/${sendId}`,
    },
    sequences: [exampleSequence],
    sequenceVersions: [exampleVersion(steps)],
    variations: [],
    zones,
    isHoliday: () => false,
    isSendingOn: true,
    isRealMail: false,
    onlyTo: null,
    mailAccounts: [],
    incomingMailboxes: [],
    markAnswers: null,
    noticing: usualNoticing,
  }
}

/** An instant from a local reading such as `2026-05-16 05:20`. */
export function at(zones: ZoneTable, zoneName: string, local: string): number {
  return instantOfLocal(zones.zone(zoneName), local)
}

/** A confirmed booking of the example client, made and last changed at the same moment. */
export function exampleBooking(startAt: number, madeAt: number): Booking {
  return {
    id: 'bk_1',
    clientId: exampleClient.id,
    serviceId: exampleService.id,
    personInChargeId: examplePerson.id,
    status: 'confirmed',
    own: noOwnStatus,
    startAt,
    endAt: startAt + 7_200_000,
    told: { startAt, endAt: startAt + 7_200_000, since: madeAt },
    partySize: 2,
    sessions: [],
    answers: [],
    priceCents: null,
    people: nobodyNamed,
    cancellation: null,
    broughtInAs: null,
    madeAt,
    statusAt: { confirmed: madeAt },
    timesSetAt: madeAt,
    history: freshHistory('confirmed', madeAt),
    settling: null,
    revision: 1,
  }
}

/** The stored send of a planned one, in some state. */
export function exampleSend(planned: PlannedSend, part: Partial<Send> = {}): Send {
  const { run, step, recipient, occurrence, anchorValue, wantedAt, notBefore, notAfter, dueAt } = planned
  return {
    id: `sd_${step.id.slice(3)}-${occurrence}`,
    runId: run.id,
    sequenceId: run.sequenceId,
    sequenceVersion: run.version,
    stepId: step.id,
    stepKind: step.kind,
    occurrence,
    anchorValue,
    recipientId: recipient.id,
    clientId: run.clientId,
    subject: run.subject,
    letterId: step.kind === 'mail' ? step.letterId : null,
    purpose: step.purpose,
    state: 'sent',
    wantedAt,
    notBefore,
    notAfter,
    dueAt,
    trace: [],
    reason: null,
    address: recipient.email,
    messageId: 'm',
    decision: undecided,
    approvedFacts: null,
    approvedWords: null,
    attempts: 1,
    sentAt: dueAt,
    stateSince: dueAt ?? 0,
    ...part,
  }
}
