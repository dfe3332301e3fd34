import type { ConditionFacts } from '../conditions/evaluate.ts'
import type { Booking } from '../model/booking.ts'
import type { Enquiry, Invoice } from '../model/dealings.ts'
import type { Event } from '../model/event.ts'
import { startEvent, type Run, type Sequence } from '../model/sequence.ts'
import type { Send } from '../model/send.ts'
import { lastChanceOf } from '../planning/lastChance.ts'
import { planClient } from '../planning/planClient.ts'
import { reconcile } from '../planning/reconcile.ts'
import { versionOf, type ClientFacts, type Settings, type Slice } from '../planning/slice.ts'
import { isStoppedBy, subjectOfTrigger, whyNotStarted, type Trigger } from '../sequences/starting.ts'
import { appendEvent, type EngineContext } from './context.ts'
import { withEffects, type Effect } from './effects.ts'

/** RFC 5322 Message-ID of a send: made from its id, so every attempt carries the same. */
export function messageIdOf(settings: Settings, sendId: string): string {
  const domain = settings.business.senderAddress.split('@')[1] ?? 'localhost'
  return `<${sendId}@${domain}>`
}

/** Changes whose sequences start only when they have settled. Stops act at once. */
const settlingKinds: readonly Trigger['on'][] = [
  'booking requested',
  'booking moved',
  'booking cancelled',
  'booking missed',
]

function triggerOf({ kind, name, at, clientId, subject }: Event): Trigger | null {
  const on = startEvent.safeParse(kind).data ?? (kind === 'answered' ? kind : null)
  return on === null || clientId === null ? null : { on, name, at, clientId, subject }
}

interface About {
  readonly booking: Booking | null
  readonly enquiry: Enquiry | null
  readonly invoice: Invoice | null
}

/** What a trigger is about, as far as the client's facts know it. */
function aboutOf({ subject }: Trigger, { bookings, enquiries, invoices }: ClientFacts): About {
  const invoice = subject?.kind === 'invoice' ? invoices.find(({ id }) => id === subject.id) : undefined
  const bookingId = subject?.kind === 'booking' ? subject.id : invoice?.bookingId
  return {
    booking: bookings.find(({ id }) => id === bookingId) ?? null,
    enquiry: subject?.kind === 'enquiry' ? (enquiries.find(({ id }) => id === subject.id) ?? null) : null,
    invoice: invoice ?? null,
  }
}

/** What start rules are asked about: the facts as they stand when a trigger happens, and the service it concerns. */
export function startFacts(
  trigger: Trigger,
  facts: ClientFacts,
  now: number,
): { readonly asked: ConditionFacts; readonly serviceId: string | null } {
  const about = aboutOf(trigger, facts)
  const { client, bookings, happenings } = facts
  return {
    asked: { now, runStartedAt: trigger.at, client, ...about, bookings, happenings },
    serviceId: about.booking?.serviceId ?? about.enquiry?.serviceId ?? null,
  }
}

function startedRun(sequence: Sequence, trigger: Trigger, context: EngineContext): readonly Effect[] {
  const run: Run = {
    id: context.newId('ru'),
    sequenceId: sequence.id,
    version: sequence.currentVersion,
    clientId: trigger.clientId,
    subject: subjectOfTrigger(trigger),
    state: 'running',
    startedAt: trigger.at,
    stoppedAt: null,
    stoppedReason: null,
  }
  const about = { clientId: run.clientId, subject: trigger.subject }
  return [
    { kind: 'put run', run },
    appendEvent(context, 'run started', about, `Sequence “${sequence.name}” started.`),
  ]
}

function startedRuns(
  trigger: Trigger,
  { settings, facts }: Slice,
  context: EngineContext,
): readonly Effect[] {
  const { asked, serviceId } = startFacts(trigger, facts, context.now)
  const byName = [...settings.sequences].sort((one, other) => (one.name < other.name ? -1 : 1))
  return byName
    .filter((sequence) => {
      const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
      return whyNotStarted(sequence, start, trigger, serviceId, facts.runs, asked) === null
    })
    .flatMap((sequence) => startedRun(sequence, trigger, context))
}

/** Cancelled or missed, a booking's own runs and those of its invoices stop, whatever their rules say. */
function isOver(run: Run, { on, subject }: Trigger, { invoices }: ClientFacts): boolean {
  if (on !== 'booking cancelled' && on !== 'booking missed') return false
  const ofBooking = invoices.filter(({ bookingId }) => bookingId === subject?.id).map(({ id }) => id)
  return (
    run.subject.id === subject?.id || (run.subject.kind === 'invoice' && ofBooking.includes(run.subject.id))
  )
}

const stopWords: Partial<Record<Trigger['on'], string>> = {
  'booking cancelled': 'The booking was cancelled.',
  'booking missed': 'The booking was missed.',
  answered: 'The client answered.',
  'invoice paid': 'The invoice was paid.',
  'form received': 'The form was received.',
}

function stoppedRuns(
  trigger: Trigger,
  { settings, facts }: Slice,
  context: EngineContext,
): readonly Effect[] {
  const why =
    stopWords[trigger.on] ?? `Stopped by: ${trigger.on}${trigger.name === '' ? '' : ` ${trigger.name}`}.`
  return facts.runs
    .filter((run) => run.state === 'running')
    .filter(
      (run) =>
        isOver(run, trigger, facts) ||
        versionOf(settings, run.sequenceId, run.version).stops.some((stop) =>
          isStoppedBy(run, stop, trigger),
        ),
    )
    .flatMap((run): Effect[] => {
      const name = settings.sequences.find((one) => one.id === run.sequenceId)?.name ?? run.sequenceId
      const about = { clientId: run.clientId, subject: trigger.subject }
      return [
        { kind: 'put run', run: { ...run, state: 'stopped', stoppedAt: context.now, stoppedReason: why } },
        appendEvent(context, 'run stopped', about, `Sequence “${name}” stopped: ${why}`),
      ]
    })
}

/** What waits for a person goes stale once its last chance has passed. */
function staleMoment(send: Send, slice: Slice): readonly Effect[] {
  const lastChance = send.state === 'waiting' ? lastChanceOf(send, slice) : null
  return lastChance === null
    ? []
    : [{ kind: 'set due moment', moment: { kind: 'goes stale', key: send.id, at: lastChance + 1 } }]
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
    return reconcile(run, own, facts.sends, reconcileContext).flatMap((send) => [
      { kind: 'put send', send } as const,
      ...staleMoment(send, slice),
    ])
  })
}

/** Whether something in a message's sequence is planned only once the message has ended. */
export function isAwaited({ sequenceId, sequenceVersion }: Send, settings: Settings): boolean {
  return versionOf(settings, sequenceId, sequenceVersion).steps.some(
    ({ timing, repeat }) => repeat !== null || timing.kind === 'after previous' || timing.kind === 'yearly',
  )
}

/** What follows once a message has gone or will not go: the steps and occurrences that waited for it are planned. */
export function afterOutcome(sendId: string, slice: Slice, context: EngineContext): readonly Effect[] {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  return send && isAwaited(send, slice.settings) ? replan(slice, context) : []
}

/**
 * Facts → events → runs → plan → sends: everything that follows from some changed facts. The given effects
 * come first in the answer, what they bring about after them. `settled` are changes that have settled by now.
 */
export function conclude(
  slice: Slice,
  changes: readonly Effect[],
  context: EngineContext,
  settled: readonly Trigger[] = [],
): readonly Effect[] {
  const { settings } = slice
  let effects = changes
  const present = (): Slice => ({ settings, facts: withEffects(slice.facts, effects) })
  for (const change of changes) {
    const trigger = change.kind === 'append event' ? triggerOf(change.event) : null
    if (trigger === null) continue
    effects = [...effects, ...stoppedRuns(trigger, present(), context)]
    if (!settlingKinds.includes(trigger.on))
      effects = [...effects, ...startedRuns(trigger, present(), context)]
  }
  for (const trigger of settled) effects = [...effects, ...startedRuns(trigger, present(), context)]
  return [...effects, ...replan(present(), context)]
}
