import type { Booking } from '../model/booking.ts'
import type { Event } from '../model/event.ts'
import type { Run, Sequence } from '../model/sequence.ts'
import { planClient } from '../planning/planClient.ts'
import { reconcile } from '../planning/reconcile.ts'
import { versionOf, type Settings, type Slice } from '../planning/slice.ts'
import { appendEvent, type EngineContext } from './context.ts'
import { withEffects, type Effect } from './effects.ts'

/** RFC 5322 Message-ID of a send: made from its id, so every attempt carries the same. */
export function messageIdOf(settings: Settings, sendId: string): string {
  const domain = settings.business.senderAddress.split('@')[1] ?? 'localhost'
  return `<${sendId}@${domain}>`
}

function startsOn(sequence: Sequence, event: Event, booking: Booking, settings: Settings): boolean {
  if (sequence.state !== 'live' || sequence.liveSince === null || event.at <= sequence.liveSince) return false
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  const isForService = start.serviceIds.length === 0 || start.serviceIds.includes(booking.serviceId)
  return start.event === event.kind && isForService
}

function startedRuns(event: Event, { settings, facts }: Slice, context: EngineContext): readonly Effect[] {
  const booking = facts.bookings.find((one) => one.id === event.bookingId)
  if (!booking) return []
  const byName = [...settings.sequences].sort((one, other) => (one.name < other.name ? -1 : 1))
  return byName
    .filter((sequence) => startsOn(sequence, event, booking, settings))
    .filter(
      (sequence) =>
        !facts.runs.some((run) => run.sequenceId === sequence.id && run.subject.id === booking.id),
    )
    .flatMap((sequence): Effect[] => {
      const run: Run = {
        id: context.newId('ru'),
        sequenceId: sequence.id,
        version: sequence.currentVersion,
        clientId: booking.clientId,
        subject: { kind: 'booking', id: booking.id },
        state: 'running',
        startedAt: context.now,
        stoppedAt: null,
        stoppedReason: null,
      }
      const subject = { clientId: booking.clientId, bookingId: booking.id }
      const sentence = `Sequence “${sequence.name}” started.`
      return [{ kind: 'put run', run }, appendEvent(context, 'run started', subject, sentence)]
    })
}

const stopSentences: Partial<Record<Event['kind'], string>> = {
  'booking cancelled': 'The booking was cancelled.',
}

function stoppedRuns(event: Event, { settings, facts }: Slice, context: EngineContext): readonly Effect[] {
  const why = stopSentences[event.kind]
  if (!why) return []
  return facts.runs
    .filter((run) => run.state === 'running' && run.subject.id === event.bookingId)
    .filter((run) =>
      versionOf(settings, run.sequenceId, run.version).stops.some((stop) => stop === event.kind),
    )
    .flatMap((run): Effect[] => {
      const name = settings.sequences.find((one) => one.id === run.sequenceId)?.name ?? run.sequenceId
      const subject = { clientId: run.clientId, bookingId: event.bookingId }
      return [
        { kind: 'put run', run: { ...run, state: 'stopped', stoppedAt: context.now, stoppedReason: why } },
        appendEvent(context, 'run stopped', subject, `Sequence “${name}” stopped: ${why}`),
      ]
    })
}

/** Brings the outbox of one client up to the present facts. */
export function replan(slice: Slice, context: EngineContext): readonly Effect[] {
  const { settings, facts } = slice
  const reconcileContext = {
    now: context.now,
    newSendId: () => context.newId('sd'),
    moveThresholdMinutes: settings.business.moveThresholdMinutes,
    messageIdOf: (sendId: string) => messageIdOf(settings, sendId),
  }
  const planned = planClient(slice, context.now)
  return facts.runs.flatMap((run) => {
    const own = planned.filter((one) => one.run.id === run.id)
    return reconcile(run, own, facts.sends, reconcileContext).map((send): Effect => ({
      kind: 'put send',
      send,
    }))
  })
}

/**
 * Facts → events → runs → plan → sends: everything that follows from some changed facts. The given effects
 * come first in the answer, what they bring about after them.
 */
export function conclude(
  slice: Slice,
  changes: readonly Effect[],
  context: EngineContext,
): readonly Effect[] {
  const { settings } = slice
  let effects = changes
  const present = (): Slice => ({ settings, facts: withEffects(slice.facts, effects) })
  for (const change of changes) {
    if (change.kind !== 'append event') continue
    effects = [...effects, ...stoppedRuns(change.event, present(), context)]
    effects = [...effects, ...startedRuns(change.event, present(), context)]
  }
  return [...effects, ...replan(present(), context)]
}
