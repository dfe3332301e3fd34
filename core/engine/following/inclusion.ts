import { listsOf } from '../../conditions/evaluate.ts'
import type { Booking } from '../../model/booking.ts'
import type { Sequence } from '../../model/sequence.ts'
import type { StartEvent } from '../../model/startEvent.ts'
import type { Subject } from '../../model/subject.ts'
import { versionOf, type ClientFacts, type Slice } from '../../planning/slice.ts'
import { meaningOf } from '../../planning/stages.ts'
import { whyNotStarted, type Trigger } from '../../sequences/startRules.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { replan } from './replan.ts'
import { startedRun, startFacts } from './startRuns.ts'

interface Candidate {
  readonly name: string
  /** Null: the client. */
  readonly subject: Subject | null
}

const ofBookings = (
  { bookings }: ClientFacts,
  status: Booking['status'],
  isStill: (booking: Booking) => boolean,
): readonly Candidate[] =>
  bookings
    .filter((one) => one.status === status && isStill(one))
    .map(({ id }) => ({ name: '', subject: { kind: 'booking', id } }))

const ofHappenings = (
  { happenings }: ClientFacts,
  kind: 'form received' | 'signed',
): readonly Candidate[] => [
  ...new Map(
    happenings
      .filter((one) => one.kind === kind)
      .map(({ name }): [string, Candidate] => [name, { name, subject: null }]),
  ).values(),
]

/** Who stands now where a start event would have put them. What only happens, such as a move or a payment, leaves nobody standing anywhere. */
function standing(on: StartEvent, { facts, settings }: Slice, now: number): readonly Candidate[] {
  const { enquiries, invoices, client } = facts
  const isAhead = ({ startAt }: Booking) => startAt > now
  const always = () => true
  switch (on) {
    case 'booking made or confirmed':
      return [...ofBookings(facts, 'requested', isAhead), ...ofBookings(facts, 'confirmed', isAhead)]
    case 'booking requested':
      return ofBookings(facts, 'requested', isAhead)
    case 'booking confirmed':
      return ofBookings(facts, 'confirmed', isAhead)
    case 'booking cancelled':
      return ofBookings(facts, 'cancelled', always)
    case 'booking completed':
      return ofBookings(facts, 'completed', always)
    case 'booking missed':
      return ofBookings(facts, 'missed', always)
    case 'booking status entered':
      return facts.bookings.flatMap(({ id, own }) =>
        own.status === null ? [] : [{ name: own.status, subject: { kind: 'booking', id } }],
      )
    case 'booking moved':
    case 'booking move pressed':
    case 'enquiry move pressed':
    case 'invoice paid':
      return []
    case 'enquiry received':
      return enquiries
        .filter((one) => meaningOf(settings, one) === 'open')
        .map(({ id }) => ({ name: '', subject: { kind: 'enquiry', id } }))
    case 'enquiry stage entered':
      return enquiries.map(({ id, stage }) => ({ name: stage, subject: { kind: 'enquiry', id } }))
    case 'invoice issued':
      return invoices
        .filter(({ paidAt }) => paidAt === null)
        .map(({ id }) => ({ name: '', subject: { kind: 'invoice', id } }))
    case 'tag added':
      return client.tags.map((name) => ({ name, subject: null }))
    case 'date known':
      return client.namedDates.map(({ label }) => ({ name: label, subject: null }))
    case 'list joined':
      return listsOf(facts.happenings).map((name) => ({ name, subject: null }))
    case 'form received':
    case 'signed':
      return ofHappenings(facts, on)
  }
}

/** What would start a sequence if it happened now: all that stands where its start event puts somebody. */
export function standingTriggers(sequence: Sequence, slice: Slice, now: number): readonly Trigger[] {
  const { settings, facts } = slice
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  return standing(start.on, slice, now).map((candidate): Trigger => ({
    on: start.on,
    ...candidate,
    at: now,
    clientId: facts.client.id,
  }))
}

/** Whom a sequence would have started for, had it been live: its rules are asked as if it happened now. */
export function includable(sequence: Sequence, slice: Slice, now: number): readonly Trigger[] {
  const { settings, facts } = slice
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  const asLive: Sequence = { ...sequence, state: 'live', liveSince: now - 1 }
  return standingTriggers(sequence, slice, now).filter((trigger) => {
    const { asked, serviceId, madeAt } = startFacts(trigger, slice, now)
    return whyNotStarted(asLive, start, { ...trigger, madeAt }, serviceId, facts.runs, asked) === null
  })
}

/** Starts a sequence for those of one client who were there already. What is past stays past. */
export function include(
  sequence: Sequence,
  triggers: readonly Trigger[],
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  const started = triggers.flatMap((trigger) => startedRun(sequence, trigger, 'inclusion', context))
  if (started.length === 0) return []
  return [...started, ...replan({ ...slice, facts: withEffects(slice.facts, started) }, context)]
}
