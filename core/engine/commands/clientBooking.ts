import type { Booking, GivenAnswer } from '../../model/booking.ts'
import type { Service } from '../../model/business.ts'
import type { Question } from '../../model/offer.ts'
import { done, refused, type Problem, type Result } from '../../model/problem.ts'
import { freeAt, tooSoonOrFar, type Diary, type FreeTime } from '../../booking/freeTimes.ts'
import { changeableUntil } from '../../booking/policy.ts'
import { startsOn } from '../../booking/starts.ts'
import { placeZone, serviceOf, type Settings, type Slice } from '../../planning/slice.ts'
import { dayAt } from '../../time/zones.ts'
import { dateAndTime } from '../../time/format.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { bookAt, cancelForClient, findBooking, moveTo } from './bookingCommands.ts'

/*
 * What clients can do with a booking by themselves, without anybody of the team.
 */

/** What a client wishes to book, the answers by the ids of the questions. */
export interface Wish {
  readonly serviceId: string
  readonly startAt: number
  readonly partySize: number
  readonly answers: Readonly<Record<string, string>>
}

function answerFault(question: Question, answer: string): string | null {
  if (answer === '') return question.isRequired ? `Please answer: ${question.label}` : null
  if (answer.length > 2000) return 'At most 2000 characters.'
  if (question.kind === 'line' && answer.includes('\n')) return 'One line only, please.'
  return question.kind === 'choice' && !question.options.includes(answer)
    ? 'Please choose one of the options.'
    : null
}

/** The answers to a service's questions with their words; refused with the first question that is not answered. */
export function answersTo(
  { offer }: Service,
  given: Readonly<Record<string, string>>,
): Result<readonly GivenAnswer[]> {
  for (const question of offer.questions) {
    const fault = answerFault(question, given[question.id] ?? '')
    if (fault !== null) return refused('invalid', fault, `answers.${question.id}`)
  }
  return done(
    offer.questions
      .map(({ id, label }) => ({ question: label, answer: given[id] ?? '' }))
      .filter(({ answer }) => answer !== ''),
  )
}

const notOffered = (sentence: string, field = 'startAt') => refused<FreeTime>('invalid', sentence, field)

function tooSoonProblem(settings: Settings, service: Service, startAt: number, now: number) {
  const why = tooSoonOrFar(settings, service, startAt, now)
  const { noticeHours, horizonDays } = service.offer
  if (why === 'past') return notOffered('This time is past. Please choose another one.')
  if (why === 'notice')
    return notOffered(
      `This can be booked until ${noticeHours} hours before it begins. Please choose a later time.`,
    )
  return why === 'horizon'
    ? notOffered(`This can be booked up to ${horizonDays} days ahead. Please choose an earlier time.`)
    : null
}

/** A time as clients can book it by themselves now, or why they cannot. */
export function freeForClients(
  settings: Settings,
  service: Service,
  { startAt, partySize }: Pick<Wish, 'startAt' | 'partySize'>,
  diary: Diary,
  now: number,
  preferredId: string | null = null,
): Result<FreeTime> {
  if (!service.isActive || !service.offer.isPublic)
    return notOffered(`${service.name} cannot be booked here at present.`, 'serviceId')
  const zone = placeZone(settings, service)
  const start = startsOn(settings, service, dayAt(zone, startAt)).find((one) => one.startAt === startAt)
  if (!start)
    return notOffered(`${service.name} does not begin at that time. Please choose one of the times.`)
  const problem = tooSoonProblem(settings, service, startAt, now)
  if (problem) return problem
  if (partySize > service.seats)
    return notOffered(`There is room for ${service.seats}, not for ${partySize}.`, 'partySize')
  const free = freeAt(settings, service, diary, start, preferredId)
  if (!free) return refused('no seats left', `${dateAndTime(zone, startAt)} has just been taken.`, 'startAt')
  return free.seatsLeft < partySize
    ? refused('no seats left', `Only ${free.seatsLeft} of ${service.seats} seats are left then.`, 'startAt')
    : done(free)
}

/** A booking a client makes: at once, or as a request, as the service says. */
export function bookByClient(
  slice: Slice,
  wish: Wish,
  diary: Diary,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { settings } = slice
  const service = settings.services.find(({ id }) => id === wish.serviceId)
  if (!service) return refused('not found', 'There is no such service.', 'serviceId')
  const free = freeForClients(settings, service, wish, diary, context.now)
  if (!free.ok) return free
  const answers = answersTo(service, wish.answers)
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
export function closedToClient(service: Service, booking: Booking, now: number): Problem['sentence'] | null {
  if (booking.status === 'cancelled') return 'This booking is cancelled.'
  if (booking.startAt <= now || booking.status === 'completed' || booking.status === 'missed')
    return 'This booking lies in the past.'
  return now > changeableUntil(service, booking) ? 'It is too late to change this booking here.' : null
}

function changeable(slice: Slice, bookingId: string, revision: number, now: number): Result<Booking> {
  const found = findBooking(slice, bookingId, revision)
  if (!found.ok) return found
  const why = closedToClient(serviceOf(slice.settings, found.value.serviceId), found.value, now)
  return why === null ? found : refused('not allowed now', why)
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
  const { settings } = slice
  const { serviceId, partySize, personInChargeId } = found.value
  const service = serviceOf(settings, serviceId)
  const wish = { startAt, partySize }
  const free = freeForClients(settings, service, wish, diary, context.now, personInChargeId)
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
