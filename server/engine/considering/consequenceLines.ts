import type { Consequence } from '#core/api/announcements.ts'
import {
  giveOwnStatus,
  moveBooking,
  statusCommands,
  type MoveBookingInput,
} from '#core/engine/commands/bookingCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { sendFactsOf } from '#core/engine/atSending/mergeFacts.ts'
import type { Result } from '#core/model/problem.ts'
import type { Send } from '#core/model/send.ts'
import { isOff } from '#core/planning/changeKind.ts'
import { changedSend, messageName, type Change } from '#core/planning/difference.ts'
import { furtherOccurrences } from '#core/planning/furtherOccurrences.ts'
import type { Slice } from '#core/planning/slice.ts'
import { sendLabel } from '#core/planning/sendLabel.ts'
import { recipientNamed } from '#core/sequences/recipients.ts'
import type { Application } from '../application.ts'

/** An act on a booking. */
export type BookingAct =
  | { readonly act: 'move'; readonly revision: number; readonly times: MoveBookingInput }
  | { readonly act: 'status'; readonly revision: number; readonly status: string | null }
  | { readonly act: 'cancel' | 'confirm' | 'miss' | 'complete'; readonly revision: number }

const momentOf = (send: Send | null): number | null => send?.sentAt ?? send?.dueAt ?? send?.wantedAt ?? null

/** The name of who gets a message, also when the act ends the run that would name them. */
function recipientName(send: Send, after: Slice): string {
  const { business, people } = after.settings
  const facts = { client: after.facts.client, business, people, personInCharge: null, named: null }
  return sendFactsOf(send, after)?.recipient?.name ?? recipientNamed(send.recipientId, facts)
}

/** One change as pages show it, with the client's facts and the settings as they are after it. */
export function consequenceLine(change: Change, after: Slice, now: number): Consequence {
  const { kind, before, will } = change
  const send = changedSend(change)
  const { settings } = after
  const goes = !isOff(kind)
  const why = will?.why ?? (goes ? null : change.after?.reason)
  return {
    name: messageName(send),
    sendIds: [...new Set([before, change.after].flatMap((one) => one?.id ?? []))],
    kind,
    letterName: sendLabel(send, settings),
    stepKind: send.stepKind,
    purpose: send.purpose,
    beforeAt: momentOf(before),
    afterAt: goes ? momentOf(change.after) : null,
    awaits: goes && momentOf(change.after) === null ? (change.after?.reason?.sentence ?? null) : null,
    further: goes && change.after ? [...furtherOccurrences(change.after, after, now)] : [],
    waits: will?.going === 'after approval',
    reason: goes ? null : (why?.sentence ?? null),
    recipientName: recipientName(send, after),
    address: send.address,
  }
}

export function decideOnBooking(
  application: Application,
  slice: Slice,
  id: string,
  asked: BookingAct,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { revision } = asked
  switch (asked.act) {
    case 'move':
      return moveBooking(slice, id, revision, asked.times, application.seatsTaken, context)
    case 'status':
      return giveOwnStatus(slice, id, revision, asked.status, context)
    default:
      return statusCommands[asked.act](slice, id, revision, context)
  }
}
