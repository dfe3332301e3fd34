import type { Booking, Cancellation } from '../../model/booking.ts'
import { isSameStatusName, type OwnStatus } from '../../model/ownStatus.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { minuteMs } from '../../time/calendar.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { withUndone } from './bookingSettling.ts'
import {
  bookingChange,
  bookingWords,
  statusChange,
  withReached,
  type BookingChange,
} from './bookingStatus.ts'
import { comingMoment, mayFollow, nextComing, presentStatus } from './ownStatusComing.ts'
import { conclude, type Starting } from './react.ts'

/*
 * Statuses of the business's own. Each has the meaning of one that every booking knows: entering it brings that about,
 * too. What starts on it starts when it has settled; what stops on it stops at once.
 */

export function ownStatusNamed({ ownStatuses }: Settings, name: string): OwnStatus | null {
  return ownStatuses.find((one) => isSameStatusName(one.name, name)) ?? null
}

function whyNot(own: OwnStatus, booking: Booking, settings: Settings): string | null {
  const { name, after, isActive, serviceIds } = own
  if (!isActive) return `“${name}” is archived: no booking gets it any more.`
  if (booking.own.status === name) return `This booking is “${name}” already.`
  if (serviceIds.length > 0 && !serviceIds.includes(booking.serviceId)) {
    return `“${name}” is not for bookings of ${serviceOf(settings, booking.serviceId).name}.`
  }
  if (mayFollow(own, booking)) return null
  const only = after.length === 0 ? '' : ` It follows only ${after.map((one) => `“${one}”`).join(' or ')}.`
  return `A booking that is ${presentStatus(booking)} cannot become “${name}”.${only}`
}

const byBusiness: Cancellation = { by: 'business', reason: '', feeCents: 0 }

/** The booking with the meaning of a status, as a change of its own where it has another one. */
function withMeaning(
  slice: Slice,
  booking: Booking,
  { meaning }: OwnStatus,
  context: EngineContext,
): Result<{ readonly booking: Booking; readonly change: BookingChange | null }> {
  if (booking.status === meaning || meaning === 'requested') {
    return done({ booking: { ...booking, revision: booking.revision + 1 }, change: null })
  }
  const changed = statusChange(slice, booking, meaning, context, meaning === 'cancelled' ? byBusiness : null)
  if (!changed.ok) return changed
  const { bookings } = withEffects(slice.facts, changed.value.effects)
  return done({ booking: bookings.find(({ id }) => id === booking.id) ?? booking, change: changed.value })
}

/** The settling of a booking's own status that changes now, against how it stood before. */
function settlingOf({ own }: Booking, { business }: Settings, now: number) {
  const { settling, status, at } = own
  if (settling && settling.until > now) return settling
  return { since: now, until: now + business.settleMinutes * minuteMs, from: { status, at } }
}

/** The moment at which a quick change of an own status has settled. */
export const ownMoments = ({ id, clientId, own }: Booking): readonly Effect[] =>
  own.settling
    ? [
        {
          kind: 'set due moment',
          moment: { kind: 'own status settles', key: id, clientId, at: own.settling.until },
        },
      ]
    : [{ kind: 'clear due moment', moment: { kind: 'own status settles', key: id } }]

/** A change that only takes back what is settling: as if it had never been, but time has passed. */
function takenBack(slice: Slice, booking: Booking, context: EngineContext): Result<BookingChange> {
  const { settling } = booking.own
  const { since = context.now, from = { status: null, at: {} } } = settling ?? {}
  const next: Booking = {
    ...booking,
    own: { ...from, settling: null },
    history: withUndone(booking.history, since, context.now, 'all'),
    revision: booking.revision + 1,
  }
  const sentence = `Booking is ${presentStatus(next)} after all: ${bookingWords(slice.settings, next)}.`
  return done({
    effects: bookingChange(slice.settings, next, 'booking changed', sentence, context),
    manner: { undoes: { bookingId: booking.id, since, undone: 'own status' } },
  })
}

const isTakingBack = ({ own: { settling } }: Booking, name: string | null, now: number) =>
  settling !== null && settling.until > now && settling.from.status === name

/** Gives a booking a status of the business's own, by name; null: only what that meant is left. */
export function ownStatusChange(
  slice: Slice,
  booking: Booking,
  name: string | null,
  context: EngineContext,
  /** A date has passed: that is no quick change that could be taken back, so nothing settles. */
  isByItself = false,
): Result<BookingChange> {
  const { settings } = slice
  const { now } = context
  if (name === null) {
    if (booking.own.status === null) return refused('not allowed now', 'It has no status of yours.')
    if (isTakingBack(booking, null, now)) return takenBack(slice, booking, context)
    const own = { ...booking.own, status: null }
    const next = { ...booking, own, revision: booking.revision + 1 }
    const sentence = `“${booking.own.status}” no more, only ${booking.status}: ${bookingWords(settings, next)}.`
    return done({ effects: bookingChange(settings, next, 'booking changed', sentence, context), manner: {} })
  }
  const own = ownStatusNamed(settings, name)
  if (!own) return refused('not found', `There is no status “${name}”.`)
  // What only takes back a change need not be allowed to follow it.
  if (isTakingBack(booking, own.name, now) && booking.own.status !== own.name) {
    return takenBack(slice, booking, context)
  }
  const fault = whyNot(own, booking, settings)
  if (fault !== null) return refused('not allowed now', fault)
  const meant = withMeaning(slice, booking, own, context)
  if (!meant.ok) return meant
  const { booking: standing, change } = meant.value
  const next: Booking = {
    ...standing,
    own: {
      status: own.name,
      at: { ...standing.own.at, [own.name]: now },
      settling: isByItself ? null : settlingOf(standing, settings, now),
    },
    history: withReached(standing.history, own.name),
  }
  const sentence = `Booking is “${own.name}”: ${bookingWords(settings, next)}.`
  const entered = bookingChange(settings, next, 'booking status entered', sentence, context, own.name)
  return done({
    effects: [...(change?.effects ?? []), ...entered, ...ownMoments(next)],
    manner: change?.manner ?? {},
  })
}

/** What starts on a booking's own status does so now. */
const entering = ({ id, clientId, own }: Booking, name: string, { now }: EngineContext): Starting => ({
  on: 'booking status entered',
  name,
  at: now,
  actedAt: own.at[name] ?? now,
  clientId,
  subject: { kind: 'booking', id },
})

/** The end of a settle time of an own status: what starts on it begins now, where it is still so. */
export function endOwnSettling(slice: Slice, bookingId: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'own status settles', key: bookingId } }
  const booking = slice.facts.bookings.find(({ id }) => id === bookingId)
  const settling = booking?.own.settling
  if (!booking || !settling) return [cleared]
  const { status: name, at } = booking.own
  const isNew = name !== null && name !== settling.from.status
  const own = { status: name, at: isNew ? { ...at, [name]: context.now } : at, settling: null }
  const start = isNew ? entering(booking, name, context) : null
  return conclude(slice, [{ kind: 'put booking', booking: { ...booking, own } }, cleared], context, {
    settled: start ? [start] : [],
  })
}

/** A date has passed that gives a booking another status. */
export function ownStatusComes(slice: Slice, bookingId: string, context: EngineContext): readonly Effect[] {
  const cleared: Effect = { kind: 'clear due moment', moment: { kind: 'own status comes', key: bookingId } }
  const booking = slice.facts.bookings.find(({ id }) => id === bookingId)
  const next = booking && nextComing(slice.settings, booking)
  if (!booking || !next) return [cleared]
  if (next.at > context.now) return [cleared, ...comingMoment(slice.settings, booking)]
  const changed = ownStatusChange(slice, booking, next.name, context, true)
  if (!changed.ok) return [cleared]
  const { effects, manner } = changed.value
  const start = { ...entering(booking, next.name, context), actedAt: context.now }
  return conclude(slice, [cleared, ...effects], context, { ...manner, settled: [start] })
}
