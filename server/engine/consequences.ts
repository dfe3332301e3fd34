import type { Consequence } from '#core/api/views.ts'
import { announcedOf } from '#core/engine/announced.ts'
import {
  cancelBooking,
  confirmBooking,
  missBooking,
  moveBooking,
  type MoveBookingInput,
} from '#core/engine/bookingCommands.ts'
import { changeClient, type ClientInput } from '#core/engine/clientCommands.ts'
import { consequencesOf, consequencesOnBooking, hypothetical } from '#core/engine/consequences.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Send } from '#core/model/send.ts'
import { changedSend, messageName, type Change } from '#core/planning/difference.ts'
import { versionOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { deedWords } from '#core/sequences/deedWords.ts'
import { findStep } from '#core/sequences/steps.ts'
import { readBooking } from '../db/clientStore.ts'
import type { Office } from './office.ts'

/** An act on a booking that somebody asks about. */
export type BookingAct =
  | { readonly act: 'move'; readonly revision: number; readonly times: MoveBookingInput }
  | { readonly act: 'cancel' | 'confirm' | 'miss'; readonly revision: number }

/** What would happen, under the id by which an act can say that it was seen. */
export interface Announcement {
  readonly announcementId: string
  readonly consequences: readonly Consequence[]
}

const momentOf = (send: Send | null): number | null => send?.sentAt ?? send?.dueAt ?? send?.wantedAt ?? null

/** One change as pages show it. */
export function consequenceLine(change: Change, settings: Settings): Consequence {
  const before = 'before' in change ? change.before : null
  const { after } = change
  const send = changedSend(change)
  const step = findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
  return {
    name: messageName(send),
    kind: change.kind,
    letterName: step ? deedWords(step, send.letterId, settings) : '',
    stepKind: send.stepKind,
    purpose: send.purpose,
    beforeAt: momentOf(before),
    afterAt: change.kind === 'dropped' ? null : momentOf(after),
    waits: change.kind !== 'dropped' && (after?.state === 'waiting' || step?.needsApproval === true),
    reason: after?.reason?.sentence ?? null,
  }
}

export function decideOnBooking(
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

/** What an act on a booking would change, by the planner itself, with nothing done. */
export function changesOnBooking(
  office: Office,
  slice: Slice,
  id: string,
  asked: BookingAct,
): Result<readonly Change[]> {
  const context = hypothetical(office.clock.now())
  return consequencesOnBooking(slice, id, decideOnBooking(office, slice, id, asked, context), context)
}

function announced(
  office: Office,
  settings: Settings,
  found: Result<readonly Change[]>,
): Result<Announcement> {
  if (!found.ok) return found
  return done({
    announcementId: office.announcements.keep(found.value.map(announcedOf), office.clock.now()),
    consequences: found.value.map((change) => consequenceLine(change, settings)),
  })
}

export function askAboutBooking(office: Office, id: string, asked: BookingAct): Result<Announcement> {
  const booking = readBooking(office.store.statements, id)
  const slice = booking && office.sliceOf(booking.clientId)
  if (!slice) return refused('not found', 'There is no such booking.')
  return announced(office, slice.settings, changesOnBooking(office, slice, id, asked))
}

/** What other data of a client, such as a tag, would change. */
export function changesOnClient(
  office: Office,
  slice: Slice,
  revision: number,
  input: ClientInput,
): Result<readonly Change[]> {
  const context = hypothetical(office.clock.now())
  return consequencesOf(slice, changeClient(slice, revision, input, context))
}

export function askAboutClient(
  office: Office,
  id: string,
  revision: number,
  input: ClientInput,
): Result<Announcement> {
  const slice = office.sliceOf(id)
  if (!slice) return refused('not found', 'There is no such client.')
  return announced(office, slice.settings, changesOnClient(office, slice, revision, input))
}
