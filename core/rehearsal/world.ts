import { checkAtSending, type OutgoingMessage } from '../engine/checkAtSending.ts'
import type { EngineContext } from '../engine/context.ts'
import { dueMomentOrder, handleDueMoment } from '../engine/dueMoments.ts'
import { afterOutcome } from '../engine/react.ts'
import { withEffects, type DueMoment, type Effect } from '../engine/effects.ts'
import type { Client } from '../model/client.ts'
import type { Event } from '../model/event.ts'
import { claimableStates, type Send } from '../model/send.ts'
import type { Result } from '../model/problem.ts'
import type { ClientFacts, Settings, Slice } from '../planning/slice.ts'

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
  /** Moves the clock on; everything that falls due on the way happens at its own time. */
  advance(to: number): void
}

interface State {
  readonly watch: Watch | undefined
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

function earliestSend({ facts }: State, until: number): Send | undefined {
  return facts.sends
    .filter(({ state, dueAt }) => claimableStates.includes(state) && dueAt !== null && dueAt <= until)
    .sort(bySendOrder)[0]
}

const byMomentOrder = (one: DueMoment, other: DueMoment) =>
  one.at - other.at ||
  dueMomentOrder.indexOf(one.kind) - dueMomentOrder.indexOf(other.kind) ||
  (one.key < other.key ? -1 : 1)

function earliestMoment({ moments }: State, until: number): DueMoment | undefined {
  return moments.filter(({ at }) => at <= until).sort(byMomentOrder)[0]
}

function sendOne(state: State, settings: Settings, send: Send, context: EngineContext) {
  const verdict = checkAtSending(send, { settings, facts: state.facts }, state.now)
  if (!verdict.goes && verdict.state === null) {
    apply(state, [{ kind: 'put send', send: { ...send, dueAt: verdict.waitsUntil } }])
    return
  }
  const next: Send = verdict.goes
    ? { ...send, state: 'sent', sentAt: state.now, attempts: send.attempts + 1, stateSince: state.now }
    : { ...send, state: verdict.state, reason: verdict.reason, stateSince: state.now }
  if (verdict.goes) state.outbox.push(verdict.message)
  apply(state, [{ kind: 'put send', send: next }])
  apply(state, afterOutcome(send.id, { settings, facts: state.facts }, context))
}

/** Looks on while effects are applied: the facts before them, and the effects. */
export type Watch = (before: ClientFacts, effects: readonly Effect[]) => void

export function createWorld(settings: Settings, client: Client, startsAt: number, watch?: Watch): World {
  const state: State = {
    watch,
    now: startsAt,
    facts: { client, bookings: [], enquiries: [], invoices: [], happenings: [], runs: [], sends: [] },
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
  const slice = (): Slice => ({ settings, facts: state.facts })
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
    advance(to) {
      for (;;) {
        const moment = earliestMoment(state, to)
        const send = settings.isSendingOn ? earliestSend(state, to) : undefined
        if (moment && (send?.dueAt == null || moment.at <= send.dueAt)) {
          state.now = Math.max(state.now, moment.at)
          apply(state, handleDueMoment(moment, slice(), context()))
        } else if (send?.dueAt != null) {
          state.now = Math.max(state.now, send.dueAt)
          sendOne(state, settings, send, context())
        } else break
      }
      state.now = Math.max(state.now, to)
    },
  }
}
