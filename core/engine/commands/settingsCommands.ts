import { z } from 'zod'
import {
  business,
  person,
  personId,
  service,
  serviceId,
  type Business,
  type Person,
  type Service,
} from '../../model/business.ts'
import type { Offer } from '../../model/offer.ts'
import { bookingStatus, canBecome, type BookingStatus } from '../../model/booking.ts'
import { isSameStatusName, ownStatus, ownStatusId, type OwnStatus } from '../../model/ownStatus.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { dayMs, hourMs, minuteMs } from '../../time/calendar.ts'
import { weeklyStretches } from '../../time/openTimes.ts'
import { noSuchZone } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

/** What of the business can be changed once it is set up. */
export const businessInput = business.pick({
  name: true,
  postalAddress: true,
  phone: true,
  sendingHours: true,
  officeHours: true,
  holidayRegion: true,
  settleMinutes: true,
  leapDay: true,
  promotionalPerDay: true,
  promotionalGapHours: true,
  moveThresholdMinutes: true,
})
export type BusinessInput = z.infer<typeof businessInput>

/** A name and a meaning are for good: bookings, sequences and histories go by them. */
export const ownStatusInput = ownStatus.omit({ id: true, revision: true, comesSince: true })
export type OwnStatusInput = z.infer<typeof ownStatusInput>

export const personInput = person.omit({ id: true, revision: true })
export type PersonInput = z.infer<typeof personInput>

export const serviceInput = service.omit({ id: true, revision: true })
export type ServiceInput = z.infer<typeof serviceInput>

/** A change of what holds for everybody, on the revision it was decided on. */
export const settingsChange = z.discriminatedUnion('of', [
  z.object({ of: z.literal('business'), revision: z.number().int(), business: businessInput }).strict(),
  z
    .object({
      of: z.literal('service'),
      /** Null: a new one. */
      id: serviceId.nullable(),
      revision: z.number().int(),
      service: serviceInput,
    })
    .strict(),
  z
    .object({
      of: z.literal('person'),
      /** Null: a new one. */
      id: personId.nullable(),
      revision: z.number().int(),
      person: personInput,
    })
    .strict(),
  z
    .object({
      of: z.literal('own status'),
      /** Null: a new one. */
      id: ownStatusId.nullable(),
      revision: z.number().int(),
      ownStatus: ownStatusInput,
    })
    .strict(),
])
export type SettingsChange = z.infer<typeof settingsChange>

const elsewhere = <Value>() =>
  refused<Value>('changed meanwhile', 'Somebody has changed this meanwhile. Look at it again, then decide.')

type ServiceFault = readonly [path: string, sentence: string]

const isEverOpenFor = ({ starts }: Offer, durationMs: number) =>
  starts.kind === 'departures' ||
  weeklyStretches(starts.hours).some((day) =>
    day.some(({ from, to }) => (to - from) * minuteMs >= durationMs),
  )

/** Why clients could never book a service that is offered to them; null: they could. */
function neverBookable({ offer, durationMinutes }: ServiceInput): ServiceFault | null {
  if (!offer.isPublic) return null
  if (offer.starts.kind === 'departures' && offer.starts.departures.length === 0) {
    return [
      'offer.starts.departures',
      'Add a departure: without one there is nothing that clients could book.',
    ]
  }
  if (!isEverOpenFor(offer, durationMinutes * minuteMs)) {
    const sentence =
      'It takes longer than its bookable hours are open on any day, so nobody could ever book it. Give longer hours, or fixed departures.'
    return ['offer.starts.hours', sentence]
  }
  const { noticeHours, horizonDays } = offer
  return noticeHours * hourMs >= (horizonDays + 1) * dayMs
    ? ['offer.noticeHours', 'The notice is longer than clients can look ahead, so nobody could ever book it.']
    : null
}

function serviceFault(settings: Settings, id: string | null, input: ServiceInput): ServiceFault | null {
  const { placeZone, offer, name } = input
  if (placeZone !== null && !settings.zones.has(placeZone)) {
    return ['placeZone', noSuchZone(placeZone)]
  }
  const isTaken = settings.services.some(
    (one) => one.id !== id && one.isActive && one.name.toLowerCase() === name.toLowerCase(),
  )
  if (isTaken && input.isActive)
    return ['name', `There is another service named “${name}”. Clients could not tell them apart.`]
  const unknown = offer.personIds.find((personId) => !settings.people.some((one) => one.id === personId))
  if (offer.paying && !offer.price?.cents) {
    return ['offer.paying', 'What is paid ahead is a part of the price: give a price.']
  }
  if (unknown !== undefined) return ['offer.personIds', 'One of these people is not in the team any more.']
  return neverBookable(input)
}

function serviceChanged(
  settings: Settings,
  { id, revision, service: input }: Extract<SettingsChange, { of: 'service' }>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.services.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such service any more.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = serviceFault(settings, id, input)
  if (fault) return refused('invalid', fault[1], fault[0])
  const put: Service = { ...input, id: id ?? context.newId('sv'), revision: (present?.revision ?? 0) + 1 }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put service', service: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Service ${deed}: ${put.name}.`),
  ])
}

function businessChanged(
  settings: Settings,
  { revision, business: input }: Extract<SettingsChange, { of: 'business' }>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.business
  if (present.revision !== revision) return elsewhere()
  if (input.sendingHours.weekly.every((day) => day.length === 0)) {
    return refused(
      'invalid',
      'Messages could never go: give sending hours on at least one day.',
      'sendingHours',
    )
  }
  const put: Business = { ...present, ...input, revision: revision + 1 }
  return done([
    { kind: 'put business', business: put },
    appendEvent(context, 'settings changed', {}, 'Hours or facts of the business changed.'),
  ])
}

function personFault(
  { people, services }: Settings,
  id: string | null,
  input: PersonInput,
): ServiceFault | null {
  const { name, email, role, isActive, hours } = input
  const others = people.filter((one) => one.id !== id)
  if (isActive && others.some((one) => one.isActive && one.email.toLowerCase() === email.toLowerCase())) {
    return ['email', 'Somebody else of the team has this address.']
  }
  const isLastOwner = !others.some((one) => one.isActive && one.role === 'owner')
  if (isLastOwner && (role !== 'owner' || !isActive)) {
    return ['role', 'Somebody has to be the owner. Make somebody else the owner first.']
  }
  if (hours?.weekly.every((day) => day.length === 0)) {
    return ['hours', `${name} could never be booked: give hours on at least one day.`]
  }
  const alone = services.find(
    ({ offer, isActive: isUsed }) => isUsed && offer.personIds.length === 1 && offer.personIds[0] === id,
  )
  return !isActive && alone
    ? ['isActive', `Nobody else can do “${alone.name}”. Say first who does it then.`]
    : null
}

function personChanged(
  settings: Settings,
  { id, revision, person: input }: Extract<SettingsChange, { of: 'person' }>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.people.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such person in the team.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = personFault(settings, id, input)
  if (fault) return refused('invalid', fault[1], fault[0])
  const put: Person = { ...input, id: id ?? context.newId('pe'), revision: (present?.revision ?? 0) + 1 }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put person', person: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Person ${deed}: ${put.name}.`),
  ])
}

const isBuiltIn = (name: string): name is BookingStatus => bookingStatus.options.some((one) => one === name)

/** Why a status may not follow what it says it does; null: it may. */
function followingFault(
  settings: Settings,
  { name, meaning, after }: OwnStatusInput,
  previous: string,
): string | null {
  if (isSameStatusName(previous, name)) return `“${name}” cannot follow itself.`
  const own = settings.ownStatuses.find((one) => one.name === previous)
  if (!own && !isBuiltIn(previous)) return `There is no status “${previous}” that it could follow.`
  const before = own ? own.meaning : bookingStatus.parse(previous)
  if (before === meaning || (meaning !== 'requested' && canBecome(before, meaning))) return null
  const which = own ? `“${previous}” means ${before}, and a` : 'A'
  return `${which} booking that is ${before} cannot become ${meaning}${after.length > 1 ? `: take “${previous}” out` : ''}.`
}

function ownStatusFault(settings: Settings, id: string | null, input: OwnStatusInput): ServiceFault | null {
  const { name, meaning, after, comes, serviceIds } = input
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (present && (present.name !== name || present.meaning !== meaning)) {
    const path = present.name === name ? 'meaning' : 'name'
    return [
      path,
      'A status keeps its name and its meaning: bookings, sequences and histories go by them. Archive it and add another one.',
    ]
  }
  if (settings.ownStatuses.some((one) => one.id !== id && isSameStatusName(one.name, name))) {
    return ['name', `There is a status “${name}” already.`]
  }
  if (!present && settings.ownStatuses.length >= 40) return ['name', 'At most 40 statuses of your own.']
  if (serviceIds.some((one) => !settings.services.some(({ id: of }) => of === one))) {
    return ['serviceIds', 'One of these services is not there any more.']
  }
  const fault = after.map((one) => followingFault(settings, input, one)).find((one) => one !== null)
  if (fault) return ['after', fault]
  const isEarly = comes !== null && comes.side === 'before'
  return isEarly && (meaning === 'completed' || meaning === 'missed')
    ? ['comes', `A booking that is still ahead cannot be ${meaning}: let it come after the start or the end.`]
    : null
}

function ownStatusChanged(
  settings: Settings,
  { id, revision, ownStatus: input }: Extract<SettingsChange, { of: 'own status' }>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such status any more.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = ownStatusFault(settings, id, input)
  if (fault) return refused('invalid', fault[1], fault[0])
  const isSameMoment =
    present?.isActive === true && JSON.stringify(present.comes) === JSON.stringify(input.comes)
  const put: OwnStatus = {
    ...input,
    id: id ?? context.newId('os'),
    comesSince: isSameMoment ? present.comesSince : context.now,
    revision: (present?.revision ?? 0) + 1,
  }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put own status', ownStatus: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Status ${deed}: ${put.name}.`),
  ])
}

/** A status of the business's own that nothing depends on is deleted; `uses` are the names of what does. */
export function removeOwnStatus(
  settings: Settings,
  id: string,
  uses: readonly string[],
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such status any more.')
  if (uses.length > 0) {
    return refused('not allowed now', `It is still used: ${uses.join(', ')}. Archive it instead.`)
  }
  return done([
    { kind: 'remove own status', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Status deleted: ${present.name}.`),
  ])
}

/** A change of the business, a service or a status as effects; the clients it concerns follow, one by one. */
export function settingsChanged(
  settings: Settings,
  change: SettingsChange,
  context: EngineContext,
): Result<readonly Effect[]> {
  switch (change.of) {
    case 'business':
      return businessChanged(settings, change, context)
    case 'service':
      return serviceChanged(settings, change, context)
    case 'person':
      return personChanged(settings, change, context)
    case 'own status':
      return ownStatusChanged(settings, change, context)
  }
}

/** A service that nothing depends on is deleted; `uses` are the names of what does. */
export function removeService(
  settings: Settings,
  id: string,
  uses: readonly string[],
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.services.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such service any more.')
  if (uses.length > 0) {
    return refused('not allowed now', `It is still used: ${uses.join(', ')}. Archive it instead.`)
  }
  return done([
    { kind: 'remove service', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Service deleted: ${present.name}.`),
  ])
}
