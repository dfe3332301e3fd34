import { usualNoticing } from '../model/noticing.ts'
import { plainPerson } from '../model/business.ts'
import { newInvoice } from '../model/dealings.ts'
import { newEnquiry } from '../model/enquiry.ts'
import { standardOffer } from '../model/offer.ts'
import { writtenLetter } from '../letters/authoring.ts'
import { letterWith } from '../letters/content.ts'
import { freshHistory, noOwnStatus, nobodyNamed, type Booking } from '../model/booking.ts'
import type { Client } from '../model/client.ts'
import type { Letter } from '../model/letter.ts'
import type { Variation } from '../model/variation.ts'
import type { ClientFacts, Settings } from '../planning/slice.ts'
import { stepFault } from '../sequences/span.ts'
import { letterIdsOf, repeatedIds } from '../sequences/steps.ts'
import { epochDayOf, minuteMs, minuteOfDay, type EpochDay } from '../time/calendar.ts'
import { instantOf, type Zone, type ZoneTable } from '../time/zones.ts'
import type { Bundle } from './bundle.ts'

/** Why a bundle cannot be played, with the path to what is at fault. */
export class BundleFault extends Error {
  constructor(
    readonly path: string,
    reason: string,
  ) {
    super(reason)
  }
}

/** What playing a bundle needs from outside: the zones, and the public holidays of a region. */
export interface BundleOutside {
  readonly zones: ZoneTable
  readonly holidaysOf: (country: string, subdivision: string | null) => (day: EpochDay) => boolean
}

/** A moment of a bundle; without an offset it is a reading of the given clock. */
export function momentOf(text: string, zone: Zone): number {
  if (/(Z|[+-]\d{2}:\d{2})$/.test(text)) return Date.parse(text)
  const secondsMs = Math.round(Number(text.slice(17) || '0') * 1000)
  const msOfDay = minuteOfDay(text.slice(11, 16)) * minuteMs + secondsMs
  return instantOf(zone, { day: epochDayOf(text.slice(0, 10)), msOfDay })
}

function knownZone(name: string, path: string, zones: ZoneTable): Zone {
  if (!zones.has(name)) throw new BundleFault(path, `There is no time zone named ${name}.`)
  return zones.zone(name)
}

const plainBusiness = {
  name: 'Business',
  postalAddress: '',
  phone: '',
  senderName: 'Business',
  senderAddress: 'business@bundle.example',
  sharedMailbox: null,
  replyTo: null,
}

function checkSteps(sequences: Bundle['sequences']) {
  sequences.forEach(({ steps }, index) => {
    steps.forEach((step, at) => {
      const fault = stepFault(step)
      if (fault !== null) throw new BundleFault(`sequences.${index}.steps.${at}`, fault)
    })
    const [twice] = repeatedIds(steps)
    if (twice !== undefined) {
      throw new BundleFault(`sequences.${index}.steps`, `Two steps have the same id: ${twice}.`)
    }
  })
}

/** Refuses what names something that the bundle does not have. */
function checkNames({ variations, sequences, bookings, enquiries, invoices, clients, services }: Bundle) {
  const known = (
    list: string,
    items: readonly object[],
    field: string,
    all: readonly { readonly id: string }[],
  ) => {
    items.forEach((item, index) => {
      const id: unknown = Reflect.get(item, field)
      if (typeof id === 'string' && !all.some((one) => one.id === id)) {
        throw new BundleFault(`${list}.${index}.${field}`, `There is no ${id} in this bundle.`)
      }
    })
  }
  known('variations', variations, 'sequenceId', sequences)
  known('bookings', bookings, 'clientId', clients)
  known('bookings', bookings, 'serviceId', services)
  known('enquiries', enquiries, 'clientId', clients)
  known('enquiries', enquiries, 'serviceId', services)
  known('invoices', invoices, 'clientId', clients)
}

function calendarOf({ holidays }: Bundle['business'], { holidaysOf }: BundleOutside) {
  if (!('dates' in holidays)) {
    return { isHoliday: holidaysOf(holidays.country, holidays.subdivision), holidayRegion: holidays }
  }
  const dates = new Set(holidays.dates.map(epochDayOf))
  return { isHoliday: (day: EpochDay) => dates.has(day), holidayRegion: { country: 'DE', subdivision: null } }
}

/** Letters that are only named have no part in times: a bare one stands for each. */
function lettersOf({ sequences, letters, variations }: Bundle): Settings['letters'] {
  const named = sequences.flatMap(({ steps }) => letterIdsOf(steps))
  const varied = variations.flatMap(({ letterId }) => letterId ?? [])
  const ids = [...new Set([...named, ...varied])].filter((id) => !letters.some((one) => one.id === id))
  return [...letters.map(asLetter), ...ids.map(bareLetter)]
}

/** A letter of a bundle: its content with an id. */
function asLetter(one: Bundle['letters'][number]): Letter {
  return letterWith({ ...one, isUnnoticed: false }, one.id)
}

export function bareLetter(id: string): Letter {
  return writtenLetter({
    id,
    name: id,
    moment: 'any time',
    subject: [{ kind: 'text', text: id }],
    sections: [{ kind: 'signature' }],
  })
}

/** Where links of a bundle would lead: nothing of it is sent. */
const clientLinks: Settings['clientLinks'] = {
  optOut: (clientId) => `https://bundle.example/choose/${clientId}`,
  booking: (bookingId) => `https://bundle.example/yours/${bookingId}`,
  act: (act, bookingId) => `https://bundle.example/yours/${bookingId}/${act}`,
  all: (clientId) => `https://bundle.example/all/${clientId}`,
  pay: (invoiceId) => `https://bundle.example/pay/${invoiceId}`,
  sign: (subjectId, documentId) => `https://bundle.example/sign/${subjectId}/${documentId}`,
  followed: (sendId, key) => `https://bundle.example/to/${sendId}/${key}`,
  opened: (sendId) => `https://bundle.example/seen/${sendId}`,
}

/** The settings a bundle describes. Throws a BundleFault. */
export function settingsOf(bundle: Bundle, outside: BundleOutside): Settings {
  const { business, services, sequences, people, variations } = bundle
  const { zones } = outside
  const zone = knownZone(business.zone, 'business.zone', zones)
  services.forEach(({ placeZone }, index) => {
    if (placeZone !== null) knownZone(placeZone, `services.${index}.placeZone`, zones)
  })
  checkSteps(sequences)
  checkNames(bundle)
  const { holidays, ...rules } = business
  const { isHoliday, holidayRegion } = calendarOf({ ...rules, holidays }, outside)
  const plainService = {
    place: '',
    durationMinutes: 60,
    seats: 1_000_000,
    offer: standardOffer,
    revision: 1,
    isActive: true,
  }
  return {
    business: { ...plainBusiness, ...rules, holidayRegion, revision: 1 },
    people: people.map((one) => ({ ...one, ...plainPerson, role: 'helper', revision: 1 })),
    services: services.map((one) => ({ ...plainService, ...one, name: one.id })),
    ownStatuses: [],
    pipelines: [],
    documents: [],
    forms: [],
    onePressMoves: [],
    letters: lettersOf(bundle),
    passages: [],
    clientLinks,
    sequences: sequences.map(({ id, name, liveSince, state }) => ({
      id,
      name: name ?? id,
      state,
      liveSince: liveSince === undefined ? 0 : momentOf(liveSince, zone),
      currentVersion: 1,
    })),
    sequenceVersions: sequences.map(({ id: sequenceId, start, steps, stops }) => ({
      sequenceId,
      version: 1,
      start,
      steps,
      stops,
    })),
    variations: variations
      .map((one, index) => variationOf(one, index))
      .filter(({ scope }) => scope.of === 'service'),
    zones,
    isHoliday,
    isSendingOn: true,
    isRealMail: false,
    onlyTo: null,
    mailAccounts: [],
    incomingMailboxes: [],
    markAnswers: null,
    noticing: usualNoticing,
  }
}

export function clientsOf({ clients }: Bundle, zones: ZoneTable): readonly Client[] {
  return clients.map((one, index) => {
    if (one.zone !== null) knownZone(one.zone, `clients.${index}.zone`, zones)
    if (one.contacts.filter(({ isPrimary }) => isPrimary).length > 1) {
      throw new BundleFault(`clients.${index}.contacts`, 'Only one contact can be the primary one.')
    }
    const hasPrimary = one.contacts.some(({ isPrimary }) => isPrimary)
    const contacts = one.contacts.map((contact, at) => ({
      ...contact,
      isPrimary: hasPrimary ? contact.isPrimary : at === 0,
    }))
    return { ...one, contacts, isHeldBack: false, addedAt: 0, revision: 1 }
  })
}

/** A variation of a bundle as a fact that has always been so. */
export function variationOf(one: Bundle['variations'][number], index: number): Variation {
  return { ...one, id: `va_${index}`, timingSetAt: 0 }
}

function bookingOf(one: Bundle['bookings'][number], settings: Settings): Booking {
  const service = settings.services.find(({ id }) => id === one.serviceId)
  const zone = settings.zones.zone(service?.placeZone ?? settings.business.zone)
  const madeAt = momentOf(one.madeAt, settings.zones.zone(settings.business.zone))
  const times = { startAt: momentOf(one.start, zone), endAt: momentOf(one.end, zone) }
  const { id, clientId, serviceId, status, personInChargeId } = one
  return {
    id,
    clientId,
    serviceId,
    status,
    own: noOwnStatus,
    personInChargeId,
    ...times,
    told: { ...times, since: madeAt },
    partySize: 1,
    sessions: one.sessions.map(({ start, end }) => ({
      startAt: momentOf(start, zone),
      endAt: momentOf(end, zone),
    })),
    answers: [],
    priceCents: null,
    people: nobodyNamed,
    cancellation: null,
    broughtInAs: null,
    madeAt,
    statusAt: { [status]: madeAt },
    timesSetAt: madeAt,
    history: freshHistory(status, madeAt),
    settling: null,
    revision: 1,
  }
}

/** A bundle names the stages of its enquiries and describes none. */
export const theOnePipeline = 'pl_enquiries'

/** What is there already of one client when a bundle begins. */
export function standingFacts(bundle: Bundle, clientId: string, settings: Settings): Partial<ClientFacts> {
  const zone = settings.zones.zone(settings.business.zone)
  const isOwn = (one: { readonly clientId: string }) => one.clientId === clientId
  return {
    bookings: bundle.bookings.filter(isOwn).map((one) => bookingOf(one, settings)),
    enquiries: bundle.enquiries.filter(isOwn).map(({ receivedAt: text, ...one }) => {
      const receivedAt = momentOf(text, zone)
      return newEnquiry({ ...one, pipelineId: theOnePipeline }, receivedAt)
    }),
    invoices: bundle.invoices.filter(isOwn).map(({ issuedAt: issued, paidAt, ...one }) => {
      const issuedAt = momentOf(issued, zone)
      const reason = one.isFee ? ('fee' as const) : ('other' as const)
      return {
        ...newInvoice({ ...one, reason }, issuedAt),
        paidAt: paidAt === null ? null : momentOf(paidAt, zone),
      }
    }),
    variations: bundle.variations
      .map((one, index) => variationOf(one, index))
      .filter(({ scope }) => scope.of === 'client' && scope.clientId === clientId),
  }
}
