import { newInvoice } from '../model/dealings.ts'
import { newEnquiry } from '../model/enquiry.ts'
import {
  bookAt,
  cancelBooking,
  completeByHand,
  confirmBooking,
  missBooking,
  moveTo,
  settleNow,
} from '../engine/commands/bookingCommands.ts'
import type { EngineContext } from '../engine/context.ts'
import { recordHappening } from '../engine/commands/dealingCommands.ts'
import { enterStage, receiveEnquiry, setWishedDate } from '../engine/commands/enquiryCommands.ts'
import { issueInvoice, payInvoice, setDueDate } from '../engine/commands/paymentCommands.ts'
import type { Effect } from '../engine/effects.ts'
import { setEvening, tellAgain, tickLine, untickLine } from '../engine/commands/eveningCommands.ts'
import { tagged } from '../engine/following/perform.ts'
import { conclude } from '../engine/following/react.ts'
import { decideSend, postponeSend } from '../engine/commands/sendCommands.ts'
import { stopRuns } from '../engine/commands/runCommands.ts'
import { varyForClient } from '../engine/commands/variationCommands.ts'
import { done, refused, type Result } from '../model/problem.ts'
import type { Send } from '../model/send.ts'
import { plannableStates } from '../model/sendState.ts'
import type { Slice } from '../planning/slice.ts'
import type { Zone } from '../time/zones.ts'
import type { Act, ActOn } from './acts.ts'
import { momentOf, theOnePipeline } from './bundleSettings.ts'

type Decided = Result<readonly Effect[]>
type Of<Name extends Act['act']> = Extract<Act, { act: Name }>

function revisionOf({ facts }: Slice, id: string): number {
  return facts.bookings.find((one) => one.id === id)?.revision ?? 0
}

interface ActTimes {
  readonly start: string
  readonly end: string
  readonly sessions?: readonly { readonly start: string; readonly end: string }[] | undefined
}

/** Start, end and sessions as instants; a reading that occurs twice is told apart by its offset. */
function timesOf({ start, end, sessions }: ActTimes, zone: Zone) {
  const part = (one: { readonly start: string; readonly end: string }) => ({
    startAt: momentOf(one.start, zone),
    endAt: momentOf(one.end, zone),
  })
  return { ...part({ start, end }), ...(sessions ? { sessions: sessions.map(part) } : {}) }
}

function booked(act: Of<'book'>, slice: Slice, zone: Zone, context: EngineContext): Decided {
  const { clientId, serviceId, status, personInChargeId } = act
  const asked = { clientId, serviceId, status, personInChargeId, partySize: 1 }
  const named = { ...context, newId: (prefix: string) => (prefix === 'bk' ? act.id : context.newId(prefix)) }
  return bookAt(slice, asked, timesOf(act, zone), () => 0, named)
}

function enquired(act: Of<'enquire'>, slice: Slice, context: EngineContext): Decided {
  const { id, clientId, serviceId, stage, wishedOn, deadlineOn, personInChargeId } = act
  const asked = { id, clientId, serviceId, stage, wishedOn, deadlineOn, personInChargeId }
  return receiveEnquiry(slice, newEnquiry({ ...asked, pipelineId: theOnePipeline }, context.now), context)
}

function invoiced(act: Of<'issue invoice'>, slice: Slice, context: EngineContext): Decided {
  const { id, clientId, bookingId, dueOn, amountCents, isFee } = act
  const asked = { id, clientId, bookingId, dueOn, amountCents, reason: isFee ? 'fee' : 'other' } as const
  return issueInvoice(slice, newInvoice(asked, context.now), context)
}

const decidable: readonly Send['state'][] = [...plannableStates, 'missed', 'failed', 'in doubt']

function onOpenSend(
  { sequenceId, stepId }: { readonly sequenceId: string; readonly stepId: string },
  slice: Slice,
  decide: (send: Send) => Decided,
): Decided {
  const send = slice.facts.sends.find(
    (one) => one.sequenceId === sequenceId && one.stepId === stepId && decidable.includes(one.state),
  )
  return send ? decide(send) : refused('not found', 'There is no open message of this step to decide about.')
}

function varied(act: Of<'vary'>, slice: Slice, context: EngineContext): Decided {
  const { clientId, sequenceId, stepId, letterId, timing, recipients, needsApproval, isOff } = act
  const known = slice.facts.variations.find((one) => one.sequenceId === sequenceId && one.stepId === stepId)
  const scope = { of: 'client' as const, clientId }
  const differs = { letterId, timing, recipients, needsApproval, isOff }
  const id = known?.id ?? context.newId('va')
  return varyForClient(
    slice,
    { id, sequenceId, stepId, scope, ...differs, timingSetAt: context.now },
    context,
  )
}

/** A tag that is put on or taken off is one the client has, or has no more. */
function did({ did: kind, name }: Of<'client'>, slice: Slice, context: EngineContext): Decided {
  if (kind !== 'tag added' && kind !== 'tag removed') return recordHappening(slice, kind, name, context)
  return done(conclude(slice, tagged(slice.facts.client, name, kind === 'tag added', context), context))
}

/** What an act does to one client's world. */
export function playAct(act: ActOn, slice: Slice, context: EngineContext): Decided {
  const { settings, facts } = slice
  const zoneOf = (serviceId: string | undefined) => {
    const service = settings.services.find(({ id }) => id === serviceId)
    return settings.zones.zone(service?.placeZone ?? settings.business.zone)
  }
  switch (act.act) {
    case 'book':
      return booked(act, slice, zoneOf(act.serviceId), context)
    case 'confirm':
      return confirmBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'cancel':
      return cancelBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'miss':
      return missBooking(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'complete':
      return completeByHand(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'settle now':
      return settleNow(slice, act.bookingId, revisionOf(slice, act.bookingId), context)
    case 'move': {
      const zone = zoneOf(facts.bookings.find(({ id }) => id === act.bookingId)?.serviceId)
      const { bookingId } = act
      return moveTo(slice, bookingId, revisionOf(slice, bookingId), timesOf(act, zone), () => 0, context)
    }
    case 'enquire':
      return enquired(act, slice, context)
    case 'enter stage':
      return enterStage(slice, act.enquiryId, act.stage, context)
    case 'wish':
      return setWishedDate(slice, act.enquiryId, act.wishedOn, context)
    case 'issue invoice':
      return invoiced(act, slice, context)
    case 'set due date':
      return setDueDate(slice, act.invoiceId, act.dueOn, context)
    case 'pay':
      return payInvoice(slice, act.invoiceId, context)
    case 'client':
      return did(act, slice, context)
    case 'decide':
      return onOpenSend(act, slice, ({ id }) => decideSend(slice, id, act.decision, context))
    case 'postpone': {
      const to = momentOf(act.to, settings.zones.zone(settings.business.zone))
      return onOpenSend(act, slice, ({ id }) => postponeSend(slice, id, to, context))
    }
    case 'tick':
      return tickLine(slice, act.enquiryId, { ...act, words: act.lineId }, context)
    case 'untick':
      return untickLine(slice, act.enquiryId, { ...act, words: act.lineId }, context)
    case 'tell again':
      return tellAgain(slice, act.enquiryId, { ...act, words: act.lineId }, context)
    case 'evening letters':
      return setEvening(slice, act.enquiryId, act.isOn, act.tellsEarlier, context)
    case 'vary':
      return varied(act, slice, context)
    case 'stop':
      return stopRuns(slice, act.sequenceId, context)
  }
}
