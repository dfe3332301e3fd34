import { momentsOf } from '../engine/following/bookingStatus.ts'
import { allowanceLine } from '../engine/atSending/allowance.ts'
import { catchUp } from '../engine/following/catchUp.ts'
import { checkAtSending, type RoutedMessage } from '../engine/atSending/checkAtSending.ts'
import type { EngineContext } from '../engine/context.ts'
import { dueMomentOrder, handleDueMoment } from '../engine/following/dueMoments.ts'
import { mostClaims, noProgress } from '../engine/following/noProgress.ts'
import { afterOutcome, perform } from '../engine/following/outcomes.ts'
import { withEffects, type DueMoment, type Effect } from '../engine/effects.ts'
import type { Client } from '../model/client.ts'
import type { Event } from '../model/event.ts'
import type { Reason, Send } from '../model/send.ts'
import { claimableStates } from '../model/sendState.ts'
import type { Result } from '../model/problem.ts'
import type { PlainStep } from '../model/step.ts'
import { dateAndTime } from '../time/format.ts'
import { factsOf, type ClientFacts, type Settings, type Slice } from '../planning/slice.ts'

/** The engine in memory, around one client and with a clock one drives. Nothing real is touched. */
export interface World {
  now(): number
  facts(): ClientFacts
  events(): readonly Event[]
  outbox(): readonly RoutedMessage[]
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
  /** Moves the clock to a moment of which the facts are still to come: what falls due at it has not happened yet. */
  approach(at: number): void
  /** What happens next up to a moment; null: nothing does. */
  next(until: number): Next | null
  /** Does that one thing. */
  handle(next: Next): void
  /** Nothing happens until a moment; then what fell due is caught up with. */
  sleep(until: number): void
}

/** Something that falls due: a moment to be looked at, or a send to go. */
export type Next =
  | { readonly kind: 'moment'; readonly at: number; readonly moment: DueMoment }
  | { readonly kind: 'send'; readonly at: number; readonly send: Send }

/** The mail account that all clients share: it takes only so many messages. */
export interface Account {
  /** Notes that one goes now, or says from when on it can; null: now. */
  take(now: number): number | null
}

interface State {
  readonly watch: Watch | undefined
  readonly account: Account | null
  settings: Settings
  now: number
  facts: ClientFacts
  events: Event[]
  outbox: RoutedMessage[]
  moments: DueMoment[]
  count: number
  /** How often each send has come up. */
  readonly claims: Map<string, number>
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

/** Puts a send off that the account does not take now. */
function putOff(state: State, send: Send, freeAt: number) {
  const { settings, now } = state
  const zone = settings.zones.zone(settings.business.zone)
  const line = allowanceLine(send.dueAt ?? now, freeAt, dateAndTime(zone, freeAt))
  apply(state, [{ kind: 'put send', send: { ...send, dueAt: freeAt, trace: [...send.trace, line] } }])
}

/** The row of a send that the check in the moment of sending has ended. */
function endedAtSending(send: Send, verdict: { state: Send['state']; reason: Reason }, now: number): Send {
  const decision = { ...send.decision, isEndedAtSending: verdict.state === 'cancelled' }
  return { ...send, ...verdict, decision, stateSince: now }
}

function sendOne(state: State, send: Send, context: EngineContext) {
  const claims = (state.claims.get(send.id) ?? 0) + 1
  state.claims.set(send.id, claims)
  if (claims > mostClaims) {
    apply(state, [
      { kind: 'put send', send: { ...send, state: 'failed', reason: noProgress, stateSince: state.now } },
    ])
    return
  }
  const slice = (): Slice => ({ settings: state.settings, facts: state.facts })
  const verdict = checkAtSending(send, slice(), state.now)
  if (!verdict.goes && verdict.state === null) {
    apply(state, [{ kind: 'put send', send: { ...send, dueAt: verdict.waitsUntil } }])
    return
  }
  if (!verdict.goes) {
    const next = endedAtSending(send, { state: verdict.state, reason: verdict.reason }, state.now)
    apply(state, [{ kind: 'put send', send: next }])
    apply(state, afterOutcome(next, null, slice(), context))
    return
  }
  const freeAt = verdict.message && state.account ? state.account.take(state.now) : null
  if (freeAt !== null) {
    putOff(state, send, freeAt)
    return
  }
  const next: Send = {
    ...send,
    state: 'sent',
    approvedWords: null,
    sentAt: state.now,
    attempts: send.attempts + 1,
    stateSince: state.now,
  }
  apply(state, [{ kind: 'put send', send: next }])
  if (verdict.message) {
    state.outbox.push(verdict.message)
    apply(state, afterOutcome(next, verdict.message.told, slice(), context))
  } else doStep(state, verdict.does, next, context)
}

/** What happens next up to a moment: at one instant what falls due by itself before what is sent. */
function nextOf(state: State, until: number): Next | null {
  const moment = earliestMoment(state, until)
  const send = earliestSend(state, until)
  if (moment && (send?.dueAt == null || moment.at <= send.dueAt)) {
    return { kind: 'moment', at: moment.at, moment }
  }
  return send?.dueAt == null ? null : { kind: 'send', at: send.dueAt, send }
}

/** Does one thing that falls due, with the clock at its moment. */
function handleNext(state: State, next: Next, context: () => EngineContext) {
  state.now = Math.max(state.now, next.at)
  const slice: Slice = { settings: state.settings, facts: state.facts }
  if (next.kind === 'send') sendOne(state, next.send, context())
  else apply(state, handleDueMoment(next.moment, slice, context()))
}

function walkTo(state: State, to: number, context: () => EngineContext) {
  for (let next = nextOf(state, to); next; next = nextOf(state, to)) handleNext(state, next, context)
}

/** Nothing happens until a moment; then what fell due before it is caught up with. */
function sleepUntil(state: State, until: number, context: () => EngineContext) {
  const overdue = state.facts.sends.filter(
    ({ state: present, dueAt }) => claimableStates.includes(present) && dueAt !== null && dueAt < until,
  )
  state.now = Math.max(state.now, until)
  if (!state.settings.isSendingOn) return
  apply(state, catchUp(overdue, { settings: state.settings, facts: state.facts }, context()))
}

/** Looks on while effects are applied: the facts before them, and the effects. */
export type Watch = (before: ClientFacts, effects: readonly Effect[]) => void

export function createWorld(
  settings: Settings,
  client: Client,
  startsAt: number,
  watch?: Watch,
  standing: Partial<ClientFacts> = {},
  account: Account | null = null,
): World {
  const state: State = {
    watch,
    account,
    settings,
    now: startsAt,
    facts: factsOf(client, standing),
    events: [],
    outbox: [],
    moments: [],
    count: 0,
    claims: new Map(),
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
  const reach = (until: number, at: number) => {
    walkTo(state, until, context)
    state.now = Math.max(state.now, at)
  }
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
    nextAt: () => nextOf(state, Infinity)?.at ?? null,
    next: (until) => nextOf(state, until),
    handle: (next) => handleNext(state, next, context),
    advance: (to) => reach(to, to),
    approach: (at) => reach(at - 1, at),
    sleep(until) {
      sleepUntil(state, until, context)
    },
  }
}
