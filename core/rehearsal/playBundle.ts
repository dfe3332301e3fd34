import type { EngineContext } from '../engine/context.ts'
import {
  cancelBooking,
  confirmBooking,
  makeBooking,
  missBooking,
  moveBooking,
} from '../engine/bookingCommands.ts'
import {
  enterStage,
  issueInvoice,
  payInvoice,
  receiveEnquiry,
  recordHappening,
  setDueDate,
} from '../engine/dealingCommands.ts'
import type { Effect } from '../engine/effects.ts'
import { decideSend } from '../engine/sendCommands.ts'
import { refused, type Result } from '../model/problem.ts'
import type { Client } from '../model/client.ts'
import { plannableStates } from '../model/send.ts'
import type { Settings, Slice } from '../planning/slice.ts'
import { stepFault } from '../sequences/span.ts'
import { epochDayOf, isoDateOf, minuteMs, minuteOfDay, timeOfDayOf, type EpochDay } from '../time/calendar.ts'
import { instantAt, wallAt, type Zone, type ZoneTable } from '../time/zones.ts'
import type { Act, Bundle } from './bundle.ts'
import { createWorld, type World } from './world.ts'

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
  return instantAt(zone, epochDayOf(text.slice(0, 10)), minuteOfDay(text.slice(11, 16)))
}

function localOf(text: string, zone: Zone): string {
  const { day, msOfDay } = wallAt(zone, momentOf(text, zone))
  return `${isoDateOf(day)}T${timeOfDayOf(Math.floor(msOfDay / minuteMs))}`
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
}

function checkSteps(sequences: Bundle['sequences']) {
  sequences.forEach(({ steps }, index) => {
    steps.forEach((step, at) => {
      const fault = stepFault(step)
      if (fault !== null) throw new BundleFault(`sequences.${index}.steps.${at}`, fault)
    })
  })
}

function calendarOf({ holidays }: Bundle['business'], { holidaysOf }: BundleOutside) {
  if (!('dates' in holidays)) {
    return { isHoliday: holidaysOf(holidays.country, holidays.subdivision), holidayRegion: holidays }
  }
  const dates = new Set(holidays.dates.map(epochDayOf))
  return { isHoliday: (day: EpochDay) => dates.has(day), holidayRegion: { country: 'DE', subdivision: null } }
}

/** Letters have no part in times: one stands for all that the steps name. */
function lettersOf(sequences: Bundle['sequences']): Settings['letters'] {
  const ids = new Set(sequences.flatMap(({ steps }) => steps.map(({ letterId }) => letterId)))
  return [...ids].map((id) => ({
    id,
    name: id,
    moment: 'any time',
    version: 1,
    subject: [{ kind: 'text', text: id }],
    sections: [{ kind: 'signature' }],
  }))
}

/** The settings a bundle describes. Throws a BundleFault. */
export function settingsOf(bundle: Bundle, outside: BundleOutside): Settings {
  const { business, services, sequences } = bundle
  const { zones } = outside
  const zone = knownZone(business.zone, 'business.zone', zones)
  services.forEach(({ placeZone }, index) => {
    if (placeZone !== null) knownZone(placeZone, `services.${index}.placeZone`, zones)
  })
  checkSteps(sequences)
  const { holidays, ...rules } = business
  const { isHoliday, holidayRegion } = calendarOf({ ...rules, holidays }, outside)
  const plainService = { place: '', durationMinutes: 60, seats: 1_000_000, isActive: true }
  return {
    business: { ...plainBusiness, ...rules, holidayRegion },
    people: [],
    services: services.map((one) => ({ ...plainService, ...one, name: one.id })),
    letters: lettersOf(sequences),
    sequences: sequences.map(({ id, name, liveSince }) => ({
      id,
      name: name ?? id,
      state: 'live',
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
    zones,
    isHoliday,
    isSendingOn: true,
  }
}

function clientsOf({ clients }: Bundle, zones: ZoneTable): readonly Client[] {
  return clients.map((one, index) => {
    if (one.zone !== null) knownZone(one.zone, `clients.${index}.zone`, zones)
    if (one.contacts.filter(({ isPrimary }) => isPrimary).length > 1) {
      throw new BundleFault(`clients.${index}.contacts`, 'Only one contact can be the primary one.')
    }
    const hasPrimary = one.contacts.some(({ isPrimary }) => isPrimary)
    const contacts = one.contacts.map((contact, at) => ({
      ...contact,
      phone: '',
      isPrimary: hasPrimary ? contact.isPrimary : at === 0,
    }))
    return { ...one, contacts, language: 'en', isActive: true, addedAt: 0, revision: 1 }
  })
}

function revisionOf({ facts }: Slice, id: string): number {
  return facts.bookings.find((one) => one.id === id)?.revision ?? 0
}

function booked(act: Extract<Act, { act: 'book' }>, slice: Slice, zone: Zone, context: EngineContext) {
  const input = {
    clientId: act.clientId,
    serviceId: act.serviceId,
    startLocal: localOf(act.start, zone),
    endLocal: localOf(act.end, zone),
    partySize: 1,
    status: act.status,
    personInChargeId: null,
  }
  const sessions = act.sessions.map(({ start, end }) => ({
    startAt: momentOf(start, zone),
    endAt: momentOf(end, zone),
  }))
  const named = { ...context, newId: (prefix: string) => (prefix === 'bk' ? act.id : context.newId(prefix)) }
  return makeBooking(slice, input, () => 0, named, sessions)
}

function decided(
  act: Extract<Act, { act: 'decide' }>,
  slice: Slice,
  context: EngineContext,
): Result<readonly Effect[]> {
  const isOpen = (state: string) => [...plannableStates, 'missed', 'failed', 'in doubt'].includes(state)
  const send = slice.facts.sends.find(
    (one) => one.sequenceId === act.sequenceId && one.stepId === act.stepId && isOpen(one.state),
  )
  if (!send) return refused('not found', 'There is no open message of this step to decide about.')
  return decideSend(slice, send.id, act.decision, context)
}

/** What an act does to one client's world. */
function decisionOf(act: Act, slice: Slice, context: EngineContext): Result<readonly Effect[]> {
  const { settings } = slice
  const { now } = context
  const zoneOf = (serviceId: string | undefined) => {
    const service = settings.services.find(({ id }) => id === serviceId)
    return settings.zones.zone(service?.placeZone ?? settings.business.zone)
  }
  switch (act.act) {
    case 'book':
      return booked(act, slice, zoneOf(act.serviceId), context)
    case 'confirm':
      return confirmBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'cancel':
      return cancelBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'miss':
      return missBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'move': {
      const zone = zoneOf(slice.facts.bookings.find(({ id }) => id === act.bookingId)?.serviceId)
      const times = { startLocal: localOf(act.start, zone), endLocal: localOf(act.end, zone) }
      return moveBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), times, () => 0, context)
    }
    case 'enquire': {
      const { id, clientId, serviceId, stage, wishedOn, deadlineOn } = act
      const stamps = { receivedAt: now, stageAt: { [stage]: now }, wishedSetAt: now, deadlineSetAt: now }
      return receiveEnquiry(
        slice,
        { id, clientId, serviceId, stage, wishedOn, deadlineOn, ...stamps },
        context,
      )
    }
    case 'enter stage':
      return enterStage(slice, act.enquiryId, act.stage, context)
    case 'issue invoice': {
      const { id, clientId, bookingId, dueOn, amountCents } = act
      const invoice = {
        id,
        clientId,
        bookingId,
        dueOn,
        amountCents,
        issuedAt: now,
        dueSetAt: now,
        paidAt: null,
      }
      return issueInvoice(slice, invoice, context)
    }
    case 'set due date':
      return setDueDate(slice, act.invoiceId, act.dueOn, context)
    case 'pay':
      return payInvoice(slice, act.invoiceId, context)
    case 'client':
      return recordHappening(slice, act.did, act.name, context)
    case 'decide':
      return decided(act, slice, context)
  }
}

interface TimedAct {
  readonly act: Act
  readonly at: number
  readonly path: string
}

function timed(acts: readonly Act[], list: string, zone: Zone): readonly TimedAct[] {
  return acts.map((one, index) => ({ act: one, at: momentOf(one.at, zone), path: `${list}.${index}` }))
}

function playFor(client: Client, acts: readonly TimedAct[], settings: Settings, until: number): World {
  const own = acts.filter(({ act, at }) => act.clientId === client.id && at <= until)
  const world = createWorld(settings, client, Math.min(until, ...own.map(({ at }) => at)))
  for (const { act, at, path } of own) {
    world.advance(at)
    const result = decisionOf(act, world.slice(), world.context())
    if (!result.ok) throw new BundleFault(path, result.problem.sentence)
    world.carryOut(result)
  }
  world.advance(until)
  return world
}

/**
 * Plays a bundle: for each client what happened up to `until`, in the order of time, with messages going out in
 * memory at their times. Throws a BundleFault.
 */
export function playBundle(
  bundle: Bundle,
  script: readonly Act[],
  until: string,
  outside: BundleOutside,
): { readonly settings: Settings; readonly worlds: readonly World[]; readonly until: number } {
  const settings = settingsOf(bundle, outside)
  const zone = settings.zones.zone(settings.business.zone)
  const clients = clientsOf(bundle, outside.zones)
  const known = new Set(clients.map(({ id }) => id))
  const acts = [...timed(bundle.events, 'events', zone), ...timed(script, 'script', zone)]
  for (const { act, path } of acts) {
    if (!known.has(act.clientId))
      throw new BundleFault(`${path}.clientId`, `There is no client ${act.clientId}.`)
  }
  const ordered = acts.toSorted((one, other) => one.at - other.at || (one.path < other.path ? -1 : 1))
  const end = momentOf(until, zone)
  return { settings, worlds: clients.map((client) => playFor(client, ordered, settings, end)), until: end }
}
