import { freeAt, tooSoonOrFar, type Diary, type FreeTime } from '../../booking/freeTimes.ts'
import { refusalWords } from '../../booking/refusalWords.ts'
import { startsOn } from '../../booking/starts.ts'
import { longDateIn } from '../../letters/language.ts'
import type { Booking, GivenAnswer } from '../../model/booking.ts'
import type { Service } from '../../model/business.ts'
import type { Question } from '../../model/offer.ts'
import { awaitsClient, changeableUntil, isOffered } from '../../model/policy.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Language } from '../../model/values.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { clockTime } from '../../time/format.ts'
import { dayAt } from '../../time/zones.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { bookAt, cancelForClient, confirmBooking, moveTo } from './bookingCommands.ts'

/*
 * What clients can do with a booking by themselves, without anybody of the team. Why they cannot is said in their
 * language.
 */

/** What a client wishes to book, the answers by the ids of the questions. */
export interface Wish {
  readonly serviceId: string
  readonly startAt: number
  readonly partySize: number
  readonly answers: Readonly<Record<string, string>>
  /** What they are answered in: that of the page, whatever the client reads otherwise. */
  readonly language: Language
}

function answerFault(question: Question, answer: string, language: Language): string | null {
  const words = refusalWords[language]
  if (answer === '') return question.isRequired ? words.answer(question.label) : null
  if (answer.length > 2000) return words.longAnswer
  if (question.kind === 'line' && answer.includes('\n')) return words.oneLine
  return question.kind === 'choice' && !question.options.includes(answer) ? words.noOption : null
}

/** The answers to a service's questions with their words; refused with the first that is missing or no answer. */
export function answersTo(
  { offer }: Service,
  given: Readonly<Record<string, string>>,
  language: Language,
): Result<readonly GivenAnswer[]> {
  for (const question of offer.questions) {
    const fault = answerFault(question, given[question.id] ?? '', language)
    if (fault !== null) return refused('invalid', fault, `answers.${question.id}`)
  }
  return done(
    offer.questions
      .map(({ id, label }) => ({ question: label, answer: given[id] ?? '' }))
      .filter(({ answer }) => answer !== ''),
  )
}

/** Where and when somebody asks for a time, in which language they are answered. */
export interface Asking {
  readonly settings: Settings
  readonly diary: Diary
  readonly now: number
  readonly language: Language
  /** Who would rather do it; null: nobody in particular. */
  readonly preferredId: string | null
}

function offeredProblem(
  { settings, now, language }: Asking,
  service: Service,
  { startAt, partySize }: Pick<Wish, 'startAt' | 'partySize'>,
): Result<never> | null {
  const words = refusalWords[language]
  const { noticeHours, horizonDays } = service.offer
  if (!isOffered(service)) return refused('invalid', words.notOffered(service.name), 'serviceId')
  switch (tooSoonOrFar(settings, service, startAt, now)) {
    case 'past':
      return refused('invalid', words.past, 'startAt')
    case 'notice':
      return refused('invalid', words.notice(noticeHours), 'startAt')
    case 'horizon':
      return refused('invalid', words.horizon(horizonDays), 'startAt')
    case null:
      return partySize > service.seats
        ? refused('invalid', words.tooMany(service.seats, partySize), 'partySize')
        : null
  }
}

/** A time as clients can book it by themselves now, or why they cannot. */
export function freeForClients(
  asking: Asking,
  service: Service,
  wish: Pick<Wish, 'startAt' | 'partySize'>,
): Result<FreeTime> {
  const { settings, diary, language, preferredId } = asking
  const { startAt, partySize } = wish
  const words = refusalWords[language]
  const problem = offeredProblem(asking, service, wish)
  if (problem) return problem
  const zone = placeZone(settings, service)
  const day = dayAt(zone, startAt)
  const start = startsOn(settings, service, day).find((one) => one.startAt === startAt)
  if (!start) return refused('invalid', words.noStart(service.name), 'startAt')
  const free = freeAt(settings, service, diary, start, preferredId)
  if (!free) {
    const when = `${longDateIn(language, day)}, ${clockTime(zone, startAt)}`
    return refused('no seats left', words.taken(when), 'startAt')
  }
  return free.seatsLeft < partySize
    ? refused('no seats left', words.fewSeats(free.seatsLeft), 'startAt')
    : done(free)
}

const askingFor = (
  { settings, facts }: Slice,
  diary: Diary,
  now: number,
  preferredId: string | null,
): Asking => ({ settings, diary, now, language: facts.client.language, preferredId })

/** A booking a client makes: at once, or as a request, as the service says. */
export function bookByClient(
  slice: Slice,
  wish: Wish,
  diary: Diary,
  context: EngineContext,
): Result<readonly Effect[]> {
  const service = serviceOf(slice.settings, wish.serviceId)
  const { language } = wish
  const asking = { ...askingFor(slice, diary, context.now, null), language }
  const free = freeForClients(asking, service, wish)
  if (!free.ok) return free
  const answers = answersTo(service, wish.answers, language)
  if (!answers.ok) return answers
  const asked = {
    clientId: slice.facts.client.id,
    serviceId: service.id,
    partySize: wish.partySize,
    status: service.offer.confirms === 'at once' ? 'confirmed' : 'requested',
    personInChargeId: free.value.personId,
    answers: answers.value,
  } as const
  return bookAt(slice, asked, free.value, () => 0, context)
}

/** Why a client can do nothing with a booking by themselves any more; null: they can. */
export function closedToClient(
  service: Service,
  booking: Booking,
  now: number,
): 'cancelled' | 'over' | 'late' | null {
  if (booking.status === 'cancelled') return 'cancelled'
  if (booking.startAt <= now || booking.status === 'completed' || booking.status === 'missed') return 'over'
  return now > changeableUntil(service, booking) ? 'late' : null
}

function changeable(slice: Slice, bookingId: string, revision: number, now: number): Result<Booking> {
  const words = refusalWords[slice.facts.client.language]
  const booking = slice.facts.bookings.find(({ id }) => id === bookingId)
  if (booking?.revision !== revision) return refused('changed meanwhile', words.changedMeanwhile)
  const why = closedToClient(serviceOf(slice.settings, booking.serviceId), booking, now)
  if (why === null) return done(booking)
  const said = { cancelled: words.isCancelled, over: words.isOver, late: words.tooLate } as const
  return refused('not allowed now', said[why])
}

/** A client confirms, from the mailbox they gave, a booking that waits for just that. */
export function confirmByClient(
  slice: Slice,
  bookingId: string,
  revision: number,
  context: EngineContext,
): Result<readonly Effect[]> {
  const words = refusalWords[slice.facts.client.language]
  const booking = slice.facts.bookings.find(({ id }) => id === bookingId)
  if (booking?.revision !== revision) return refused('changed meanwhile', words.changedMeanwhile)
  const service = serviceOf(slice.settings, booking.serviceId)
  if (booking.startAt <= context.now) return refused('not allowed now', words.isOver)
  if (!awaitsClient(service, booking)) return refused('not allowed now', words.needsNoConfirming)
  return confirmBooking(slice, bookingId, revision, context)
}

/** A client moves a booking to another free time. `diary`: without this booking. */
export function moveByClient(
  slice: Slice,
  bookingId: string,
  revision: number,
  startAt: number,
  diary: Diary,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = changeable(slice, bookingId, revision, context.now)
  if (!found.ok) return found
  const { serviceId, partySize, personInChargeId } = found.value
  if (startAt === found.value.startAt) {
    return refused('invalid', refusalWords[slice.facts.client.language].sameTime, 'startAt')
  }
  const asking = askingFor(slice, diary, context.now, personInChargeId)
  const free = freeForClients(asking, serviceOf(slice.settings, serviceId), { startAt, partySize })
  if (!free.ok) return free
  const { personId, ...times } = free.value
  const booked = personId === null ? times : { ...times, personInChargeId: personId }
  return moveTo(slice, bookingId, revision, booked, () => 0, context)
}

export function cancelByClient(
  slice: Slice,
  bookingId: string,
  revision: number,
  reason: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const found = changeable(slice, bookingId, revision, context.now)
  return found.ok ? cancelForClient(slice, bookingId, revision, reason, context) : found
}
