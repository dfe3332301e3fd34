import type { Booking, BookingStatus } from '../model/booking.ts'
import { placeZone, serviceOf, type Settings } from '../planning/slice.ts'
import { clockTime } from '../time/format.ts'
import { dayAt } from '../time/zones.ts'
import { inTheWay, isAtWork, withBuffers, type Diary } from './freeTimes.ts'
import { startsOn } from './starts.ts'

type Placed = Pick<Booking, 'serviceId' | 'startAt' | 'endAt' | 'personInChargeId' | 'status'>

/** What is over takes nobody's time any more. */
const changeable: readonly BookingStatus[] = ['requested', 'confirmed']

/** Whether a booking is given another time, service or person: what its place among the others hangs on. */
export function isPlacedAnew(before: Placed | null, after: Placed): boolean {
  return (
    before === null ||
    before.startAt !== after.startAt ||
    before.endAt !== after.endAt ||
    before.serviceId !== after.serviceId ||
    before.personInChargeId !== after.personInChargeId
  )
}

/**
 * What a person should know who gives a booking its place, and may do so all the same: a time that clients could not
 * choose, somebody who is not at work or has something else, another booking of the service in the way.
 */
export function cautionsOf(settings: Settings, booking: Placed, diary: Diary): readonly string[] {
  const { startAt, endAt, personInChargeId } = booking
  if (!changeable.includes(booking.status)) return []
  const service = serviceOf(settings, booking.serviceId)
  const zone = placeZone(settings, service)
  const starts = startsOn(settings, service, dayAt(zone, startAt))
  const isOffered = starts.some((start) => start.startAt === startAt && start.endAt === endAt)
  const met = inTheWay(diary, withBuffers(service, booking)).filter(
    (one) => !(service.offer.isShared && one.serviceId === service.id && one.startAt === startAt),
  )
  const person = settings.people.find(({ id }) => id === personInChargeId)
  const others = met.filter((one) => person && one.personInChargeId === person.id)
  const said = (one: (typeof met)[number]) =>
    `${serviceOf(settings, one.serviceId).name} from ${clockTime(zone, one.startAt)} to ${clockTime(zone, one.endAt)}`
  return [
    ...(isOffered ? [] : [`${service.name} is not offered at this time: clients could not choose it.`]),
    ...(person && !isAtWork(settings, person.id, booking) ? [`${person.name} is not at work then.`] : []),
    ...others.map((one) => `${person?.name ?? ''} has ${said(one)} then.`),
    ...met
      .filter((one) => one.serviceId === service.id && !others.includes(one))
      .map((one) => `In the way, with the time around it: ${said(one)}.`),
  ]
}
