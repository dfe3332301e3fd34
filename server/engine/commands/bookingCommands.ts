import {
  makeBooking,
  settleNow,
  type MakeBookingInput,
  type MoveBookingInput,
} from '#core/engine/commands/bookingCommands.ts'
import { changeBooking, type ChangeBookingInput } from '#core/engine/commands/bookingFacts.ts'
import {
  actOnBookings,
  countingSeats,
  type ManyBookingsAct,
  type SeenBooking,
} from '#core/engine/commands/manyBookings.ts'
import { done, type Result } from '#core/model/problem.ts'
import { readBooking } from '../../db/clientStore.ts'
import { focusOn, onlyLiving } from '../../db/livingStore.ts'
import type { Application, CommandCall } from '../application.ts'
import { decideOnBooking, type BookingAct } from '../considering/consequenceLines.ts'
import { bookingAnswer, onBooking, onClient, type Changed } from './onClient.ts'
import { decideTogether, manyDecided, type ManyAnswer } from './together.ts'

const making =
  (application: Application) =>
  (call: CommandCall, input: MakeBookingInput): Result<Changed> =>
    application.command(call, (context) =>
      onClient(
        application,
        input.clientId,
        onlyLiving,
        'There is no such client.',
        (slice) => makeBooking(slice, input, application.seatsTaken, context),
        bookingAnswer,
      ),
    )

/** What the team can do with one booking, and with many at once. */
export function createBookingCommands(application: Application) {
  const { seatsTaken } = application
  const asked = (call: CommandCall, id: string, act: BookingAct) =>
    onBooking(application, call, id, (slice, context) =>
      decideOnBooking(application, slice, id, act, context),
    )
  const act =
    (kind: 'cancel' | 'confirm' | 'miss' | 'complete') => (call: CommandCall, id: string, revision: number) =>
      asked(call, id, { act: kind, revision })
  return {
    makeBooking: making(application),
    onBooking: asked,
    confirmBooking: act('confirm'),
    cancelBooking: act('cancel'),
    /** Nobody came. */
    missBooking: act('miss'),
    /** It has taken place. */
    completeBooking: act('complete'),
    moveBooking: (call: CommandCall, id: string, revision: number, times: MoveBookingInput) =>
      asked(call, id, { act: 'move', revision, times }),
    giveOwnStatus: (call: CommandCall, id: string, revision: number, status: string | null) =>
      asked(call, id, { act: 'status', revision, status }),
    changeBooking: (call: CommandCall, id: string, revision: number, input: ChangeBookingInput) =>
      onBooking(application, call, id, (slice, context) =>
        changeBooking(slice, id, revision, input, seatsTaken, context),
      ),
    /** Ends the settle time at once. */
    settleNow: (call: CommandCall, id: string, revision: number) =>
      onBooking(application, call, id, (slice, context) => settleNow(slice, id, revision, context)),
    /** One thing with many bookings, as it was announced; those it cannot be done with stay as they are. */
    actOnBookings: (
      call: CommandCall,
      bookings: readonly SeenBooking[],
      manyAct: ManyBookingsAct,
    ): Result<ManyAnswer> =>
      application.command(call, (context) => {
        const seen = new Map(bookings.map((one) => [one.id, one]))
        const items = [...seen.keys()].map((id) => ({
          id,
          item: readBooking(application.store.statements, id),
        }))
        const seats = countingSeats(seatsTaken)
        const together = decideTogether(application, items, {
          clientOf: ({ clientId }) => clientId,
          reading: (own) => focusOn(...own.map(({ id }) => id)),
          decide: (slice, own) => {
            const ownSeen = own.flatMap(({ id }) => seen.get(id) ?? [])
            return actOnBookings(slice, ownSeen, manyAct, seats, context)
          },
          missing: 'There is no such booking.',
        })
        return done(manyDecided(items.length, together))
      }),
  }
}
