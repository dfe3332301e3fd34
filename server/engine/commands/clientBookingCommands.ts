import {
  bookByClient,
  cancelByClient,
  confirmByClient,
  moveByClient,
  type Wish,
} from '#core/engine/commands/clientBooking.ts'
import type { BringInEntry } from '#core/api/calendarEndpoints.ts'
import { bookAt } from '#core/engine/commands/bookingCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Settings } from '#core/planning/slice.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { diaryBetween } from '../diaries.ts'
import { known, type Booker } from './knownClients.ts'
import { bookingAnswer, onBooking } from './onClient.ts'

function booked(
  application: Application,
  booker: Booker,
  wish: Wish,
  settings: Settings,
  context: EngineContext,
): Result<Decision<{ id: string }>> {
  const who = known(application, booker, settings, context)
  if (!who.ok) return who
  const { slice, effects } = who.value
  const diary = diaryBetween(application, wish.startAt, wish.startAt)
  const decided = bookByClient(slice, wish, diary, context)
  if (!decided.ok) return decided
  const { id } = bookingAnswer(decided.value)
  return done({ effects: [...effects, ...decided.value], answer: { id } })
}

/** Somebody who stands in a calendar, by the name there. */
function bookerOf({ name, email, phone }: BringInEntry): Booker {
  const [firstName = '', ...others] = email === null ? ['', name] : name.split(' ')
  return { firstName, lastName: others.join(' '), email, phone, language: 'en', zone: null }
}

/** An entry of a calendar becomes a booking, where it is not one already. */
function broughtIn(
  application: Application,
  entry: BringInEntry,
  settings: Settings,
  context: EngineContext,
): Result<Decision<{ id: string }>> {
  const { key, startAt, endAt, serviceId, partySize } = entry
  if (application.store.statements.one('bookingBroughtInAs', { key })) {
    return refused('not allowed now', 'It has been brought in before.')
  }
  const who = known(application, bookerOf(entry), settings, context)
  if (!who.ok) return who
  const { slice, effects } = who.value
  const asked = { serviceId, partySize, personInChargeId: null, broughtInAs: key }
  const decided = bookAt(
    slice,
    { ...asked, clientId: slice.facts.client.id, status: 'confirmed' },
    { startAt, endAt },
    application.seatsTaken,
    context,
  )
  if (!decided.ok) return decided
  return done({ effects: [...effects, ...decided.value], answer: { id: bookingAnswer(decided.value).id } })
}

/** What clients do by themselves, on the public page and by the links in their messages. */
export function createClientBookingCommands(application: Application) {
  return {
    bookByClient: (call: CommandCall, booker: Booker, wish: Wish): Result<{ id: string }> =>
      application.command(call, (context, settings) =>
        settings.services.some(({ id }) => id === wish.serviceId)
          ? booked(application, booker, wish, settings, context)
          : refused('not found', 'There is no such service.', 'serviceId'),
      ),
    bringIn: (call: CommandCall, entry: BringInEntry): Result<{ id: string }> =>
      application.command(call, (context, settings) => broughtIn(application, entry, settings, context)),
    confirmByClient: (call: CommandCall, id: string, revision: number) =>
      onBooking(application, call, id, (slice, context) => confirmByClient(slice, id, revision, context)),
    moveByClient: (call: CommandCall, id: string, revision: number, startAt: number) =>
      onBooking(application, call, id, (slice, context) =>
        moveByClient(slice, id, revision, startAt, diaryBetween(application, startAt, startAt, id), context),
      ),
    cancelByClient: (call: CommandCall, id: string, revision: number, reason: string) =>
      onBooking(application, call, id, (slice, context) =>
        cancelByClient(slice, id, revision, reason, context),
      ),
  }
}
