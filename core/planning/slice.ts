import type { FurtherAccount } from '../model/furtherAccount.ts'
import type { Noticing } from '../model/noticing.ts'
import type { IncomingMailbox } from '../model/incomingMailbox.ts'
import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import type { ClientAct } from '../model/clientAct.ts'
import type { Client } from '../model/client.ts'
import type { Happening, Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import type { Letter, Passage } from '../model/letter.ts'
import type { OwnStatus } from '../model/ownStatus.ts'
import type { SignableDocument } from '../model/document.ts'
import type { Form } from '../model/form.ts'
import type { OnePressMove } from '../model/onePressMove.ts'
import type { Pipeline } from '../model/pipeline.ts'
import type { Send } from '../model/send.ts'
import type { Run, Sequence, SequenceVersion } from '../model/sequence.ts'
import type { Undelivered } from '../model/undelivered.ts'
import type { Variation } from '../model/variation.ts'
import { isoDateOf, weekdayOf, type EpochDay } from '../time/calendar.ts'
import type { OnlyDays } from '../model/step.ts'
import {
  alwaysOpen,
  isClosedOn,
  onlyOn,
  openTimesOf,
  wakingTimes,
  withinWakingHours,
  type OpenTimes,
} from '../time/openTimes.ts'
import { dayAt, type Zone, type ZoneTable } from '../time/zones.ts'

/** What is the same for every client: the business, its people, services, letters, sequences and calendars. */
export interface Settings {
  readonly business: Business
  readonly people: readonly Person[]
  readonly services: readonly Service[]
  /** What bookings can be called beside the statuses that all know. */
  readonly ownStatuses: readonly OwnStatus[]
  /** The ways of enquiries, each with its stages. */
  readonly pipelines: readonly Pipeline[]
  /** What clients sign. */
  readonly documents: readonly SignableDocument[]
  /** What somebody fills in who asks for something. */
  readonly forms: readonly Form[]
  readonly onePressMoves: readonly OnePressMove[]
  readonly letters: readonly Letter[]
  readonly passages: readonly Passage[]
  /** Pages for clients, whose links let nobody else in: where they choose what to get, of a booking, of all theirs, to pay. */
  readonly clientLinks: {
    readonly optOut: (clientId: string) => string
    readonly booking: (bookingId: string) => string
    /** For one act alone: nothing else of the booking is open to who has it. */
    readonly act: (act: ClientAct, bookingId: string) => string
    readonly all: (clientId: string) => string
    readonly pay: (invoiceId: string) => string
    /** Where a document about something is signed. */
    readonly sign: (subjectId: string, documentId: string) => string
    /** Where a link of a message leads from, and the picture that tells that it was opened. */
    readonly followed: (sendId: string, linkKey: string) => string
    readonly opened: (sendId: string) => string
  }
  /** What is noticed of what clients do with messages. */
  readonly noticing: Noticing
  /** Marks an address that answers go to with the message they answer; null: that is switched off. */
  readonly markAnswers: ((address: string, sendId: string) => string) | null
  readonly sequences: readonly Sequence[]
  readonly sequenceVersions: readonly SequenceVersion[]
  /** What differs in single steps for services. */
  readonly variations: readonly Variation[]
  readonly zones: ZoneTable
  readonly isHoliday: (day: EpochDay) => boolean
  /** False: sending is held back, nothing leaves. */
  readonly isSendingOn: boolean
  /** Whether messages leave through a real mail account, which reaches no name reserved for examples. */
  readonly isRealMail: boolean
  /** While the owner looks on quietly messages reach these addresses alone; null: they reach everybody. */
  readonly onlyTo: readonly string[] | null
  /** The mail accounts beside the main one. */
  readonly mailAccounts: readonly FurtherAccount[]
  /** The mailboxes that are read. */
  readonly incomingMailboxes: readonly IncomingMailbox[]
}

/** Everything about one client, as far as a command or a plan can need it. */
export interface ClientFacts {
  readonly client: Client
  readonly bookings: readonly Booking[]
  readonly enquiries: readonly Enquiry[]
  readonly invoices: readonly Invoice[]
  /** What the client did, in the order of time. */
  readonly happenings: readonly Happening[]
  /** What differs in single steps for this client. */
  readonly variations: readonly Variation[]
  /** What mail servers have said of the addresses of its contacts. */
  readonly undelivered: readonly Undelivered[]
  readonly runs: readonly Run[]
  readonly sends: readonly Send[]
  /** Which of the runs are known to be at rest: nothing comes of them any more. */
  readonly resting: ReadonlySet<string>
}

/** The facts of a client of whom nothing else is known yet. */
export function factsOf(client: Client, known: Partial<ClientFacts> = {}): ClientFacts {
  const nothing = {
    bookings: [],
    enquiries: [],
    invoices: [],
    happenings: [],
    variations: [],
    undelivered: [],
    runs: [],
    sends: [],
    resting: new Set<string>(),
  }
  return { client, ...nothing, ...known }
}

export interface Slice {
  readonly settings: Settings
  readonly facts: ClientFacts
}

/** Something that others depend on is not there, or cannot be read. */
export class NotThere extends Error {}

export function serviceOf(settings: Settings, serviceId: string): Service {
  const service = settings.services.find((one) => one.id === serviceId)
  if (!service) throw new NotThere(`No service ${serviceId}`)
  return service
}

/** The date of a moment on the calendar of the business. */
export const businessDate = ({ zones, business }: Pick<Settings, 'zones' | 'business'>, at: number): string =>
  isoDateOf(dayAt(zones.zone(business.zone), at))

/** The zone of a service's place, else that of the business. */
export function placeZone(settings: Settings, service: Service): Zone {
  return settings.zones.zone(service.placeZone ?? settings.business.zone)
}

/** The zone of what concerns a service: its place's; that of the business where none is said. */
export const zoneFor = (settings: Settings, serviceId: string | null): Zone =>
  serviceId === null
    ? settings.zones.zone(settings.business.zone)
    : placeZone(settings, serviceOf(settings, serviceId))

interface Calendars {
  readonly sending: OpenTimes
  readonly office: OpenTimes
  /** Sending hours for clients on another clock, by zone. */
  readonly elsewhere: Map<string, OpenTimes>
  /** Open times of steps, by what they keep to: hours, zone and days. */
  readonly ofSteps: Map<string, OpenTimes>
}

const calendars = new WeakMap<Settings, Calendars>()

/** The calendars of a business, made once: when messages may go and when the office works, in its zone. */
export function calendarsOf(settings: Settings): Calendars {
  const known = calendars.get(settings)
  if (known) return known
  const { business, isHoliday } = settings
  const zone = settings.zones.zone(business.zone)
  const made = {
    sending: openTimesOf(business.sendingHours, zone, isHoliday),
    office: openTimesOf(business.officeHours, zone, isHoliday),
    elsewhere: new Map<string, OpenTimes>(),
    ofSteps: new Map<string, OpenTimes>(),
  }
  calendars.set(settings, made)
  return made
}

/** When messages may go to somebody on the clock of a zone: not in their night, where it is not the business's. */
export function sendingTimesFor(settings: Settings, zoneName: string): OpenTimes {
  const { sending, elsewhere } = calendarsOf(settings)
  if (zoneName === settings.business.zone) return sending
  const known = elsewhere.get(zoneName)
  if (known) return known
  const made = withinWakingHours(sending, settings.zones.zone(zoneName))
  elsewhere.set(zoneName, made)
  return made
}

function isOnlyDay({ office }: Calendars, days: OnlyDays): (day: EpochDay) => boolean {
  return days === 'working days'
    ? (day) => !isClosedOn(office, day)
    : (day) => days.weekdays.includes(weekdayOf(day))
}

/** What a step keeps to when it goes: the sending hours, the waking hours of a zone, or nothing. */
export type KeepsTo = 'sending hours' | 'waking hours' | 'no hours'

/** When a step may go to somebody on the clock of a zone; on the other days than its own everything is closed. */
export function openTimesOfStep(
  settings: Settings,
  zoneName: string,
  keepsTo: KeepsTo,
  days: OnlyDays | null,
): OpenTimes {
  if (keepsTo === 'sending hours' && days === null) return sendingTimesFor(settings, zoneName)
  const all = calendarsOf(settings)
  const key = [keepsTo, zoneName, days === null ? '' : JSON.stringify(days)].join('|')
  const known = all.ofSteps.get(key)
  if (known) return known
  const { zones, business } = settings
  const hours = {
    'sending hours': () => sendingTimesFor(settings, zoneName),
    'waking hours': () => wakingTimes(zones.zone(zoneName)),
    'no hours': () => alwaysOpen(zones.zone(business.zone)),
  }[keepsTo]()
  const made = days === null ? hours : onlyOn(hours, isOnlyDay(all, days))
  all.ofSteps.set(key, made)
  return made
}

export function versionOf(settings: Settings, sequenceId: string, version: number): SequenceVersion {
  const found = settings.sequenceVersions.find(
    (one) => one.sequenceId === sequenceId && one.version === version,
  )
  if (!found) throw new NotThere(`No version ${version} of sequence ${sequenceId}`)
  return found
}
