import {
  bookByClient,
  cancelByClient,
  confirmByClient,
  moveByClient,
  type Wish,
} from '#core/engine/commands/clientBooking.ts'
import type { BringInEntry } from '#core/api/calendarEndpoints.ts'
import { bookAt } from '#core/engine/commands/bookingCommands.ts'
import { addClient, type ClientInput } from '#core/engine/commands/clientCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { withEffects, type Effect } from '#core/engine/effects.ts'
import { folded } from '#core/model/folded.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Language } from '#core/model/values.ts'
import { factsOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { onlyLiving } from '../../db/livingStore.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { diaryBetween } from '../diaries.ts'
import { bookingAnswer, onBooking } from './onClient.ts'

/** Who books on the public page, or stands in a calendar that is brought in. */
export interface Booker {
  readonly firstName: string
  readonly lastName: string
  /** Null: not known, and no message reaches them. */
  readonly email: string | null
  readonly phone: string
  readonly language: Language
  /** Null: where the business is, as far as is known. */
  readonly zone: string | null
}

const nameOf = ({ firstName, lastName }: Booker) => [firstName, lastName].filter(Boolean).join(' ')

function inputOf(booker: Booker): ClientInput {
  const { firstName, lastName, email, phone, language, zone } = booker
  return {
    name: nameOf(booker),
    zone,
    language,
    tags: [],
    takesPromotional: false,
    isActive: true,
    contacts: [{ id: null, firstName, lastName, email, phone, isPrimary: true }],
    namedDates: [],
  }
}

/**
 * The client somebody is by their address; where several share it, the one of that name; by the name alone where there
 * is no address. Null: nobody yet.
 */
function knownAs({ store }: Application, booker: Booker): string | null {
  const { email } = booker
  const rows =
    email === null
      ? store.statements.all('clientsByName', { name: nameOf(booker) })
      : store.statements.all('clientsByAddress', { email })
  const [only] = rows
  if (rows.length === 1) return String(only?.['id'])
  const name = folded(nameOf(booker))
  const same = rows.find((row) => folded(String(row['name'])) === name)
  return same ? String(same['id']) : null
}

interface Known {
  readonly slice: Slice
  /** What makes them known, where they are new. */
  readonly effects: readonly Effect[]
}

/** Who books: somebody who is known, whose facts are left as they are, or a new client. */
function known(
  application: Application,
  booker: Booker,
  settings: Settings,
  context: EngineContext,
): Result<Known> {
  const id = knownAs(application, booker)
  const slice = id === null ? null : application.sliceOf(id, onlyLiving)
  if (slice) return done({ slice, effects: [] })
  const added = addClient(settings, inputOf(booker), context)
  if (!added.ok) return added
  const client = added.value.flatMap((one) => (one.kind === 'put client' ? [one.client] : []))[0]
  if (!client) throw new Error('The command added no client')
  return done({ slice: { settings, facts: withEffects(factsOf(client), added.value) }, effects: added.value })
}

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
