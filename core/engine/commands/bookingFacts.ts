import { z } from 'zod'
import { bookingPeople, givenAnswer, seatStatuses, type Booking } from '../../model/booking.ts'
import { personId } from '../../model/business.ts'
import { moneyIn } from '../../letters/language.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { serviceOf, type Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import {
  findBooking,
  makeBookingInput,
  personProblem,
  seatsProblem,
  type SeatsTaken,
} from './bookingCommands.ts'

/** What is known of a booking beside its times and its status, as a person changes it. */
export const changeBookingInput = z
  .object({
    partySize: makeBookingInput.shape.partySize,
    personInChargeId: personId.nullable(),
    /** What was agreed for it alone, in cents; null: what its service costs. */
    priceCents: z
      .number('Give an amount, such as 120 or 99.50.')
      .int('Whole cents.')
      .min(0, 'A price is not below nothing.')
      .max(100_000_000, 'At most 1,000,000.')
      .nullable(),
    people: bookingPeople,
    answers: z.array(givenAnswer).max(40, 'At most 40 answers.'),
  })
  .strict()
export type ChangeBookingInput = z.infer<typeof changeBookingInput>

function factsFault(
  slice: Slice,
  { partySize, personInChargeId, people }: ChangeBookingInput,
): Result<never> | null {
  const { settings, facts } = slice
  const nobody = personProblem(settings, personInChargeId)
  if (nobody) return nobody
  const known = facts.client.contacts.map(({ id }) => id)
  const named = [...people.participantIds, ...(people.payerId === null ? [] : [people.payerId])]
  if (named.some((id) => !known.includes(id))) {
    return refused('not found', 'One of these people is no contact of the client any more.', 'people')
  }
  if (new Set(people.participantIds).size !== people.participantIds.length) {
    return refused('invalid', 'Somebody is named twice.', 'people')
  }
  const count = people.participantIds.length
  return count > partySize
    ? refused('invalid', `${count} people are named, but it is for ${partySize}.`, 'partySize')
    : null
}

/** What of a booking's facts is another by now, as words. */
function factsChanged(old: Booking, next: Booking, { settings }: Slice): readonly string[] {
  const inCharge = settings.people.find(({ id }) => id === next.personInChargeId)?.name ?? 'the business'
  const isOther = (part: 'people' | 'answers') => JSON.stringify(old[part]) !== JSON.stringify(next[part])
  return [
    ...(old.partySize === next.partySize ? [] : [`for ${next.partySize} instead of ${old.partySize}`]),
    ...(old.personInChargeId === next.personInChargeId ? [] : [`in charge now ${inCharge}`]),
    ...(old.priceCents === next.priceCents
      ? []
      : [next.priceCents === null ? 'at the price of the service' : `for ${moneyIn('en', next.priceCents)}`]),
    ...(isOther('people') ? ['other people named'] : []),
    ...(isOther('answers') ? ['other answers'] : []),
  ]
}

/** Other facts of a booking: how many it is for, who takes part and pays, who is in charge, what was answered. */
export function changeBooking(
  slice: Slice,
  bookingId: string,
  revision: number,
  input: ChangeBookingInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const old = found.value
  const fault = factsFault(slice, input)
  if (fault) return fault
  const answers = input.answers.filter(({ answer }) => answer !== '')
  const next: Booking = { ...old, ...input, answers, revision: old.revision + 1 }
  const changes = factsChanged(old, next, slice)
  if (changes.length === 0) return refused('invalid', 'Nothing is different.')
  const service = serviceOf(slice.settings, old.serviceId)
  const takesMore = next.partySize > old.partySize && seatStatuses.includes(old.status)
  const noSeats = takesMore ? seatsProblem(service, next, old.id, seatsTaken) : null
  if (noSeats) return noSeats
  const sentence = `Booking changed: ${changes.join(', ')}.`
  const about = { clientId: old.clientId, subject: { kind: 'booking', id: old.id } } as const
  const event = appendEvent(context, 'booking changed', about, sentence)
  return done(conclude(slice, [{ kind: 'put booking', booking: next }, event], context))
}
