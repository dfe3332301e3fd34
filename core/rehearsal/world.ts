import { momentsOf } from '../engine/bookingStatus.ts'
import { checkAtSending, type OutgoingMessage } from '../engine/checkAtSending.ts'
import type { EngineContext } from '../engine/context.ts'
import { dueMomentOrder, handleDueMoment } from '../engine/dueMoments.ts'
import { afterOutcome, perform } from '../engine/outcomes.ts'
import { withEffects, type DueMoment, type Effect } from '../engine/effects.ts'
import type { Client } from '../model/client.ts'
import type { Event } from '../model/event.ts'
import { claimableStates, type Send } from '../model/send.ts'
import type { Result } from '../model/problem.ts'
import type { PlainStep } from '../model/step.ts'
import { factsOf, type ClientFacts, type Settings, type Slice } from '../planning/slice.ts'

/** The engine in memory, around one client and with a clock one drives. Nothing real is touched. */
export interface World {
  now(): number
  facts(): ClientFacts
  events(): readonly Event[]
  outbox(): readonly OutgoingMessage[]
  slice(): Slice
  context(): EngineContext
  /** Carries out what a command decided; throws where the command was refused. */
  carryOut(decided: Result<readonly Effect[]>): void
  /** Puts other settings in the place of the present ones, such as a paused sequence. */
  changeSettings(change: (present: Settings) => Settings): void
  /** When the next thing falls due of itself; null: nothing does. */
  nextAt(): number | null
  /** Moves the clock on; everything that falls due on the way happens at its own time. */
  advance(to: number): void
}

interface State {
  readonly watch: Watch | undefined
  settings: Settings
  now: number
  facts: ClientFacts
  events: Event[]
  outbox: OutgoingMessage[]
  moments: DueMoment[]
  count: number
}

function apply(state: State, effects: readonly Effect[]) {
  state.watch?.(state.facts, effects)
  state.facts = withEffects(state.facts, effects)
  for (const effect of effects) {
    if (effect.kind === 'append event') state.events.push(effect.event)
    if (effect.kind === 'set due moment' || effect.kind === 'clear due moment') {
      const { kind, key } = effect.moment
      state.moments = state.moments.filter((one) => one.kind !== kind || one.key !== key)
    }
    if (effect.kind === 'set due moment') state.moments.push(effect.moment)
  }
}

const bySendOrder = (one: Send, other: Send) =>
  (one.dueAt ?? 0) - (other.dueAt ?? 0) || (one.id < other.id ? -1 : 1)

function earliestSend({ facts, settings }: State, until: number): Send | undefined {
  if (!settings.isSendingOn || facts.client.isHeldBack) return undefined
  const paused = settings.sequences.filter(({ state }) => state === 'paused').map(({ id }) => id)
  return facts.sends
    .filter(
      ({ state, dueAt, sequenceId }) =>
        claimableStates.includes(state) && dueAt !== null && dueAt <= until && !paused.includes(sequenceId),
    )
    .sort(bySendOrder)[0]
}

const byMomentOrder = (one: DueMoment, other: DueMoment) =>
  one.at - other.at ||
  dueMomentOrder.indexOf(one.kind) - dueMomentOrder.indexOf(other.kind) ||
  (one.key < other.key ? -1 : 1)

function earliestMoment({ moments }: State, until: number): DueMoment | undefined {
  return moments.filter(({ at }) => at <= until).sort(byMomentOrder)[0]
}

function doStep(state: State, step: PlainStep, send: Send, context: EngineContext) {
  const { settings, facts } = state
  const performed = perform(step, send, { settings, facts }, context)
  if (performed.done) apply(state, performed.effects)
  else {
    const reason = { code: 'could not be done', sentence: performed.sentence }
    apply(state, [{ kind: 'put send', send: { ...send, state: 'failed', sentAt: null, reason } }])
  }
}

function sendOne(state: State, send: Send, context: EngineContext) {
  const slice = (): Slice => ({ settings: state.settings, facts: state.facts })
  const verdict = checkAtSending(send, slice(), state.now)
  if (!verdict.goes && verdict.state === null) {
    apply(state, [{ kind: 'put send', send: { ...send, dueAt: verdict.waitsUntil } }])
    return
  }
  const next: Send = verdict.goes
    ? { ...send, state: 'sent', sentAt: state.now, attempts: send.attempts + 1, stateSince: state.now }
    : { ...send, state: verdict.state, reason: verdict.reason, stateSince: state.now }
  apply(state, [{ kind: 'put send', send: next }])
  if (!verdict.goes) {
    apply(state, afterOutcome(next, null, slice(), context))
  } else if (verdict.message) {
    state.outbox.push(verdict.message)
    apply(state, afterOutcome(next, verdict.message.told, slice(), context))
  } else doStep(state, verdict.does, next, context)
}

function nextAt(state: State): number | null {
  const at = earliestMoment(state, Infinity)?.at ?? null
  const sendAt = earliestSend(state, Infinity)?.dueAt ?? null
  return at === null || sendAt === null ? (at ?? sendAt) : Math.min(at, sendAt)
}

/** Looks on while effects are applied: the facts before them, and the effects. */
export type Watch = (before: ClientFacts, effects: readonly Effect[]) => void

export function createWorld(
  settings: Settings,
  client: Client,
  startsAt: number,
  watch?: Watch,
  standing: Partial<ClientFacts> = {},
): World {
  const state: State = {
    watch,
    settings,
    now: startsAt,
    facts: factsOf(client, standing),
    events: [],
    outbox: [],
    moments: [],
    count: 0,
  }
  const context = (): EngineContext => ({
    now: state.now,
    personId: null,
    newId: (prefix) => `${prefix}_${String((state.count += 1)).padStart(6, '0')}`,
  })
  apply(
    state,
    state.facts.bookings.flatMap((booking) => momentsOf(settings, booking)),
  )
  const slice = (): Slice => ({ settings: state.settings, facts: state.facts })
  return {
    now: () => state.now,
    facts: () => state.facts,
    events: () => state.events,
    outbox: () => state.outbox,
    slice,
    context,
    carryOut(decided) {
      if (!decided.ok) throw new Error(decided.problem.sentence)
      apply(state, decided.value)
    },
    changeSettings(change) {
      state.settings = change(state.settings)
    },
    nextAt: () => nextAt(state),
    advance(to) {
      for (;;) {
        const moment = earliestMoment(state, to)
        const send = earliestSend(state, to)
        if (moment && (send?.dueAt == null || moment.at <= send.dueAt)) {
          state.now = Math.max(state.now, moment.at)
          apply(state, handleDueMoment(moment, slice(), context()))
        } else if (send?.dueAt != null) {
          state.now = Math.max(state.now, send.dueAt)
          sendOne(state, send, context())
        } else break
      }
      state.now = Math.max(state.now, to)
    },
  }
}
