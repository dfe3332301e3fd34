import type { Service } from '../model/business.ts'
import { businessDate, placeZone, type Settings } from '../planning/slice.ts'
import { hourMs, minuteMs, type EpochDay } from '../time/calendar.ts'
import { isOpenThrough, openTimesOf, type OpenTimes } from '../time/openTimes.ts'
import { dayAt } from '../time/zones.ts'
import { startsOn, type Start } from './starts.ts'

/** What is booked already, of any service. */
export interface Taken {
  readonly serviceId: string
  readonly startAt: number
  readonly endAt: number
  readonly partySize: number
  readonly personInChargeId: string | null
}

/** A time that can be booked, with the seats that are left and who would do it; null: nobody in particular. */
export interface FreeTime extends Start {
  readonly seatsLeft: number
  readonly personId: string | null
}

interface Stretch {
  readonly from: number
  readonly to: number
}

/** With the buffers of its service. */
type Occupied = Taken & Stretch

/** What is booked, in the order in which it begins, buffers included. */
export interface Diary {
  readonly occupied: readonly Occupied[]
  readonly longest: number
}

/** A stretch of time with the buffers of its service around it. */
export function withBuffers(service: Service | undefined, { startAt, endAt }: Start): Stretch {
  const { bufferBeforeMinutes = 0, bufferAfterMinutes = 0 } = service?.offer ?? {}
  return { from: startAt - bufferBeforeMinutes * minuteMs, to: endAt + bufferAfterMinutes * minuteMs }
}

/** What is booked, made ready to be asked for many times. */
export function diaryOf(settings: Settings, taken: readonly Taken[]): Diary {
  const services = new Map(settings.services.map((service) => [service.id, service]))
  const occupied = taken
    .map((one): Occupied => {
      const { serviceId, startAt, endAt, partySize, personInChargeId } = one
      const { from, to } = withBuffers(services.get(serviceId), one)
      return { serviceId, startAt, endAt, partySize, personInChargeId, from, to }
    })
    .sort((one, other) => one.from - other.from)
  return { occupied, longest: occupied.reduce((most, { from, to }) => Math.max(most, to - from), 0) }
}

/** The first place at which something begins at or after a moment. */
function firstFrom(occupied: readonly Occupied[], moment: number): number {
  let low = 0
  let high = occupied.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((occupied[middle]?.from ?? Infinity) < moment) low = middle + 1
    else high = middle
  }
  return low
}

/** What of the diary lies in the way of a stretch of time; what only touches it does not. */
export function inTheWay({ occupied, longest }: Diary, { from, to }: Stretch): readonly Occupied[] {
  const found: Occupied[] = []
  for (let index = firstFrom(occupied, from - longest); index < occupied.length; index += 1) {
    const one = occupied[index]
    if (!one || one.from >= to) break
    if (one.to > from) found.push(one)
  }
  return found
}

const ownTimes = new WeakMap<Settings, ReadonlyMap<string, OpenTimes>>()

/** When the people of the team who have hours of their own can be booked. */
function timesOfPeople(settings: Settings): ReadonlyMap<string, OpenTimes> {
  const known = ownTimes.get(settings)
  if (known) return known
  const zone = settings.zones.zone(settings.business.zone)
  const times = new Map(
    settings.people.flatMap(({ id, hours }) =>
      hours === null ? [] : [[id, openTimesOf(hours, zone, settings.isHoliday)] as const],
    ),
  )
  ownTimes.set(settings, times)
  return times
}

/** Whether somebody is in the team and at work throughout a stretch of time. */
export function isAtWork(settings: Settings, personId: string, { startAt, endAt }: Start): boolean {
  const person = settings.people.find(({ id, isActive }) => id === personId && isActive)
  if (!person) return false
  if (person.away.length > 0) {
    const [first, last] = [businessDate(settings, startAt), businessDate(settings, endAt - 1)]
    if (person.away.some(({ from, to }) => from <= last && first <= to)) return false
  }
  const times = timesOfPeople(settings).get(personId)
  return times === undefined || isOpenThrough(times, startAt, endAt)
}

/** Somebody who can do it then; null: that does not matter; undefined: nobody is free. */
function personFor(
  settings: Settings,
  { offer }: Service,
  start: Start,
  shared: readonly Occupied[],
  others: readonly Occupied[],
  preferredId: string | null,
): string | null | undefined {
  if (offer.personIds.length === 0) return null
  const able = offer.personIds.filter((id) => isAtWork(settings, id, start))
  const isFree = (id: string) => !others.some(({ personInChargeId }) => personInChargeId === id)
  const already = able.find(
    (id) => shared.some(({ personInChargeId }) => personInChargeId === id) && isFree(id),
  )
  const preferred = able.find((id) => id === preferredId && isFree(id))
  return already ?? preferred ?? able.find(isFree)
}

/** A start as it can still be booked, by a preferred person where they are free; null: it is taken. */
export function freeAt(
  settings: Settings,
  service: Service,
  diary: Diary,
  start: Start,
  preferredId: string | null = null,
): FreeTime | null {
  const met = inTheWay(diary, withBuffers(service, start))
  const isSame = (one: Taken) =>
    service.offer.isShared && one.serviceId === service.id && one.startAt === start.startAt
  const shared = met.filter(isSame)
  const others = met.filter((one) => !isSame(one))
  if (others.some(({ serviceId }) => serviceId === service.id)) return null
  const personId = personFor(settings, service, start, shared, others, preferredId)
  const seatsLeft = service.seats - shared.reduce((sum, { partySize }) => sum + partySize, 0)
  return personId === undefined || seatsLeft <= 0 ? null : { ...start, seatsLeft, personId }
}

export interface Asked {
  /** Dates of the service's place, the last one included. */
  readonly fromDay: EpochDay
  readonly toDay: EpochDay
  readonly now: number
  readonly partySize: number
}

/** Why clients cannot book a start by themselves at a moment; null: they can. */
export function tooSoonOrFar(settings: Settings, { offer }: Service, startAt: number, now: number) {
  const zone = settings.zones.zone(settings.business.zone)
  if (startAt <= now) return 'past'
  if (startAt < now + offer.noticeHours * hourMs) return 'notice'
  return dayAt(zone, startAt) > dayAt(zone, now) + offer.horizonDays ? 'horizon' : null
}

/** The times at which clients can book a service for so many people, in order. */
export function freeTimes(
  settings: Settings,
  service: Service,
  diary: Diary,
  { fromDay, toDay, now, partySize }: Asked,
): readonly FreeTime[] {
  const found: FreeTime[] = []
  for (let day = fromDay; day <= toDay; day += 1) {
    for (const start of startsOn(settings, service, day)) {
      if (tooSoonOrFar(settings, service, start.startAt, now) !== null) continue
      const free = freeAt(settings, service, diary, start)
      if (free && free.seatsLeft >= partySize) found.push(free)
    }
  }
  return found
}

/** The dates of its place on which clients can book a service at all. */
export function bookableDays(settings: Settings, service: Service, now: number) {
  const place = placeZone(settings, service)
  const business = settings.zones.zone(settings.business.zone)
  // The horizon is a date of the business; the same moment may be another date at the place.
  const last = dayAt(business, now) + service.offer.horizonDays + 1
  return { fromDay: dayAt(place, now), toDay: last }
}
