import { z } from 'zod'
import { moneyIn } from '../../letters/language.ts'
import { personId } from '../../model/business.ts'
import { clientId } from '../../model/client.ts'
import { contactIds, enquiry, enquiryId, newEnquiry, wish, type Enquiry } from '../../model/enquiry.ts'
import { pipelineId, stageName } from '../../model/pipeline.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { isoDate } from '../../model/values.ts'
import { businessDate, type Slice } from '../../planning/slice.ts'
import { meaningOf, pipelineOf, stageNamed } from '../../planning/stages.ts'
import { epochDayOf } from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { aboutEnquiry, enquiryOver, enteredStage, takenOver } from '../following/enquiryStage.ts'
import { conclude } from '../following/react.ts'
import { makeBooking, makeBookingInput, personProblem, type SeatsTaken } from './bookingCommands.ts'
import { oneByOne, type ManyDone } from './oneByOne.ts'

type Decided = Result<readonly Effect[]>

/** An enquiry as somebody of the team writes it down. */
export const newEnquiryInput = z
  .object({
    clientId,
    pipelineId,
    ...wish.shape,
    /** Null: who takes over the stage it comes in by, if anybody. */
    personInChargeId: personId.nullable(),
  })
  .strict()
export type NewEnquiryInput = z.infer<typeof newEnquiryInput>

/** What is known of an enquiry beside its stage. */
export const changeEnquiryInput = z
  .object({
    ...wish.shape,
    personInChargeId: personId.nullable(),
    deadlineOn: isoDate.nullable(),
    contactIds,
  })
  .strict()
export type ChangeEnquiryInput = z.infer<typeof changeEnquiryInput>

/** Where an enquiry goes, and, where it came to nothing, why. */
export const stageMove = z
  .object({ stage: stageName, lostReason: enquiry.shape.lostReason.default('') })
  .strict()
export type StageMove = z.infer<typeof stageMove>

/** An enquiry in the revision an act was decided on. */
export const seenEnquiry = z.object({ id: enquiryId, revision: z.number().int().min(1) }).strict()
export type SeenEnquiry = z.infer<typeof seenEnquiry>

/** When the booking that came of an enquiry takes place, and for how many. */
export const bookEnquiryInput = z
  .object({
    serviceId: makeBookingInput.shape.serviceId,
    startLocal: makeBookingInput.shape.startLocal,
    endLocal: makeBookingInput.shape.endLocal,
    partySize: makeBookingInput.shape.partySize,
    status: makeBookingInput.shape.status,
  })
  .strict()
export type BookEnquiryInput = z.infer<typeof bookEnquiryInput>

/** An enquiry came in and stands in its first stage. */
export function receiveEnquiry(slice: Slice, received: Enquiry, context: EngineContext): Decided {
  const come = appendEvent(context, 'enquiry received', aboutEnquiry(received), 'Enquiry received.')
  const entered = appendEvent(
    context,
    'enquiry stage entered',
    aboutEnquiry(received, received.stage),
    `Enquiry in “${received.stage}”.`,
  )
  const over = received.wishedOn === null ? [] : enquiryOver(received, slice)
  return done(conclude(slice, [{ kind: 'put enquiry', enquiry: received }, ...over, come, entered], context))
}

/** Why something cannot be wished for, or somebody not be in charge; null: it can. */
function wishFault(
  { settings }: Slice,
  { serviceId, personInChargeId }: Pick<Enquiry, 'serviceId' | 'personInChargeId'>,
): Result<never> | null {
  const isService = serviceId === null || settings.services.some(({ id }) => id === serviceId)
  if (!isService) return refused('not found', 'There is no such service.', 'serviceId')
  return personProblem(settings, personInChargeId)
}

const pastDate = (field: string) => refused<never>('invalid', 'This day is already past.', field)

/** A new enquiry of a client, in the first stage of a pipeline. */
export function addEnquiry(slice: Slice, input: NewEnquiryInput, context: EngineContext): Decided {
  const { settings } = slice
  const pipeline = settings.pipelines.find(({ id, isActive }) => id === input.pipelineId && isActive)
  if (!pipeline) return refused('not found', 'There is no such pipeline.', 'pipelineId')
  const fault = wishFault(slice, input)
  if (fault) return fault
  if (input.wishedOn !== null && input.wishedOn < businessDate(settings, context.now)) {
    return pastDate('wishedOn')
  }
  const [stage] = pipeline.stages
  if (!stage) return refused('not allowed now', `“${pipeline.name}” has no stages.`, 'pipelineId')
  const { personInChargeId } = input
  const by = takenOver(stage, { personInChargeId, deadlineOn: null }, settings, context.now)
  const asked = {
    ...input,
    ...by,
    ...(personInChargeId === null ? {} : { personInChargeId }),
    answers: input.answers.filter(({ answer }) => answer !== ''),
    id: context.newId('en'),
    stage: stage.name,
  }
  return receiveEnquiry(slice, newEnquiry(asked, context.now), context)
}

/** An enquiry in the revision that an act was decided on. */
export function findEnquiry({ facts }: Slice, id: string, revision: number): Result<Enquiry> {
  const found = facts.enquiries.find((one) => one.id === id)
  if (!found) return refused('not found', 'There is no such enquiry.')
  return found.revision === revision
    ? done(found)
    : refused(
        'changed meanwhile',
        'Somebody has changed this enquiry meanwhile. Look at it again, then decide.',
      )
}

const dateWords = (date: string | null) => (date === null ? 'none' : longDate(epochDayOf(date)))

/** What of an enquiry is another by now, as words. */
function changedWords(old: Enquiry, next: Enquiry, { settings }: Slice): readonly string[] {
  const inCharge = settings.people.find(({ id }) => id === next.personInChargeId)?.name ?? 'nobody'
  const service = settings.services.find(({ id }) => id === next.serviceId)?.name ?? 'not said'
  const budget = next.budgetCents === null ? 'not said' : moneyIn('en', next.budgetCents)
  const words: Partial<Record<keyof Enquiry, string>> = {
    what: `for ${next.what || 'nothing named'}`,
    serviceId: `service ${service}`,
    wishedOn: `date wished for ${dateWords(next.wishedOn)}`,
    partySize: `people ${next.partySize ?? 'not said'}`,
    budgetCents: `budget ${budget}`,
    source: `came by ${next.source || 'not said'}`,
    personInChargeId: `in charge ${inCharge}`,
    deadlineOn: `deadline ${dateWords(next.deadlineOn)}`,
    answers: 'other answers',
    contactIds: 'other people chosen to hear of it',
  }
  return (Object.keys(words) as (keyof typeof words)[]).flatMap((key) =>
    JSON.stringify(old[key]) === JSON.stringify(next[key]) ? [] : (words[key] ?? []),
  )
}

/** The facts of an enquiry as they are put right, its new moments included. */
function withFacts(
  old: Enquiry,
  facts: Partial<Enquiry>,
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  const { now } = context
  const next: Enquiry = { ...old, ...facts, revision: old.revision + 1 }
  const changes = changedWords(old, next, slice)
  if (changes.length === 0) return []
  const isOther = { wished: next.wishedOn !== old.wishedOn, deadline: next.deadlineOn !== old.deadlineOn }
  const put: Enquiry = {
    ...next,
    wishedSetAt: isOther.wished ? now : old.wishedSetAt,
    deadlineSetAt: isOther.deadline ? now : old.deadlineSetAt,
  }
  const moment = isOther.wished || next.serviceId !== old.serviceId ? enquiryOver(put, slice) : []
  const sentence = `Enquiry changed: ${changes.join(', ')}.`
  return [
    { kind: 'put enquiry', enquiry: put },
    ...moment,
    appendEvent(context, 'enquiry changed', aboutEnquiry(old), sentence),
  ]
}

/** Other facts of an enquiry: what for, when, for how many, who is in charge, until when. */
export function changeEnquiry(
  slice: Slice,
  id: string,
  revision: number,
  input: ChangeEnquiryInput,
  context: EngineContext,
): Decided {
  const found = findEnquiry(slice, id, revision)
  if (!found.ok) return found
  const old = found.value
  const fault = wishFault(slice, input)
  if (fault) return fault
  const known = slice.facts.client.contacts.map((one) => one.id)
  if (input.contactIds.some((one) => !known.includes(one))) {
    return refused('not found', 'One of these people is no contact of the client any more.', 'contactIds')
  }
  const today = businessDate(slice.settings, context.now)
  for (const field of ['wishedOn', 'deadlineOn'] as const) {
    const date = input[field]
    if (date !== null && date !== old[field] && date < today) return pastDate(field)
  }
  const answers = input.answers.filter(({ answer }) => answer !== '')
  const changed = withFacts(old, { ...input, answers }, slice, context)
  if (changed.length === 0) return refused('invalid', 'Nothing is different.')
  return done(conclude(slice, changed, context))
}

/** An enquiry gets another date wished for, or loses it. */
export function setWishedDate(
  slice: Slice,
  id: string,
  wishedOn: string | null,
  context: EngineContext,
): Decided {
  const old = slice.facts.enquiries.find((one) => one.id === id)
  if (!old) return refused('not found', 'There is no such enquiry.')
  const changed = withFacts(old, { wishedOn }, slice, context)
  if (changed.length === 0) return refused('not allowed now', 'That is the date it already has.')
  return done(conclude(slice, changed, context))
}

/** An enquiry enters another stage. Entering the one it is in does nothing. */
export function enterStage(slice: Slice, id: string, stage: string, context: EngineContext): Decided {
  const found = slice.facts.enquiries.find((one) => one.id === id)
  if (!found) return refused('not found', 'There is no such enquiry.')
  return done(conclude(slice, enteredStage(found, stage, slice.settings, context), context))
}

/** Why an enquiry cannot go into a stage; null: it can. */
function moveFault({ settings }: Slice, asked: Enquiry, { stage }: StageMove): Result<never> | null {
  const to = stageNamed(settings, asked.pipelineId, stage)
  if (!to) {
    const pipeline = pipelineOf(settings, asked)?.name ?? 'its pipeline'
    return refused('not found', `There is no stage “${stage}” in “${pipeline}” any more.`, 'stage')
  }
  return asked.stage === stage ? refused('not allowed now', `It is in “${stage}” already.`, 'stage') : null
}

/** A person takes an enquiry into another stage of its pipeline. */
export function moveEnquiry(
  slice: Slice,
  { id, revision }: SeenEnquiry,
  move: StageMove,
  context: EngineContext,
): Decided {
  const found = findEnquiry(slice, id, revision)
  if (!found.ok) return found
  const fault = moveFault(slice, found.value, move)
  if (fault) return fault
  const { lostReason } = move
  const entered = enteredStage(found.value, move.stage, slice.settings, context, { lostReason })
  return done(conclude(slice, entered, context))
}

/** Takes several enquiries of one client into a stage; the others go on where one cannot. */
export const moveEnquiries = (
  slice: Slice,
  seen: readonly SeenEnquiry[],
  move: StageMove,
  context: EngineContext,
): ManyDone => oneByOne(slice, seen, (present, one) => moveEnquiry(present, one, move, context))

/** What came of an enquiry is booked: with its client, its answers and who is in charge, and it is won. */
export function bookEnquiry(
  slice: Slice,
  { id, revision }: SeenEnquiry,
  input: BookEnquiryInput,
  seatsTaken: SeatsTaken,
  context: EngineContext,
): Decided {
  const found = findEnquiry(slice, id, revision)
  if (!found.ok) return found
  const asked = found.value
  const { settings } = slice
  const won = pipelineOf(settings, asked)?.stages.find(({ meaning }) => meaning === 'won')
  if (!won) return refused('not allowed now', 'Its pipeline has no stage that means won.')
  const before = slice.facts.bookings.find((one) => one.id === asked.bookingId)
  if (asked.bookingId !== null && before?.status !== 'cancelled') {
    return refused('not allowed now', 'A booking has come of it already.')
  }
  const { clientId: of, personInChargeId, answers } = asked
  const isThere = personProblem(settings, personInChargeId) === null
  const booked = makeBooking(
    slice,
    { ...input, clientId: of, personInChargeId: isThere ? personInChargeId : null },
    seatsTaken,
    context,
    answers,
  )
  if (!booked.ok) return booked
  const made = booked.value.find((one) => one.kind === 'put booking')
  const present: Slice = { settings, facts: withEffects(slice.facts, booked.value) }
  const bookingId = made?.booking.id ?? null
  const entered =
    meaningOf(settings, asked) === 'won'
      ? withBooking(asked, bookingId, context)
      : enteredStage(asked, won.name, settings, context, { bookingId })
  return done([...booked.value, ...conclude(present, entered, context)])
}

/** One that was won before anything was booked. */
const withBooking = (asked: Enquiry, bookingId: string | null, context: EngineContext): readonly Effect[] => [
  { kind: 'put enquiry', enquiry: { ...asked, bookingId, revision: asked.revision + 1 } },
  appendEvent(context, 'enquiry changed', aboutEnquiry(asked), 'A booking has come of it.'),
]
