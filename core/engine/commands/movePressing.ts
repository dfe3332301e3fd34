import { evaluate } from '../../conditions/evaluate.ts'
import type { Booking } from '../../model/booking.ts'
import type { Enquiry } from '../../model/enquiry.ts'
import { isStatusByHand } from '../../model/inHouse.ts'
import type { MovePart, OnePressMove } from '../../model/onePressMove.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { StartAct } from '../../model/startEvent.ts'
import type { Subject } from '../../model/subject.ts'
import { businessDate, type ClientFacts, type Slice } from '../../planning/slice.ts'
import { stageNamed } from '../../planning/stages.ts'
import { thereOn } from '../../sequences/standIns.ts'
import { epochDayOf, isoDateOf } from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { statusChange, type BookingChange } from '../following/bookingStatus.ts'
import { aboutEnquiry, enteredStage } from '../following/enquiryStage.ts'
import { ownStatusChange } from '../following/ownStatus.ts'
import { tagged } from '../following/perform.ts'
import type { Manner } from '../following/react.ts'
import { startFacts } from '../following/startRuns.ts'
import { taskSet } from '../following/taskSet.ts'
import { happened } from './dealingCommands.ts'

/** What a move is pressed on. */
export type Pressed =
  { readonly of: 'booking'; readonly item: Booking } | { readonly of: 'enquiry'; readonly item: Enquiry }

export const subjectOf = ({ of, item: { id } }: Pressed): Subject => ({ kind: of, id })

/** What the pressing of a move is called among what can start a sequence. */
export const pressedAct: Readonly<Record<OnePressMove['of'], StartAct>> = {
  booking: 'booking move pressed',
  enquiry: 'enquiry move pressed',
}

/** What parts come to, and how they are told. */
export interface PartsDone {
  readonly effects: readonly Effect[]
  readonly said: readonly string[]
  readonly manner: Manner
}

type Done = Result<PartsDone>

const plainly = (effects: readonly Effect[], said: string): Done =>
  done({ effects, said: effects.length === 0 ? [] : [said], manner: {} })

const changedWith = ({ effects, manner }: BookingChange, said: string): Done =>
  done({ effects, manner, said: [said] })

function intoStage(
  pressed: Pressed,
  { stage: name, reason: lostReason }: Extract<MovePart, { kind: 'stage' }>,
  { settings }: Slice,
  context: EngineContext,
): Done {
  if (pressed.of !== 'enquiry') return refused('not allowed now', 'A booking has no stage.')
  const { item } = pressed
  if (!stageNamed(settings, item.pipelineId, name)) {
    return refused('not allowed now', `Its pipeline has no stage “${name}”.`)
  }
  if (item.stage === name) return refused('not allowed now', `It is in “${name}” already.`)
  return plainly(enteredStage(item, name, settings, context, { lostReason }), `Stage: ${name}.`)
}

function intoStatus(pressed: Pressed, status: string, slice: Slice, context: EngineContext): Done {
  if (pressed.of !== 'booking') return refused('not allowed now', 'An enquiry has no status.')
  const { item } = pressed
  const changed = isStatusByHand(status)
    ? statusChange(slice, item, status, context)
    : ownStatusChange(slice, item, status, context)
  return changed.ok ? changedWith(changed.value, `Status: ${status}.`) : changed
}

/** An own field of it says something else; empty: it is not there any more. */
function withField(pressed: Pressed, field: string, value: string, context: EngineContext): Done {
  const { answers } = pressed.item
  const at = answers.findIndex(({ question }) => question === field)
  if ((answers[at]?.answer ?? '') === value) return plainly([], '')
  const answer = { question: field, answer: value }
  const given =
    value === '' ? answers.toSpliced(at, 1) : at < 0 ? [...answers, answer] : answers.with(at, answer)
  const changed = { answers: [...given], revision: pressed.item.revision + 1 }
  const said = value === '' ? `“${field}” taken away.` : `“${field}”: ${value}.`
  const { clientId } = pressed.item
  const about = { clientId, subject: subjectOf(pressed) }
  const put: Effect =
    pressed.of === 'booking'
      ? { kind: 'put booking', booking: { ...pressed.item, ...changed } }
      : { kind: 'put enquiry', enquiry: { ...pressed.item, ...changed } }
  return plainly([put, appendEvent(context, `${pressed.of} changed`, about, said)], said)
}

function withTask(
  pressed: Pressed,
  { title, dueInDays }: Extract<MovePart, { kind: 'task' }>,
  { settings }: Slice,
  context: EngineContext,
): Done {
  const dueDay = epochDayOf(businessDate(settings, context.now)) + dueInDays
  const dueOn = isoDateOf(dueDay)
  const { clientId, personInChargeId } = pressed.item
  const inCharge = settings.people.find(({ id, isActive }) => id === personInChargeId && isActive)
  const personId = inCharge ? thereOn(settings.people, inCharge, dueOn).id : null
  const asked = { clientId, subject: subjectOf(pressed), title, dueOn, personId }
  const said = `Task for ${longDate(dueDay)}: ${title}.`
  return plainly(taskSet(asked, said, context), said)
}

function partDone(part: MovePart, pressed: Pressed, slice: Slice, context: EngineContext): Done {
  const { client } = slice.facts
  switch (part.kind) {
    case 'stage':
      return intoStage(pressed, part, slice, context)
    case 'status':
      return intoStatus(pressed, part.status, slice, context)
    case 'date stamp': {
      const stamp = { kind: 'date stamped', name: part.label, at: context.now } as const
      return plainly(happened(client.id, stamp, context), `Date noted: ${part.label}.`)
    }
    case 'tag': {
      const said = part.adds ? `Tag “${part.tag}”.` : `Tag “${part.tag}” taken off.`
      return plainly(tagged(client, part.tag, part.adds, context), said)
    }
    case 'task':
      return withTask(pressed, part, slice, context)
    case 'field':
      return withField(pressed, part.field, part.value, context)
  }
}

/** What a move is pressed on, as it stands by now. */
export function pressedIn({ of, item: { id } }: Pressed, facts: ClientFacts): Pressed | null {
  if (of === 'booking') {
    const item = facts.bookings.find((one) => one.id === id)
    return item ? { of, item } : null
  }
  const item = facts.enquiries.find((one) => one.id === id)
  return item ? { of, item } : null
}

/** All parts of a move, each on what the ones before it have left; refused as a whole where one is not possible. */
function partsDone(move: OnePressMove, pressed: Pressed, slice: Slice, context: EngineContext): Done {
  let all: PartsDone = { effects: [], said: [], manner: {} }
  for (const part of move.parts) {
    const present: Slice = { ...slice, facts: withEffects(slice.facts, all.effects) }
    const did = partDone(part, pressedIn(pressed, present.facts) ?? pressed, present, context)
    if (!did.ok) return did
    const { effects, said, manner } = did.value
    all = {
      effects: [...all.effects, ...effects],
      said: [...all.said, ...said],
      manner: { ...all.manner, ...manner },
    }
  }
  return done(all)
}

/** What a move does to what it is pressed on, before anything follows from that; refused where it makes no sense. */
export function moveDone(move: OnePressMove, pressed: Pressed, slice: Slice, context: EngineContext): Done {
  if (!move.isActive || move.of !== pressed.of) return refused('not found', 'There is no such move any more.')
  const trigger = {
    on: pressedAct[move.of],
    name: move.name,
    at: context.now,
    clientId: pressed.item.clientId,
    subject: subjectOf(pressed),
  }
  const { asked } = startFacts(trigger, slice, context.now)
  if (move.onlyIf !== null && !evaluate(move.onlyIf, asked).holds) {
    return refused('not allowed now', `What “${move.name}” asks for does not hold for it at present.`)
  }
  return partsDone(move, pressed, slice, context)
}

/** The moves that make sense for something at a moment. */
export const offeredMoves = (
  pressed: Pressed,
  slice: Slice,
  context: EngineContext,
): readonly OnePressMove[] =>
  slice.settings.onePressMoves.filter((move) => moveDone(move, pressed, slice, context).ok)

export const aboutPressed = (pressed: Pressed, name = '') =>
  pressed.of === 'enquiry'
    ? aboutEnquiry(pressed.item, name)
    : ({ clientId: pressed.item.clientId, subject: subjectOf(pressed), name } as const)
