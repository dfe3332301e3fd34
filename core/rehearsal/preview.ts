import { localAt } from '../time/localText.ts'
import { moveBooking } from '../engine/commands/bookingCommands.ts'
import { hypothetical } from '../engine/consequences/consequences.ts'
import { withEffects } from '../engine/effects.ts'
import { replan } from '../engine/following/replan.ts'
import { decideSend } from '../engine/commands/sendCommands.ts'
import { startedRun } from '../engine/following/startRuns.ts'
import type { Booking } from '../model/booking.ts'
import type { Send } from '../model/send.ts'
import type { Sequence, SequenceVersion, StartRule } from '../model/sequence.ts'
import { startTraits, type StartEvent } from '../model/startEvent.ts'
import type { Subject } from '../model/subject.ts'
import { aboutOf, type About } from '../planning/about.ts'
import { placeZone, serviceOf, type ClientFacts, type Settings, type Slice } from '../planning/slice.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { withHardCase, type HardCase } from './hardCases.ts'
import { createWorld, type World } from './world.ts'

/** What is to be looked at: a sequence as it is being designed, for somebody real. */
export interface PreviewAsk {
  readonly sequence: Sequence
  readonly version: SequenceVersion
  readonly slice: Slice
  readonly subject: Subject
  readonly hardCase: HardCase
  readonly now: number
}

/** What became of one message of the sequence in the preview, or of a step that is none. */
export interface PreviewedSend {
  readonly send: Send
  /** When it went, or would have. */
  readonly at: number | null
  readonly goes: boolean
}

export interface Preview {
  /** The moment the sequence started for them. */
  readonly startsAt: number
  /** The event, as the hard case has it; null: there is none. */
  readonly event: { readonly startAt: number; readonly endAt: number } | null
  readonly sends: readonly PreviewedSend[]
  /** Messages of other sequences that the same client gets. */
  readonly others: readonly Send[]
  readonly facts: ClientFacts
}

/** How long after its beginning and after the event a sequence is followed. */
const followedMs = 400 * dayMs
const mostMoments = 1500

/** The facts as they were when the sequence would have started: not yet confirmed, moved or cancelled any further. */
function factsAtStart(facts: ClientFacts, { on, name }: StartRule, subject: Subject): ClientFacts {
  const { status } = startTraits[on]
  if (on === 'booking status entered' && name !== null) {
    const bookings = facts.bookings.map((one) =>
      one.id === subject.id ? { ...one, own: { ...one.own, status: name, settling: null } } : one,
    )
    return { ...facts, bookings }
  }
  if (status === null) return facts
  const bookings = facts.bookings.map((one) =>
    one.id === subject.id ? { ...one, status, settling: null } : one,
  )
  return { ...facts, bookings }
}

const ofBooking =
  (at: (booking: Booking) => number | undefined) =>
  ({ booking }: About): number | undefined =>
    booking === null ? undefined : at(booking)

const atPresent = () => undefined

/** When the event was that starts a sequence, by the facts it left; undefined: it leaves none. */
const startedAt: Readonly<
  Record<StartEvent, (about: About, name: string | null) => number | null | undefined>
> = {
  'booking made or confirmed': atPresent,
  'booking requested': ofBooking(({ madeAt }) => madeAt),
  'booking confirmed': ofBooking(({ madeAt, statusAt }) => Math.max(statusAt.confirmed ?? madeAt, madeAt)),
  'booking moved': atPresent,
  'booking cancelled': ofBooking(({ statusAt }) => statusAt.cancelled),
  'booking completed': ofBooking(({ endAt, statusAt }) => statusAt.completed ?? endAt + hourMs),
  'booking missed': ofBooking(({ endAt, statusAt }) => statusAt.missed ?? endAt),
  'booking status entered': ({ booking }, name) => (name === null ? undefined : booking?.own.at[name]),
  'enquiry received': ({ enquiry }) => enquiry?.receivedAt,
  'enquiry stage entered': ({ enquiry }, name) =>
    (name === null ? undefined : enquiry?.stageAt[name]) ?? enquiry?.receivedAt,
  'booking move pressed': atPresent,
  'enquiry move pressed': atPresent,
  'invoice issued': ({ invoice }) => invoice?.issuedAt,
  'invoice paid': ({ invoice }) => invoice?.paidAt,
  'tag added': atPresent,
  'list joined': atPresent,
  'form received': atPresent,
  signed: atPresent,
  'date known': atPresent,
}

const startMoment = ({ on, name }: StartRule, facts: ClientFacts, subject: Subject, now: number): number =>
  startedAt[on](aboutOf(subject, facts), name) ?? now

function withDraft(settings: Settings, { id, name }: Sequence, version: SequenceVersion): Settings {
  const live: Sequence = { id, name, state: 'live', liveSince: 0, currentVersion: version.version }
  return {
    ...settings,
    isSendingOn: true,
    sequences: [...settings.sequences.filter((one) => one.id !== id), live],
    sequenceVersions: [
      ...settings.sequenceVersions.filter((one) => one.sequenceId !== id || one.version !== version.version),
      version,
    ],
  }
}

/** The client without what this sequence has already done for the subject: it is played from its beginning. */
function withoutOwnRuns(facts: ClientFacts, sequenceId: string, subject: Subject): ClientFacts {
  const own = facts.runs.filter((run) => run.sequenceId === sequenceId && run.subject.id === subject.id)
  const ids = new Set(own.map(({ id }) => id))
  return {
    ...facts,
    runs: facts.runs.filter(({ id }) => !ids.has(id)),
    sends: facts.sends.filter(({ runId }) => !ids.has(runId)),
  }
}

const isOfRun = (runId: string) => (send: Send) => send.runId === runId

/** Whoever has to approve does so at once; what is due goes. Plays to the end, or to the horizon. */
export function playOut(world: World, isOfIt: (send: Send) => boolean, horizon: number) {
  for (let count = 0; count < mostMoments; count += 1) {
    for (const send of world.facts().sends.filter(isOfIt)) {
      if (send.state !== 'waiting') continue
      const approved = decideSend(world.slice(), send.id, 'approve', world.context())
      if (approved.ok) world.carryOut(approved)
    }
    const next = world.nextAt()
    if (next === null || next > horizon) return
    world.advance(Math.max(next, world.now()))
  }
}

const localText = (settings: Settings, booking: Booking, at: number) =>
  localAt(placeZone(settings, serviceOf(settings, booking.serviceId)), at)

/** Moves the booking by three days once its reminders are out, and back an hour later. */
function moveThereAndBack(world: World, bookingId: string) {
  const find = () => world.facts().bookings.find(({ id }) => id === bookingId)
  const first = find()
  if (!first) return
  const { startAt, endAt } = first
  world.advance(Math.max(world.now() + hourMs, startAt - 10 * hourMs))
  for (const by of [3 * dayMs, 0]) {
    const booking = find()
    if (!booking) return
    const times = {
      startLocal: localText(world.slice().settings, booking, startAt + by),
      endLocal: localText(world.slice().settings, booking, endAt + by),
    }
    const moved = moveBooking(world.slice(), bookingId, booking.revision, times, () => 0, world.context())
    if (!moved.ok) return
    world.carryOut(moved)
    world.advance(world.now() + hourMs)
  }
}

function previewed(send: Send): PreviewedSend {
  const goes = send.state === 'sent'
  return { send, at: send.sentAt ?? send.dueAt ?? send.wantedAt, goes }
}

const byTime = (one: PreviewedSend, other: PreviewedSend) =>
  (one.at ?? Infinity) - (other.at ?? Infinity) || (one.send.id < other.send.id ? -1 : 1)

/**
 * Plays a sequence for somebody real from its beginning, by the planner itself and with nothing done: who has to approve
 * does so at once, and the client does nothing.
 */
export function previewOf({ sequence, version, slice, subject, hardCase, now }: PreviewAsk): Preview {
  const settings = withDraft(slice.settings, sequence, version)
  const bookingId = subject.kind === 'booking' ? subject.id : null
  const bent = withHardCase(slice.facts, bookingId, hardCase, settings)
  const facts = withoutOwnRuns(factsAtStart(bent, version.start, subject), sequence.id, subject)
  const startsAt = startMoment(version.start, facts, subject, now)
  const context = hypothetical(startsAt)
  const trigger = { clientId: facts.client.id, subject, at: startsAt }
  const started = startedRun(
    { ...sequence, currentVersion: version.version },
    trigger,
    version.start.on,
    context,
  )
  const withRun = withEffects(facts, started)
  const runId = withRun.runs.at(-1)?.id ?? ''
  const planned = withEffects(withRun, replan({ settings, facts: withRun }, context))
  const world = createWorld(settings, planned.client, startsAt, undefined, planned)
  const booking = planned.bookings.find(({ id }) => id === bookingId) ?? null
  const horizon = Math.max(startsAt, booking?.endAt ?? 0) + followedMs
  if (hardCase === 'moved there and back' && bookingId !== null) moveThereAndBack(world, bookingId)
  playOut(world, isOfRun(runId), horizon)
  const { sends } = world.facts()
  return {
    startsAt,
    event: booking && { startAt: booking.startAt, endAt: booking.endAt },
    sends: sends.filter(isOfRun(runId)).map(previewed).sort(byTime),
    others: sends.filter((send) => send.runId !== runId && (send.sentAt ?? send.dueAt) !== null),
    facts: world.facts(),
  }
}
