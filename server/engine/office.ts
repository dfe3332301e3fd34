import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { SeatsTaken } from '#core/engine/bookingCommands.ts'
import { refused, type Result } from '#core/model/problem.ts'
import type { Settings, Slice } from '#core/planning/slice.ts'
import { readClientFacts } from '../db/clientStore.ts'
import type { Store } from '../db/database.ts'
import { asJson, fromJson } from '../db/columns.ts'
import { createAnnouncements, type Announcements } from './announcements.ts'
import { applyEffects } from './applyEffects.ts'
import type { Changes, Topic } from './changes.ts'
import type { Clock } from './clock.ts'
import { newId } from './ids.ts'
import type { SettingsSource } from './settings.ts'

/** Who asks for a command, under which id and name. */
export interface CommandCall {
  readonly id: string
  readonly personId: string | null
  readonly name: string
}

/** What a command decides: what is to be done, and what to answer. */
export interface Decision<Answer> {
  readonly effects: readonly Effect[]
  readonly answer: Answer
}

/** Where commands are carried out: facts read, the engine asked, its effects written, in one transaction each. */
export interface Office {
  readonly store: Store
  readonly clock: Clock
  readonly settings: SettingsSource
  readonly changes: Changes
  readonly announcements: Announcements
  context(personId: string | null): EngineContext
  /** One client's slice, or null when there is no such client. */
  sliceOf(clientId: string): Slice | null
  readonly seatsTaken: SeatsTaken
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
  'put booking': ['bookings', 'clients'],
  'note told': [],
  'put enquiry': ['clients'],
  'put invoice': ['clients'],
  'add happening': ['clients'],
  'put run': ['sequences'],
  'put send': ['sends'],
  'put task': ['tasks', 'clients'],
  'put variation': ['clients', 'sends', 'sequences'],
  'remove variation': ['clients', 'sends', 'sequences'],
  'put sequence': ['sending', 'sends', 'sequences'],
  'put sequence version': ['sending', 'sequences'],
  'remove sequence': ['sequences'],
  'put letter': ['letters'],
  'remove letter': ['letters'],
  'put passage': ['letters'],
  'remove passage': ['letters'],
  'append event': [],
  'set due moment': [],
  'clear due moment': [],
}

const settingsEffects: readonly Effect['kind'][] = [
  'put sequence',
  'put sequence version',
  'remove sequence',
  'put variation',
  'remove variation',
  'put letter',
  'remove letter',
  'put passage',
  'remove passage',
]

function topicsOf(effects: readonly Effect[]): Topic[] {
  return [...new Set(effects.flatMap((effect) => topicOf[effect.kind]))]
}

interface OfficeParts {
  readonly store: Store
  readonly clock: Clock
  readonly settings: SettingsSource
  readonly changes: Changes
}

function repeated<Answer>({ store }: OfficeParts, call: CommandCall): Result<Answer> | null {
  const earlier = store.statements.one('readCommand', { id: call.id })
  if (!earlier) return null
  if (earlier['name'] !== call.name || earlier['personId'] !== call.personId) {
    return refused('invalid', 'This command id has been used for something else.', 'commandId')
  }
  return { ok: true, value: fromJson(earlier['answerJson']) as Answer }
}

function carryOut<Answer>(
  parts: OfficeParts,
  call: CommandCall,
  decide: () => Result<Decision<Answer>>,
): { result: Result<Answer>; effects: readonly Effect[] } {
  const earlier = repeated<Answer>(parts, call)
  if (earlier) return { result: earlier, effects: [] }
  const decided = decide()
  if (!decided.ok) return { result: decided, effects: [] }
  const { effects, answer } = decided.value
  const { statements } = parts.store
  applyEffects(statements, effects)
  const at = parts.clock.now()
  statements.run('insertCommand', {
    id: call.id,
    personId: call.personId,
    name: call.name,
    answerJson: asJson(answer),
    at,
  })
  return { result: { ok: true, value: answer }, effects }
}

export function createOffice(parts: OfficeParts): Office {
  const { store, clock, settings, changes } = parts
  const { statements } = store
  const listeners: (() => void)[] = []
  const endings: (() => Promise<void>)[] = []
  const context = (personId: string | null): EngineContext => ({ now: clock.now(), personId, newId })
  const forgetChanged = (effects: readonly Effect[]) => {
    if (effects.some(({ kind }) => settingsEffects.includes(kind))) settings.forget()
  }
  return {
    ...parts,
    announcements: createAnnouncements(),
    context,
    sliceOf(clientId) {
      const facts = readClientFacts(statements, clientId)
      return facts ? { settings: settings.required(), facts } : null
    },
    seatsTaken: (serviceId, startAt, endAt, exceptBookingId) =>
      Number(statements.one('seatsTaken', { serviceId, startAt, endAt, exceptBookingId })?.['seats'] ?? 0),
    command(call, decide) {
      const { result, effects } = store.transaction(() =>
        carryOut(parts, call, () => decide(context(call.personId), settings.required())),
      )
      forgetChanged(effects)
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
