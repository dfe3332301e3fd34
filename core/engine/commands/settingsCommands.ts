import { z } from 'zod'
import { business, service, serviceId, type Business, type Service } from '../../model/business.ts'
import type { Offer } from '../../model/offer.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { dayMs, hourMs, minuteMs } from '../../time/calendar.ts'
import { weeklyStretches } from '../../time/openTimes.ts'
import { noSuchZone } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { personSettingsChange, personChanged } from './peopleSettings.ts'
import { elsewhere, type SettingsFault } from './settingsFault.ts'
import { statusSettingsChange, ownStatusChanged } from './statusSettings.ts'

/** What of the business can be changed once it is set up. */
export const businessInput = business.pick({
  name: true,
  postalAddress: true,
  phone: true,
  senderName: true,
  senderAddress: true,
  replyTo: true,
  sharedMailbox: true,
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
  personSettingsChange,
  statusSettingsChange,
])
export type SettingsChange = z.infer<typeof settingsChange>

const isEverOpenFor = ({ starts }: Offer, durationMs: number) =>
  starts.kind === 'departures' ||
  weeklyStretches(starts.hours).some((day) =>
    day.some(({ from, to }) => (to - from) * minuteMs >= durationMs),
  )

/** Why clients could never book a service that is offered to them; null: they could. */
function neverBookable({ offer, durationMinutes }: ServiceInput): SettingsFault | null {
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

function serviceFault(settings: Settings, id: string | null, input: ServiceInput): SettingsFault | null {
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
