import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import type { Client } from '../model/client.ts'
import type { Letter } from '../model/letter.ts'
import type { Send } from '../model/send.ts'
import type { Run, Sequence, SequenceVersion } from '../model/sequence.ts'
import type { EpochDay } from '../time/calendar.ts'
import { openTimesOf, type OpenTimes } from '../time/openTimes.ts'
import type { Zone, ZoneTable } from '../time/zones.ts'

/** What is the same for every client: the business, its people, services, letters, sequences and calendars. */
export interface Settings {
  readonly business: Business
  readonly people: readonly Person[]
  readonly services: readonly Service[]
  readonly letters: readonly Letter[]
  readonly sequences: readonly Sequence[]
  readonly sequenceVersions: readonly SequenceVersion[]
  readonly zones: ZoneTable
  readonly isHoliday: (day: EpochDay) => boolean
  /** False: sending is held back, nothing leaves. */
  readonly isSendingOn: boolean
}

/** Everything about one client, as far as a command or a plan can need it. */
export interface ClientFacts {
  readonly client: Client
  readonly bookings: readonly Booking[]
  readonly runs: readonly Run[]
  readonly sends: readonly Send[]
}

export interface Slice {
  readonly settings: Settings
  readonly facts: ClientFacts
}

export function serviceOf(settings: Settings, serviceId: string): Service {
  const service = settings.services.find((one) => one.id === serviceId)
  if (!service) throw new Error(`No service ${serviceId}`)
  return service
}

/** The zone of a service's place, else that of the business. */
export function placeZone(settings: Settings, service: Service): Zone {
  return settings.zones.zone(service.placeZone ?? settings.business.zone)
}

const sendingTimes = new WeakMap<Settings, OpenTimes>()

/** When messages may go: the sending hours of the business, in its zone. */
export function sendingTimesOf(settings: Settings): OpenTimes {
  const known = sendingTimes.get(settings)
  if (known) return known
  const zone = settings.zones.zone(settings.business.zone)
  const times = openTimesOf(settings.business.sendingHours, zone, settings.isHoliday)
  sendingTimes.set(settings, times)
  return times
}

export function versionOf(settings: Settings, sequenceId: string, version: number): SequenceVersion {
  const found = settings.sequenceVersions.find(
    (one) => one.sequenceId === sequenceId && one.version === version,
  )
  if (!found) throw new Error(`No version ${version} of sequence ${sequenceId}`)
  return found
}
