import type { Announcement, Caution, ConsequenceOfClient, RefusedLine } from '#core/api/announcements.ts'
import type { Considered } from '#core/api/described.ts'
import { announcedOf, type Announced } from '#core/engine/consequences/announced.ts'
import { settledDifference } from '#core/engine/consequences/consequences.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { refused, type Result } from '#core/model/problem.ts'
import type { Change } from '#core/planning/difference.ts'
import { factsOf, type ClientFacts, type Slice } from '#core/planning/slice.ts'
import { readableClientFacts, type Focus } from '../../db/livingStore.ts'
import type { Statements } from '../../db/statements.ts'
import { changedMeanwhile, type Announcements } from './announcements.ts'
import { consequenceLine } from './consequenceLines.ts'
import type { SettingsSource } from '../settings.ts'

/*
 * Every act can be asked about before it is done: it is carried out within a transaction, what it changes for the
 * clients it concerns is worked out, and the transaction is taken back. An act that says what it was shown is carried
 * out the same way, and taken back as well where it would do something else by now.
 */

/** Thrown through a transaction that was only begun to see what it does. */
export class Asked extends Error {
  constructor(
    readonly announcement: Announcement,
    /** What the command would have answered. */
    readonly answer: unknown,
  ) {
    super('This was only asked about.')
  }
}

/** Thrown through a transaction that would do something else than was announced. */
export class BecameOther extends Error {}

export const asOther = <Value>(): Result<Value> => refused('changed meanwhile', changedMeanwhile)

/** More clients than these are counted, and not looked at one by one. */
export const mostClients = 200
const mostLines = 400

/** The client an effect concerns; null: none. */
function clientOf(effect: Effect): string | null {
  switch (effect.kind) {
    case 'put client':
      return effect.client.id
    case 'put booking':
      return effect.booking.clientId
    case 'put enquiry':
      return effect.enquiry.clientId
    case 'put invoice':
      return effect.invoice.clientId
    case 'put run':
      return effect.run.clientId
    case 'put send':
      return effect.send.clientId
    case 'add happening':
      return effect.clientId
    default:
      return null
  }
}

export function concernedBy(effects: readonly Effect[], further: readonly string[]): readonly string[] {
  return [...new Set([...effects.flatMap((effect) => clientOf(effect) ?? []), ...further])]
}

/** What some effects touch, whether or not it is at rest: the same is looked at before and after. */
export function focusOfEffects(effects: readonly Effect[]): Focus {
  const subjectIds = effects.flatMap((effect) => {
    switch (effect.kind) {
      case 'put booking':
        return [effect.booking.id]
      case 'put enquiry':
        return [effect.enquiry.id]
      case 'put invoice':
        return [effect.invoice.id, ...(effect.invoice.bookingId === null ? [] : [effect.invoice.bookingId])]
      case 'put run':
        return [effect.run.subject.id]
      case 'put send':
        return [effect.send.subject.id]
      default:
        return []
    }
  })
  const runIds = effects.flatMap((effect) => {
    if (effect.kind === 'put send') return [effect.send.runId]
    if (effect.kind === 'rest run') return [effect.runId]
    return effect.kind === 'put run' ? [effect.run.id] : []
  })
  return { subjectIds: [...new Set(subjectIds)], runIds: [...new Set(runIds)] }
}

interface Looker {
  readonly statements: Statements
  readonly settings: SettingsSource
  readonly focus: Focus
  readonly now: number
}

/** The slices of some clients as they stand in the store; one that is not there yet has no facts. */
function slicesOf(
  { statements, settings, focus, now }: Looker,
  ids: readonly string[],
): ReadonlyMap<string, Slice> {
  const present = settings.required()
  return new Map(
    ids.flatMap((id): [string, Slice][] => {
      const facts = readableClientFacts(statements, id, focus, present, now)
      return facts ? [[id, { settings: present, facts }]] : []
    }),
  )
}

interface ClientChange {
  readonly change: Change
  readonly after: Slice
}

export interface Looking {
  /** What an act changed, once it has been carried out. */
  after(now: number): { readonly changes: readonly ClientChange[]; readonly uncounted: number }
}

/** Looks at the clients an act concerns before it is carried out, to be asked again afterwards. */
export function lookBefore(
  looker: Looker,
  concerned: readonly string[],
  handed: readonly ClientFacts[] = [],
): Looking {
  const ids = concerned.slice(0, mostClients)
  const settings = looker.settings.required()
  const before = new Map([
    ...slicesOf(looker, ids),
    ...handed.map((facts): [string, Slice] => [facts.client.id, { settings, facts }]),
  ])
  return {
    after(now) {
      looker.settings.forget()
      const changes = [...slicesOf(looker, ids)].flatMap(([id, after]) => {
        const was = before.get(id) ?? { settings: after.settings, facts: factsOf(after.facts.client) }
        return settledDifference(was, after, now).map((change) => ({ change, after }))
      })
      return { changes, uncounted: concerned.length - ids.length }
    },
  }
}

function announcedBy(changes: readonly ClientChange[]): readonly Announced[] {
  return changes.map(({ change, after }) => announcedOf(change, after.settings.letters))
}

function lineOf({ change, after }: ClientChange, now: number): ConsequenceOfClient {
  return { ...consequenceLine(change, after, now), clientName: after.facts.client.name }
}

/** Ids of things that are only being made are the same when it is done as when it was asked about. */
export function contextWithIds(context: EngineContext, reserved: string[]): EngineContext {
  const kept = [...reserved]
  return {
    ...context,
    newId(prefix) {
      const index = kept.findIndex((id) => id.startsWith(`${prefix}_`))
      const [known] = index < 0 ? [] : kept.splice(index, 1)
      const id = known ?? context.newId(prefix)
      if (reserved.length < mostReserved && reservedPrefixes.includes(prefix) && known === undefined) {
        reserved.push(id)
      }
      return id
    },
  }
}

/** What a message is named by and may only be being made. */
const reservedPrefixes = ['cl', 'ct', 'bk', 'en', 'in']
const mostReserved = 1000

export interface Consider {
  readonly considered: Considered
  readonly announcements: Announcements
  /** What of many things it would not be done with. */
  readonly refusals: readonly RefusedLine[]
  readonly cautions: readonly Caution[]
  readonly now: number
}

/** Ends an act that was only asked about, or holds one to what was announced. Throws through the transaction. */
export function holdToIt(
  looking: Looking,
  ids: readonly string[],
  { considered, announcements, refusals, cautions, now }: Consider,
  answer: unknown,
) {
  const { changes, uncounted } = looking.after(now)
  const announced = announcedBy(changes)
  if (considered.onlyAsks) {
    const announcementId = announcements.keep(announced, now, ids)
    const consequences = changes.slice(0, mostLines).map((one) => lineOf(one, now))
    const more = changes.length - consequences.length
    const found = { refused: [...refusals], cautions: [...cautions] }
    throw new Asked({ announcementId, consequences, more, uncounted, ...found }, answer)
  }
  const { announcementId } = considered
  if (announcementId !== null && !announcements.isStillSo(announcementId, announced, now)) {
    throw new BecameOther()
  }
}
