import { ZodError } from 'zod'
import { changedFacts, type ChangedThing } from '#core/insight/acts.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { Settings } from '#core/planning/slice.ts'
import { readBooking, readClient, readInvoice, readTask, readVariation } from '../db/clientStore.ts'
import { readSend } from '../db/sendStore.ts'
import type { Statements } from '../db/statements.ts'

/** What is there before an act. */
interface Before {
  readonly statements: Statements
  /** Null: nothing is set up yet. */
  readonly settings: Settings | null
}

interface Thing {
  readonly what: string
  readonly id: string
  readonly name: string
  readonly before: unknown
  /** Undefined: it is there no more. */
  readonly after: unknown
}

type ThingOf<Kind extends Effect['kind']> = (
  effect: Extract<Effect, { kind: Kind }>,
  before: Before,
) => Thing | null

interface Named {
  readonly id: string
  readonly name: string
}

/** One of a list of the settings, put or removed. */
function listed<Item extends Named>(what: string, items: (settings: Settings) => readonly Item[]) {
  return (id: string, after: Item | undefined, { settings }: Before): Thing => {
    const before = settings && items(settings).find((one) => one.id === id)
    return { what, id, name: after?.name ?? before?.name ?? '', before: before ?? undefined, after }
  }
}

const nameOfClient = ({ statements }: Before, clientId: string) =>
  readClient(statements, clientId)?.name ?? ''
const service = listed('service', ({ services }) => services)
const person = listed('person', ({ people }) => people)
const ownStatus = listed('status', ({ ownStatuses }) => ownStatuses)
const sequence = listed('sequence', ({ sequences }) => sequences)
const letter = listed('letter', ({ letters }) => letters)
const passage = listed('passage', ({ passages }) => passages)

/** What follows by itself, and what is only written down about it, is no thing somebody changed. */
const follows = () => null

/** A thing there is one of. */
const only = (what: string, after: unknown, before: unknown): Thing => ({
  what,
  id: '',
  name: '',
  before: { value: before },
  after: { value: after },
})

/** The state of a message and what a person decided about it; its plan follows from facts. */
const decidedOf = (send: ReturnType<typeof readSend>) =>
  send ? { state: send.state, reason: send.reason?.sentence, ...send.decision } : undefined

/** Which thing each kind of effect changes, and how it was before. */
const things: { readonly [Kind in Effect['kind']]: ThingOf<Kind> } = {
  'put client': ({ client }, { statements }) => ({
    what: 'client',
    id: client.id,
    name: client.name,
    before: readClient(statements, client.id) ?? undefined,
    after: client,
  }),
  'remove client': ({ id }, { statements }) => {
    const before = readClient(statements, id)
    return { what: 'client', id, name: before?.name ?? '', before: before ?? undefined, after: undefined }
  },
  'put client import': ({ brought: { fileName, clients } }) =>
    only('clients brought in', `${clients.length} from ${fileName}`, undefined),
  'end client import': follows,
  'put booking': ({ booking }, before) => ({
    what: 'booking',
    id: booking.id,
    name: nameOfClient(before, booking.clientId),
    before: readBooking(before.statements, booking.id) ?? undefined,
    after: booking,
  }),
  'note told': follows,
  'put enquiry': ({ enquiry }, before) => ({
    what: 'enquiry',
    id: enquiry.id,
    name: nameOfClient(before, enquiry.clientId),
    before: undefined,
    after: enquiry,
  }),
  'put invoice': ({ invoice }, before) => ({
    what: 'invoice',
    id: invoice.id,
    name: nameOfClient(before, invoice.clientId),
    before: readInvoice(before.statements, invoice.id) ?? undefined,
    after: invoice,
  }),
  'add happening': follows,
  'put run': follows,
  'rest run': follows,
  'put send': ({ send }, before) => ({
    what: 'message',
    id: send.id,
    name: nameOfClient(before, send.clientId),
    before: decidedOf(readSend(before.statements, send.id)),
    after: decidedOf(send),
  }),
  'put task': ({ task }, { statements }) => ({
    what: 'task',
    id: task.id,
    name: task.title,
    before: readTask(statements, task.id) ?? undefined,
    after: task,
  }),
  'put variation': ({ variation }, { statements }) => ({
    what: 'difference',
    id: variation.id,
    name: '',
    before: readVariation(statements, variation.id) ?? undefined,
    after: variation,
  }),
  'remove variation': ({ id }, { statements }) => ({
    what: 'difference',
    id,
    name: '',
    before: readVariation(statements, id) ?? undefined,
    after: undefined,
  }),
  'put sequence': ({ sequence: put }, before) => sequence(put.id, put, before),
  'put sequence version': follows,
  'remove sequence': ({ id }, before) => sequence(id, undefined, before),
  'put letter': ({ letter: put }, before) => letter(put.id, put, before),
  'remove letter': ({ id }, before) => letter(id, undefined, before),
  'put letter draft': follows,
  'remove letter draft': follows,
  'put passage': ({ passage: put }, before) => passage(put.id, put, before),
  'remove passage': ({ id }, before) => passage(id, undefined, before),
  'put file': follows,
  'add own word': ({ word }) => only('word', word, undefined),
  'put design': follows,
  'remove design': follows,
  'begin rollout': follows,
  'take up rollout': follows,
  'give up rollouts': follows,
  'end rollout': follows,
  'put business': ({ business }, { settings }) => ({
    what: 'business',
    id: '',
    name: business.name,
    before: settings?.business,
    after: business,
  }),
  'put service': ({ service: put }, before) => service(put.id, put, before),
  'remove service': ({ id }, before) => service(id, undefined, before),
  'put person': ({ person: put }, before) => person(put.id, put, before),
  'put own status': ({ ownStatus: put }, before) => ownStatus(put.id, put, before),
  'remove own status': ({ id }, before) => ownStatus(id, undefined, before),
  'renew calendar feed': follows,
  'set sending': ({ isOn }, { settings }) => only('sending', isOn, settings?.isSendingOn),
  'set sources kept': ({ months }) => only('months of e-mails', months, undefined),
  'set mail account': ({ kept }) => only('mail account', kept?.account ?? null, undefined),
  'set only to': ({ addresses }, { settings }) =>
    only('quiet mode', addresses?.join(', ') ?? null, settings?.onlyTo?.join(', ')),
  'set public address': ({ url }) => only('web address', url, undefined),
  'set note wishes': follows,
  'append event': follows,
  'set due moment': follows,
  'clear due moment': follows,
}

/** What was there and cannot be read is not told; that it cannot be read stands on the Desk. */
function thingOf(effect: Effect, before: Before): Thing | null {
  try {
    return (things[effect.kind] as ThingOf<Effect['kind']>)(effect, before)
  } catch (fault) {
    if (fault instanceof ZodError) return null
    throw fault
  }
}

/** So many things of one act are kept. */
const mostThings = 20

/** What some effects change for a person to read, looked at before they are applied. */
export function thingsChanged(effects: readonly Effect[], before: Before): readonly ChangedThing[] {
  const found = new Map<string, Thing>()
  for (const effect of effects) {
    if (found.size >= mostThings) break
    const thing = thingOf(effect, before)
    if (!thing) continue
    const key = `${thing.what} ${thing.id}`
    // Put twice it is one thing, as it was before the first and is after the last.
    found.set(key, { ...thing, before: found.get(key)?.before ?? thing.before })
  }
  const changed = [...found.values()]
    .map(({ what, id, name, before: was, after }) => ({ what, id, name, facts: changedFacts(was, after) }))
    .filter(({ facts }) => facts.length > 0)
  // Messages that are planned anew follow from the rest.
  const others = changed.filter(({ what }) => what !== 'message')
  return others.length > 0 ? others : changed
}
