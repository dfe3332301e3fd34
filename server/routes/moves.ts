import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { MoveView } from '#core/api/moveEndpoints.ts'
import type { OfferedMove, PressedView } from '#core/api/moveViews.ts'
import { notTakenBack, presentOf } from '#core/engine/commands/moveCommands.ts'
import { offeredMoves, pressedAct, type Pressed } from '#core/engine/commands/movePressing.ts'
import type { OnePressMove, PressedMove } from '#core/model/onePressMove.ts'
import type { Settings, Slice } from '#core/planning/slice.ts'
import { inHouseWords } from '#core/sequences/inHouseWords.ts'
import { readBooking, readEnquiry } from '../db/clientStore.ts'
import { focusOn } from '../db/livingStore.ts'
import { pressedOn } from '../db/moveStore.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { usesOfMove } from '../engine/uses.ts'
import { Refusal } from '../http/problems.ts'
import { serve, valueOf } from './route.ts'
import { sequencesStartingOn } from './startedBy.ts'

/** What a move does, in a few words each: its parts, then the letters that start on it. */
const doesWords = (settings: Settings, { of, name, parts }: OnePressMove): string[] => [
  ...parts.map(inHouseWords),
  ...sequencesStartingOn(settings, pressedAct[of], name).flatMap(({ state, first }) =>
    first === null || state === 'draft'
      ? []
      : [first.waits ? `“${first.label}”, after a look` : `“${first.label}”`],
  ),
]

function pressedViewOf(settings: Settings, pressed: PressedMove, slice: Slice): PressedView {
  const { id, name, at, said, personId } = pressed
  return {
    id,
    name,
    at,
    said,
    personName: settings.people.find((one) => one.id === personId)?.name ?? null,
    whyNot: notTakenBack(pressed, presentOf(pressed, slice), slice),
  }
}

const offered = (application: Application, slice: Slice, pressed: Pressed): readonly OnePressMove[] =>
  offeredMoves(pressed, slice, application.context(null))

/** The moves that make sense for a booking or an enquiry, and the one pressed last. Null: its client cannot be read. */
export function offeredOn(
  application: Application,
  slice: Slice | null,
  pressed: Pressed,
): { moves: OfferedMove[]; pressed: PressedView | null } {
  if (!slice) return { moves: [], pressed: null }
  const { settings } = slice
  const { id } = pressed.item
  const [last] = pressedOn(application.store.statements, id)
  return {
    moves: offered(application, slice, pressed).map((move) => ({
      id: move.id,
      name: move.name,
      of: move.of,
      does: doesWords(settings, move),
      ids: [id],
    })),
    pressed: last ? pressedViewOf(settings, last, slice) : null,
  }
}

function readPressed({ store: { statements } }: Application, id: string): Pressed | null {
  const booking = id.startsWith('bk_') ? readBooking(statements, id) : null
  if (booking) return { of: 'booking', item: booking }
  const enquiry = id.startsWith('en_') ? readEnquiry(statements, id) : null
  return enquiry && { of: 'enquiry', item: enquiry }
}

/** The moves that make sense for at least one of several, each with those it makes sense for. */
function offeredOnSome(application: Application, ids: readonly string[]): OfferedMove[] {
  const settings = application.settings.required()
  const idsOf = new Map<string, string[]>()
  for (const id of new Set(ids)) {
    const pressed = readPressed(application, id)
    const slice = pressed && application.readableSliceOf(pressed.item.clientId, focusOn(id))
    if (!pressed || !slice) continue
    for (const move of offered(application, slice, pressed)) {
      idsOf.set(move.id, [...(idsOf.get(move.id) ?? []), id])
    }
  }
  return settings.onePressMoves.flatMap((move) => {
    const own = idsOf.get(move.id)
    if (!own) return []
    return [{ id: move.id, name: move.name, of: move.of, does: doesWords(settings, move), ids: own }]
  })
}

function moveView(application: Application, id: string): MoveView {
  const settings = application.settings.required()
  const move = settings.onePressMoves.find((one) => one.id === id)
  if (!move) throw new Refusal('not found', 'There is no such move any more.')
  return {
    move,
    sequences: sequencesStartingOn(settings, pressedAct[move.of], move.name),
    namedBy: [...usesOfMove(application, id)],
  }
}

/** Moves of one press: put together, offered, pressed, taken back. */
export function moveRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.move, ({ parameters }) => moveView(application, parameters.id))
  serve(router, statements, endpoints.movesOffered, ({ query }) => ({
    moves: offeredOnSome(application, query.ids),
  }))
  serve(router, statements, endpoints.addMove, ({ body: { move, letter }, called }) =>
    valueOf(commands.putMove(called('addMove'), { id: null, revision: 0, move, letter })),
  )
  serve(router, statements, endpoints.changeMove, ({ parameters: { id }, body, called }) => {
    const { revision, move, letter } = body
    return valueOf(commands.putMove(called('changeMove'), { id, revision, move, letter }))
  })
  serve(router, statements, endpoints.removeMove, ({ parameters: { id }, called }) =>
    valueOf(commands.removeMove(called('removeMove'), id)),
  )
  serve(router, statements, endpoints.pressMove, ({ parameters: { id }, body, called }) =>
    valueOf(commands.pressMove(called('pressMove'), id, body.on)),
  )
  serve(router, statements, endpoints.takeMoveBack, ({ parameters: { id }, called }) =>
    valueOf(commands.takeMoveBack(called('takeMoveBack'), id)),
  )
}
