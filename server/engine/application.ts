import { unconsidered, type Considered } from '#core/api/described.ts'
import type { RefusedLine } from '#core/api/announcements.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { bookingHeldBack } from '#core/engine/following/heldBack.ts'
import type { SeatsTaken } from '#core/engine/commands/bookingCommands.ts'
import { refused, type Result } from '#core/model/problem.ts'
import type { ClientFacts, Settings, Slice } from '#core/planning/slice.ts'
import type { ChangedThing } from '#core/insight/acts.ts'
import { thingsChanged } from '../record/thingsChanged.ts'
import type { Store } from '../db/database.ts'
import { readableClientFacts, readClientFacts, type Reading } from '../db/livingStore.ts'
import { asJson, fromJson } from '../db/columns.ts'
import { createAnnouncements, type Announcements } from './considering/announcements.ts'
import { applyEffects } from './applyEffects.ts'
import { cautionsFor } from './considering/cautions.ts'
import {
  asOther,
  BecameOther,
  concernedBy,
  contextWithIds,
  focusOfEffects,
  holdToIt,
  lookBefore,
  mostClients,
} from './considering/considering.ts'
import type { Changes, Topic } from './changes.ts'
import type { Clock } from './loop/clock.ts'
import { newId } from './ids.ts'
import type { SettingsSource } from './settings.ts'

/** Who asks for a command, under which id and name. */
export interface CommandCall {
  readonly id: string
  readonly personId: string | null
  readonly name: string
  /** What was asked for, as a hash; empty where the house itself asks. */
  readonly bodyHash: string
  /** What was shown before, and whether this only asks. */
  readonly considered: Considered
  /** Told which things it has changed, once it is done; not where it was done before. */
  readonly onChanged?: (things: readonly ChangedThing[]) => void
}

/** A command that no request carries: of the house itself, or of a client by a link. */
export const callOf = (name: string, id: string, personId: string | null = null): CommandCall => ({
  id,
  personId,
  name,
  bodyHash: '',
  considered: unconsidered,
})

/** What a command decides: what is to be done, and what to answer. */
export interface Decision<Answer> {
  readonly effects: readonly Effect[]
  readonly answer: Answer
  /** What of many things it cannot be done with, each with its reason. */
  readonly refused?: readonly RefusedLine[]
  /** Clients it concerns beyond those its effects name, as a switch concerns all who have something planned. */
  readonly concerns?: readonly string[]
  /** What follows for some of those, client by client, afterwards: worked out here only to be shown. */
  readonly afterwards?: (clientIds: readonly string[]) => readonly Effect[]
  /** How clients stand with what only changes hands: that is no consequence, what follows from it is. */
  readonly handed?: readonly ClientFacts[]
}

/** Counts mail as it comes in: what was checked before that is checked once more. */
export interface Arrivals {
  count(): number
  haveComeSince(count: number): boolean
  note(): void
}

function countArrivals(): Arrivals {
  let count = 0
  return {
    count: () => count,
    haveComeSince: (before) => before !== count,
    note: () => void (count += 1),
  }
}

/** Where commands are carried out: facts read, the engine asked, its effects written, in one transaction each. */
export interface Application {
  readonly store: Store
  readonly clock: Clock
  readonly settings: SettingsSource
  readonly changes: Changes
  readonly announcements: Announcements
  /** Whether web calls may lead to this machine and its network. */
  readonly allowsOwnNetwork: boolean
  context(personId: string | null): EngineContext
  /** One client's slice, as far as it is asked for; null when there is no such client. */
  sliceOf(clientId: string, reading: Reading): Slice | null
  /** The same where many clients are gone through: one that cannot be read is passed over, and noted. */
  readableSliceOf(clientId: string, reading: Reading): Slice | null
  readonly seatsTaken: SeatsTaken
  readonly arrivals: Arrivals
  /** Carries a command out once: repeated under the same id it gives the same answer and does nothing. */
  command<Answer>(
    call: CommandCall,
    decide: (context: EngineContext, settings: Settings) => Result<Decision<Answer>>,
  ): Result<Answer>
  /** Effects that follow from time passing, not from a person. */
  apply(effects: readonly Effect[]): void
  /** Called after each command, for the loop that sends. */
  onCommand(listener: () => void): void
  /** What is to be ended with everything else. */
  onEnd(ending: () => Promise<void>): void
  end(): Promise<void>
}

const topicOf: Readonly<Record<Effect['kind'], readonly Topic[]>> = {
  'put client': ['clients'],
  'remove client': ['clients'],
  'move to client': ['clients', 'bookings', 'sends', 'tasks', 'sequences'],
  'put client merge': ['clients'],
  'end client merge': ['clients'],
  'put client import': ['clients'],
  'end client import': ['clients'],
  'put booking': ['bookings', 'clients'],
  'note told': [],
  'put enquiry': ['clients', 'enquiries'],
  'put invoice': ['bookings', 'clients'],
  'add happening': ['clients'],
  'remove happening': ['clients'],
  'put run': ['sequences'],
  'rest run': [],
  'put send': ['sends'],
  'put task': ['tasks', 'clients'],
  'remove task': ['tasks', 'clients'],
  'put incoming': ['incoming', 'clients'],
  'put written answer': ['incoming', 'clients'],
  'put undelivered': ['clients', 'sends'],
  'put variation': ['clients', 'sends', 'sequences'],
  'remove variation': ['clients', 'sends', 'sequences'],
  'put sequence': ['sending', 'sends', 'sequences'],
  'put sequence version': ['sending', 'sequences'],
  'remove sequence': ['sequences'],
  'put letter': ['letters'],
  'remove letter': ['letters'],
  'put letter draft': ['letters'],
  'remove letter draft': ['letters'],
  'put passage': ['letters'],
  'remove passage': ['letters'],
  'put file': [],
  'add own word': ['letters'],
  'put design': ['sequences'],
  'remove design': ['sequences'],
  'begin rollout': ['sequences', 'settings'],
  'end rollout': ['sequences', 'sends', 'settings'],
  'take up rollout': ['sequences'],
  'give up rollouts': ['sequences'],
  'put business': ['sending', 'sends', 'settings'],
  'put service': ['bookings', 'sends', 'settings'],
  'remove service': ['settings'],
  'put person': ['settings', 'sends'],
  'hand tasks on': ['tasks', 'clients'],
  'put own status': ['bookings', 'settings'],
  'remove own status': ['settings'],
  'put pipeline': ['enquiries', 'settings'],
  'remove pipeline': ['enquiries', 'settings'],
  'put document': ['settings', 'letters'],
  'remove document': ['settings', 'letters'],
  'put signing': ['bookings', 'enquiries'],
  'put form': ['settings', 'letters'],
  'remove form': ['settings'],
  'put form receipt': ['enquiries', 'settings'],
  'put one-press move': ['settings', 'bookings', 'enquiries'],
  'remove one-press move': ['settings', 'bookings', 'enquiries'],
  'put pressed move': ['bookings', 'enquiries'],
  'end pressed move': ['bookings', 'enquiries'],
  'renew calendar feed': ['settings'],
  'set sending': ['sending', 'sends'],
  'set daily cap': ['sending'],
  'set sources kept': ['sending'],
  'set mail account': ['sending', 'sends', 'settings'],
  'put further account': ['sending', 'sends', 'settings'],
  'remove further account': ['sending', 'sends', 'settings'],
  'put incoming mailbox': ['mailboxes', 'settings'],
  'remove incoming mailbox': ['mailboxes', 'settings'],
  'set public address': ['sending', 'settings'],
  'set only to': ['sending', 'sends', 'settings'],
  'set marked answers': ['mailboxes'],
  'set noticing': ['mailboxes', 'settings'],
  'set client noticed': ['clients'],
  'set note wishes': [],
  'append event': [],
  'set due moment': [],
  'clear due moment': [],
}

const settingsEffects: readonly Effect['kind'][] = [
  'put business',
  'put service',
  'remove service',
  'put person',
  'put own status',
  'remove own status',
  'put pipeline',
  'remove pipeline',
  'put document',
  'remove document',
  'put form',
  'remove form',
  'put one-press move',
  'remove one-press move',
  'put sequence',
  'put sequence version',
  'remove sequence',
  'put variation',
  'remove variation',
  'put letter',
  'remove letter',
  'put passage',
  'remove passage',
  'set sending',
  'set mail account',
  'put further account',
  'remove further account',
  'put incoming mailbox',
  'remove incoming mailbox',
  'set public address',
  'set only to',
  'set marked answers',
  'set noticing',
]

/** What happens with a message or a booking shows with those; a note is nowhere else. */
function topicsOfEvent(effect: Effect): readonly Topic[] {
  return effect.kind === 'append event' && effect.event.kind === 'note written'
    ? ['clients', 'bookings', 'enquiries']
    : []
}

function topicsOf(effects: readonly Effect[]): Topic[] {
  return [...new Set(effects.flatMap((effect) => [...topicOf[effect.kind], ...topicsOfEvent(effect)]))]
}

interface CarryingParts extends ApplicationParts {
  readonly announcements: Announcements
}

/** What came of a command, and what it has changed. */
interface Carried<Answer> {
  readonly result: Result<Answer>
  readonly effects: readonly Effect[]
  /** Null: nothing was carried out. */
  readonly things: readonly ChangedThing[] | null
}

/** A transaction that was only begun to look, or that would do something else than announced, leaves nothing behind. */
function asOneOrNothing<Answer>(settings: SettingsSource, carry: () => Carried<Answer>): Carried<Answer> {
  try {
    return carry()
  } catch (fault) {
    settings.forget()
    if (fault instanceof BecameOther) return { result: asOther<Answer>(), effects: [], things: null }
    throw fault
  }
}

interface ApplicationParts {
  /** Whether web calls may lead to this machine and its network. */
  readonly allowsOwnNetwork?: boolean
  readonly store: Store
  readonly clock: Clock
  readonly settings: SettingsSource
  readonly changes: Changes
}

function repeated<Answer>({ store }: ApplicationParts, call: CommandCall): Result<Answer> | null {
  const earlier = store.statements.one('readCommand', { id: call.id })
  if (!earlier) return null
  if (earlier['name'] !== call.name || earlier['personId'] !== call.personId) {
    return refused('invalid', 'This command id has been used for something else.', 'commandId')
  }
  if (earlier['bodyHash'] !== call.bodyHash && earlier['bodyHash'] !== '') {
    const sentence =
      'This was sent before with something else in it, and that has been done. Look at what is there, then do it again if it is still wanted.'
    return refused('changed meanwhile', sentence)
  }
  return { ok: true, value: fromJson(earlier['answerJson']) as Answer }
}

class TakenBack extends Error {}

/** Does something only to see what it does, and takes it back. */
function tried(store: Store, work: () => void) {
  try {
    store.transaction(() => {
      work()
      throw new TakenBack()
    })
  } catch (fault) {
    if (!(fault instanceof TakenBack)) throw fault
  }
}

function carryOut<Answer>(
  parts: CarryingParts,
  call: CommandCall,
  decide: (context: EngineContext) => Result<Decision<Answer>>,
  context: EngineContext,
): Carried<Answer> {
  const { considered } = call
  const earlier = considered.onlyAsks ? null : repeated<Answer>(parts, call)
  if (earlier) return { result: earlier, effects: [], things: null }
  const { announcementId } = considered
  const reserved = announcementId === null ? [] : [...parts.announcements.idsOf(announcementId)]
  const decided = decide(contextWithIds(context, reserved))
  if (!decided.ok) return { result: decided, effects: [], things: null }
  const { answer } = decided.value
  const effects = bookingHeldBack(decided.value.effects, considered.holdBack, context.now)
  const { statements } = parts.store
  const at = parts.clock.now()
  if (considered.onlyAsks || announcementId !== null) {
    // What is held back was shown as going, and is compared as that.
    const { concerns = [], afterwards, refused: refusals = [], handed } = decided.value
    const concerned = concernedBy(decided.value.effects, concerns)
    const all = [...decided.value.effects, ...(afterwards?.(concerned.slice(0, mostClients)) ?? [])]
    const looking = lookBefore(
      { statements, settings: parts.settings, focus: focusOfEffects(all), now: at },
      concerned,
      handed,
    )
    const cautions = considered.onlyAsks ? cautionsFor(parts, decided.value.effects) : []
    tried(parts.store, () => {
      applyEffects(statements, all)
      const { announcements } = parts
      holdToIt(looking, reserved, { considered, announcements, refusals, cautions, now: at }, answer)
    })
    if (announcementId !== null) parts.announcements.used(announcementId)
  }
  const things = call.onChanged
    ? thingsChanged(effects, { statements, settings: parts.settings.current() })
    : []
  applyEffects(statements, effects)
  statements.run('insertCommand', {
    id: call.id,
    personId: call.personId,
    name: call.name,
    bodyHash: call.bodyHash,
    answerJson: asJson(answer),
    at,
  })
  return { result: { ok: true, value: answer }, effects, things }
}

export function createApplication(parts: ApplicationParts): Application {
  const { store, clock, settings, changes } = parts
  const { statements } = store
  const listeners: (() => void)[] = []
  const endings: (() => Promise<void>)[] = []
  const context = (personId: string | null): EngineContext => ({ now: clock.now(), personId, newId })
  const forgetChanged = (effects: readonly Effect[]) => {
    if (effects.some(({ kind }) => settingsEffects.includes(kind))) settings.forget()
  }
  const sliceWith = (facts: ClientFacts | null): Slice | null =>
    facts && { settings: settings.required(), facts }
  const announcements = createAnnouncements()
  const all = { ...parts, announcements, allowsOwnNetwork: parts.allowsOwnNetwork ?? false }
  return {
    ...all,
    context,
    sliceOf: (clientId, reading) =>
      sliceWith(readClientFacts(statements, clientId, reading, settings.required(), clock.now())),
    readableSliceOf: (clientId, reading) =>
      sliceWith(readableClientFacts(statements, clientId, reading, settings.required(), clock.now())),
    arrivals: countArrivals(),
    seatsTaken: (serviceId, startAt, endAt, exceptBookingId) =>
      Number(statements.one('seatsTaken', { serviceId, startAt, endAt, exceptBookingId })?.['seats'] ?? 0),
    command(call, decide) {
      const { result, effects, things } = asOneOrNothing(settings, () =>
        store.transaction(() =>
          carryOut(all, call, (present) => decide(present, settings.required()), context(call.personId)),
        ),
      )
      forgetChanged(effects)
      if (things) call.onChanged?.(things)
      if (effects.length > 0) {
        changes.publish(topicsOf(effects))
        for (const listener of listeners) listener()
      }
      return result
    },
    apply(effects) {
      store.transaction(() => applyEffects(statements, effects))
      forgetChanged(effects)
      changes.publish(topicsOf(effects))
    },
    onCommand: (listener) => void listeners.push(listener),
    onEnd: (ending) => void endings.push(ending),
    async end() {
      await Promise.all(endings.map((ending) => ending()))
    },
  }
}
