import { z } from 'zod'
import { bookingId } from '../../model/booking.ts'
import { enquiryId } from '../../model/enquiry.ts'
import {
  subjectIdOf,
  type MoveSubject,
  type OnePressMove,
  type PressedMove,
} from '../../model/onePressMove.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Send } from '../../model/send.ts'
import { plannableStates } from '../../model/sendState.ts'
import type { Run } from '../../model/sequence.ts'
import type { Slice } from '../../planning/slice.ts'
import { takenBack } from '../../sequences/startRules.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { momentsOf } from '../following/bookingStatus.ts'
import { ownMoments } from '../following/ownStatus.ts'
import { tagged } from '../following/perform.ts'
import { conclude } from '../following/react.ts'
import { goesOnAgain, nameOfRun, stoppedRun } from '../following/stopRuns.ts'
import { findBooking } from './bookingCommands.ts'
import { findEnquiry } from './enquiryCommands.ts'
import {
  aboutPressed,
  moveDone,
  pressedAct,
  pressedIn,
  type PartsDone,
  type Pressed,
} from './movePressing.ts'
import { oneByOne, type ManyDone } from './oneByOne.ts'

type Decided = Result<readonly Effect[]>

/** What a move is pressed on, in the revision that was decided on. */
export const seenSubject = z
  .object({ id: z.union([bookingId, enquiryId]), revision: z.number().int().min(1) })
  .strict()
export type SeenSubject = z.infer<typeof seenSubject>

function findSubject(slice: Slice, of: MoveSubject, { id, revision }: SeenSubject): Result<Pressed> {
  if (of === 'booking') {
    const found = findBooking(slice, id, revision)
    return found.ok ? done({ of, item: found.value }) : found
  }
  const found = findEnquiry(slice, id, revision)
  return found.ok ? done({ of, item: found.value }) : found
}

/** The letters a press has set going, as they are planned. */
function lettersOf(of: MoveSubject, effects: readonly Effect[]): readonly Send[] {
  const runIds = effects.flatMap((effect) =>
    effect.kind === 'put run' && effect.run.startedOn === pressedAct[of] ? [effect.run.id] : [],
  )
  const last = new Map<string, Send>()
  for (const effect of effects) {
    if (effect.kind === 'put send' && runIds.includes(effect.send.runId))
      last.set(effect.send.id, effect.send)
  }
  return [...last.values()]
}

/** A letter of a move that cannot go holds the whole move back; null: all can. */
function letterFault(move: OnePressMove, { settings }: Slice, effects: readonly Effect[]): Decided | null {
  const stuck = lettersOf(move.of, effects).find(({ state }) => state === 'blocked')
  if (!stuck) return null
  const name = settings.letters.find(({ id }) => id === stuck.letterId)?.name ?? 'Its message'
  const why = stuck.reason?.sentence ?? 'it cannot be sent.'
  return refused('not allowed now', `“${name}” cannot go: ${why} Nothing was done.`)
}

const ids = <Kind extends Effect['kind']>(
  effects: readonly Effect[],
  kind: Kind,
  idOf: (effect: Extract<Effect, { kind: Kind }>) => string | null,
): string[] => {
  const all = effects.flatMap((effect) =>
    effect.kind === kind ? (idOf(effect as Extract<Effect, { kind: Kind }>) ?? []) : [],
  )
  return [...new Set(all)]
}

/** What is kept of a press, to tell of it and to take it back. */
function recordOf(
  move: OnePressMove,
  pressed: Pressed,
  { said, effects: changed }: PartsDone,
  effects: readonly Effect[],
  { facts }: Slice,
  context: EngineContext,
): PressedMove {
  const after = withEffects(facts, effects)
  const wasThere = (items: readonly { readonly id: string }[], id: string) =>
    items.some((one) => one.id === id)
  const ranBefore = ({ id }: Run) => facts.runs.find((one) => one.id === id && one.state === 'running')
  const { tags: tagsBefore } = facts.client
  const { tags: tagsAfter } = after.client
  return {
    id: context.newId('pm'),
    name: move.name,
    at: context.now,
    personId: context.personId,
    was:
      pressed.of === 'booking'
        ? { of: 'booking', booking: pressed.item }
        : { of: 'enquiry', enquiry: pressed.item },
    revision: (pressedIn(pressed, after) ?? pressed).item.revision,
    said: [...said],
    tags: [
      ...tagsAfter.filter((tag) => !tagsBefore.includes(tag)).map((tag) => ({ tag, adds: true })),
      ...tagsBefore.filter((tag) => !tagsAfter.includes(tag)).map((tag) => ({ tag, adds: false })),
    ],
    happenings: changed.flatMap((effect) => (effect.kind === 'add happening' ? [effect.happening] : [])),
    taskIds: ids(effects, 'put task', ({ task }) => task.id),
    invoiceIds: ids(effects, 'put invoice', ({ invoice: { id } }) =>
      wasThere(facts.invoices, id) ? null : id,
    ),
    runIdsBefore: facts.runs.filter(({ startedAt }) => startedAt >= context.now).map(({ id }) => id),
    endedRunIds: ids(effects, 'put run', ({ run }) =>
      run.state === 'stopped' && ranBefore(run) ? run.id : null,
    ),
    heldRunIds: ids(effects, 'put run', ({ run }) =>
      run.held !== null && ranBefore(run)?.held === null ? run.id : null,
    ),
  }
}

/** Presses a move on a booking or an enquiry: all of it, or nothing. */
export function pressMove(
  slice: Slice,
  move: OnePressMove,
  seen: SeenSubject,
  context: EngineContext,
): Decided {
  const found = findSubject(slice, move.of, seen)
  if (!found.ok) return found
  const pressed = found.value
  const parts = moveDone(move, pressed, slice, context)
  if (!parts.ok) return parts
  const { effects: changed, manner, said } = parts.value
  const first = conclude(slice, changed, context, manner)
  const present: Slice = { ...slice, facts: withEffects(slice.facts, first) }
  const words = [`“${move.name}” pressed.`, ...said].join(' ')
  const event = appendEvent(context, pressedAct[move.of], aboutPressed(pressed, move.name), words)
  // After what its parts bring about: whatever that ends or leaves alone, its own letters start.
  const effects = [...first, ...conclude(present, [event], context)]
  const fault = letterFault(move, slice, effects)
  if (fault) return fault
  const record = recordOf(move, pressed, parts.value, effects, slice, context)
  return done([...effects, { kind: 'put pressed move', pressed: record }])
}

/** Presses a move on several things of one client; the others go on where it makes no sense for one. */
export const pressOnMany = (
  slice: Slice,
  move: OnePressMove,
  seen: readonly SeenSubject[],
  context: EngineContext,
): ManyDone => oneByOne(slice, seen, (present, one) => pressMove(present, move, one, context))

/** Runs that a press has set going, for what it was pressed on and by the tags it put on. */
function runsSince({ at, tags, runIdsBefore, ...pressed }: PressedMove, { facts }: Slice): readonly Run[] {
  const subjects = [subjectIdOf(pressed), ...pressed.invoiceIds]
  return facts.runs.filter(
    ({ id, startedAt, subject, startedOn }) =>
      startedAt >= at &&
      !runIdsBefore.includes(id) &&
      (subjects.includes(subject.id) || (startedOn === 'tag added' && tags.some(({ adds }) => adds))),
  )
}

/** A booking that ended because of it, and whose quick changes are over: its invoices are void since. */
const hasSettled = ({ of, ...was }: PressedMove['was'], { item }: Pressed) =>
  of === 'booking' &&
  'booking' in was &&
  'settling' in item &&
  item.status !== was.booking.status &&
  (item.status === 'cancelled' || item.status === 'missed') &&
  item.settling === null

const gone = 'Something of it has gone out or is done already: it cannot be taken back any more.'

/** Why a press cannot be taken back; null: it can. */
export function notTakenBack(pressed: PressedMove, present: Pressed | null, slice: Slice): string | null {
  if (!present) return 'What it was pressed on is not there any more.'
  if (present.item.revision !== pressed.revision) {
    return 'It has been changed since: it cannot be taken back any more.'
  }
  if (hasSettled(pressed.was, present)) {
    return 'What it changed has settled by now: give the booking another status instead.'
  }
  const runIds = runsSince(pressed, slice).map(({ id }) => id)
  const own = slice.facts.sends.filter(({ runId }) => runIds.includes(runId))
  const isStill = ({ state }: Send) => ['dropped', 'cancelled', ...plannableStates].includes(state)
  if (!own.every(isStill)) return gone
  const paid = slice.facts.invoices.some(
    ({ id, payments }) => pressed.invoiceIds.includes(id) && payments.length > 0,
  )
  return paid ? 'Something was paid because of it: it cannot be taken back any more.' : null
}

export const presentOf = ({ was }: PressedMove, slice: Slice): Pressed | null =>
  pressedIn(
    was.of === 'booking' ? { of: was.of, item: was.booking } : { of: was.of, item: was.enquiry },
    slice.facts,
  )

/** What it was pressed on, as that was before; what is no part of a move stays as it is by now. */
function restored(was: PressedMove['was'], present: Pressed, { settings }: Slice): readonly Effect[] {
  const { clientId, revision: since } = present.item
  const revision = since + 1
  if (was.of === 'booking' && present.of === 'booking') {
    const booking = { ...was.booking, clientId, revision, told: present.item.told }
    return [{ kind: 'put booking', booking }, ...momentsOf(settings, booking), ...ownMoments(booking)]
  }
  if (was.of !== 'enquiry' || present.of !== 'enquiry') return []
  const { ticks, evening } = present.item
  return [{ kind: 'put enquiry', enquiry: { ...was.enquiry, clientId, revision, ticks, evening } }]
}

function restoredRuns(pressed: PressedMove, slice: Slice, context: EngineContext): readonly Effect[] {
  const { runs } = slice.facts
  const ofIds = (wanted: readonly string[]) => runs.filter(({ id }) => wanted.includes(id))
  const why = `“${pressed.name}” was taken back.`
  return [
    ...runsSince(pressed, slice)
      .filter(({ state }) => state === 'running')
      .flatMap((run) => stoppedRun(run, nameOfRun(slice, run), takenBack, why, context)),
    ...ofIds(pressed.endedRunIds).flatMap((run) => goesOnAgain(run, nameOfRun(slice, run), context)),
    ...ofIds(pressed.heldRunIds).map((run): Effect => ({ kind: 'put run', run: { ...run, held: null } })),
  ]
}

/** The facts of a client without what a press had noted: its tags, its dates, its tasks, its invoices. */
function withoutNotes(pressed: PressedMove, { facts }: Slice, context: EngineContext): readonly Effect[] {
  const { tags, happenings, taskIds, invoiceIds } = pressed
  const { client } = facts
  const removed = happenings.map((happening): Effect => {
    return { kind: 'remove happening', clientId: client.id, happening }
  })
  const untagged = tags.reduce((effects: readonly Effect[], { tag, adds }) => {
    const present = withEffects(facts, effects).client
    const put = tagged(present, tag, !adds, context).filter(({ kind }) => kind === 'put client')
    return [...effects, ...put]
  }, [])
  return [
    ...removed,
    ...untagged,
    ...taskIds.map((id): Effect => ({ kind: 'remove task', id })),
    ...facts.invoices
      .filter(({ id }) => invoiceIds.includes(id))
      .map((invoice): Effect => ({ kind: 'put invoice', invoice: { ...invoice, voidedAt: context.now } })),
  ]
}

/** Takes a press back while nothing of it has gone: everything stands as it was before. */
export function takeMoveBack(slice: Slice, pressed: PressedMove, context: EngineContext): Decided {
  const present = presentOf(pressed, slice)
  const fault = notTakenBack(pressed, present, slice)
  if (fault !== null || !present) return refused('not allowed now', fault ?? gone)
  const changed: readonly Effect[] = [
    ...restored(pressed.was, present, slice),
    ...withoutNotes(pressed, slice, context),
    ...restoredRuns(pressed, slice, context),
    { kind: 'end pressed move', id: pressed.id, at: context.now },
    appendEvent(
      context,
      'move taken back',
      aboutPressed(present, pressed.name),
      `“${pressed.name}” was taken back: all of it is as it was before.`,
    ),
  ]
  return done(conclude(slice, changed, context, { startsNothing: true }))
}
