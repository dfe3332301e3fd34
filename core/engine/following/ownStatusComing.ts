import { canBecome, type Booking } from '../../model/booking.ts'
import type { OwnStatus } from '../../model/ownStatus.ts'
import type { Settings } from '../../planning/slice.ts'
import { hourMs } from '../../time/calendar.ts'
import type { Effect } from '../effects.ts'

/* Which status of the business's own a booking may get next, and when it gets one by itself. */

/** What a booking is called at present, by the finest word there is. */
export const presentStatus = ({ own, status }: Booking): string => own.status ?? status

/** Whether a status may come next for a booking. */
export function mayFollow({ meaning, after, isActive, serviceIds }: OwnStatus, booking: Booking): boolean {
  if (!isActive || (serviceIds.length > 0 && !serviceIds.includes(booking.serviceId))) return false
  const isReached =
    booking.status === meaning || (meaning !== 'requested' && canBecome(booking.status, meaning))
  return isReached && (after.length === 0 || after.includes(presentStatus(booking)))
}

interface Coming {
  readonly at: number
  /** The moment it was to come at: of several that come late at once, the last one meant stays. */
  readonly moment: number
  readonly name: string
}

/**
 * Whether a status may come by itself: what a booking means, that it is confirmed or stands at all, changes that way
 * only where that is said in so many words.
 */
const mayCome = (status: OwnStatus, booking: Booking) =>
  mayFollow(status, booking) &&
  (booking.status === status.meaning || status.after.includes(presentStatus(booking)))

/** When a booking gets a status by itself, if it may then still follow. A late booking gets it at once. */
function comingOf(status: OwnStatus, booking: Booking): Coming | null {
  const { name, comes, comesSince } = status
  if (comes === null || booking.own.status === name || !mayCome(status, booking)) return null
  const day0 = comes.of === 'start' ? booking.startAt : booking.endAt
  const moment = day0 + (comes.side === 'before' ? -1 : 1) * comes.hours * hourMs
  const standsSince = Math.max(booking.statusAt[booking.status] ?? booking.madeAt, booking.timesSetAt)
  const hadAt = booking.own.at[name] ?? -Infinity
  if (moment <= comesSince || hadAt >= Math.max(standsSince, moment)) return null
  if (moment >= standsSince) return { at: moment, moment, name }
  return booking.endAt > standsSince && hadAt < standsSince ? { at: standsSince, moment, name } : null
}

/** The next status that a booking gets by itself; null: none. */
export function nextComing({ ownStatuses }: Settings, booking: Booking): Coming | null {
  const all = ownStatuses.flatMap((one) => comingOf(one, booking) ?? [])
  const [first] = all.sort(
    (one, other) => one.at - other.at || one.moment - other.moment || (one.name < other.name ? -1 : 1),
  )
  return first ?? null
}

/** The moment at which a date passes that gives the booking another status. */
export function comingMoment(settings: Settings, booking: Booking): readonly Effect[] {
  const next = nextComing(settings, booking)
  if (!next) return []
  const { id: key, clientId } = booking
  return [{ kind: 'set due moment', moment: { kind: 'own status comes', key, clientId, at: next.at } }]
}
