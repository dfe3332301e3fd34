import type { Consequence } from '#core/api/views.ts'
import {
  cancelBooking,
  confirmBooking,
  missBooking,
  moveBooking,
  type MoveBookingInput,
} from '#core/engine/bookingCommands.ts'
import { consequencesOnBooking, hypothetical } from '#core/engine/consequences.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { refused, type Result } from '#core/model/problem.ts'
import type { Send } from '#core/model/send.ts'
import type { Change } from '#core/planning/difference.ts'
import { versionOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { deedWords } from '#core/sequences/deedWords.ts'
import { findStep } from '#core/sequences/steps.ts'
import { readBooking } from '../db/clientStore.ts'
import type { Office } from './office.ts'

/** An act on a booking that somebody asks about. */
export type BookingAct =
  | { readonly act: 'move'; readonly revision: number; readonly times: MoveBookingInput }
  | { readonly act: 'cancel' | 'confirm' | 'miss'; readonly revision: number }

const momentOf = (send: Send | null): number | null => send?.sentAt ?? send?.dueAt ?? send?.wantedAt ?? null

function lineOf(change: Change, settings: Settings): Consequence {
  const before = 'before' in change ? change.before : null
  const { after } = change
  const send = after ?? before
  const step = send && findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
  return {
    kind: change.kind,
    letterName: send && step ? deedWords(step, send.letterId, settings) : '',
    purpose: (after ?? before)?.purpose ?? 'reminder',
    beforeAt: momentOf(before),
    afterAt: change.kind === 'dropped' ? null : momentOf(after),
    reason: after?.reason?.sentence ?? null,
  }
}

function decide(
  office: Office,
  slice: Slice,
  id: string,
  asked: BookingAct,
  context: EngineContext,
): Result<readonly Effect[]> {
  switch (asked.act) {
    case 'move':
      return moveBooking(slice, id, asked.revision, asked.times, office.seatsTaken, context)
    case 'cancel':
      return cancelBooking(slice, id, asked.revision, context)
    case 'confirm':
      return confirmBooking(slice, id, asked.revision, context)
    case 'miss':
      return missBooking(slice, id, asked.revision, context)
  }
}

/** What an act on a booking would do, by the planner itself, with nothing done. */
export function askAboutBooking(
  office: Office,
  id: string,
  asked: BookingAct,
): Result<readonly Consequence[]> {
  const booking = readBooking(office.store.statements, id)
  const slice = booking && office.sliceOf(booking.clientId)
  if (!slice) return refused('not found', 'There is no such booking.')
  const context = hypothetical(office.clock.now())
  const found = consequencesOnBooking(slice, id, decide(office, slice, id, asked, context), context)
  return found.ok ? { ok: true, value: found.value.map((change) => lineOf(change, slice.settings)) } : found
}
