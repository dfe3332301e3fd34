import { ZodError } from 'zod'
import { changedFacts, type ChangedThing } from '#core/insight/acts.ts'
import type { Effect } from '#core/engine/effects.ts'
import type { Settings } from '#core/planning/slice.ts'
import {
  readBooking,
  readClient,
  readEnquiry,
  readInvoice,
  readTask,
  readVariation,
} from '../db/clientStore.ts'
import { readIncoming, readUndelivered, readWrittenAnswer } from '../db/incomingStore.ts'
import { readSend } from '../db/sendStore.ts'
import { isUnnoticed } from '../db/visitStore.ts'
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

/** A kind of thing that is put or removed: how it was read before, and what it is called. */
function kind<Item>(
  what: string,
  read: (before: Before, id: string) => Item | null | undefined,
  nameOf: (item: Item, before: Before) => string,
) {
  return (id: string, after: Item | undefined, before: Before): Thing => {
    const was = read(before, id) ?? undefined
    const named = after ?? was
    return { what, id, name: named === undefined ? '' : nameOf(named, before), before: was, after }
  }
}

/** One of a list of the settings. */
const listed = <Item extends Named>(what: string, items: (settings: Settings) => readonly Item[]) =>
  kind(
    what,
    ({ settings }, id) => settings && items(settings).find((one) => one.id === id),
    ({ name }: Item) => name,
  )

const nameOfClient = (
  { clientId }: { readonly clientId: string },
  { statements }: Pick<Before, 'statements'>,
) => readClient(statements, clientId)?.name ?? ''
const client = kind(
  'client',
  ({ statements }, id) => readClient(statements, id),
  ({ name }) => name,
)
const booking = kind('booking', ({ statements }, id) => readBooking(statements, id), nameOfClient)
const invoice = kind('invoice', ({ statements }, id) => readInvoice(statements, id), nameOfClient)
const enquiry = kind('enquiry', ({ statements }, id) => readEnquiry(statements, id), nameOfClient)
const task = kind(
  'task',
  ({ statements }, id) => readTask(statements, id),
  ({ title }) => title,
)
const difference = kind(
  'difference',
  ({ statements }, id) => readVariation(statements, id),
  () => '',
)
const service = listed('service', ({ services }) => services)
const furtherAccount = listed('mail account', ({ mailAccounts }) => mailAccounts)
const incomingMailbox = listed('mailbox', ({ incomingMailboxes }) => incomingMailboxes)
const person = listed('person', ({ people }) => people)
const ownStatus = listed('status', ({ ownStatuses }) => ownStatuses)
const pipeline = listed('pipeline', ({ pipelines }) => pipelines)
const onePressMove = listed('one-press move', ({ onePressMoves }) => onePressMoves)
const documentOf = listed('document', ({ documents }) => documents)
const formOf = listed('form', ({ forms }) => forms)
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
  'put client': ({ client: put }, before) => client(put.id, put, before),
  'remove client': ({ id }, before) => client(id, undefined, before),
  'move to client': follows,
  'put client merge': follows,
  'end client merge': follows,
  'put client import': ({ brought: { fileName, clients } }) =>
    only('clients brought in', `${clients.length} from ${fileName}`, undefined),
  'end client import': follows,
  'put booking': ({ booking: put }, before) => booking(put.id, put, before),
  'note told': follows,
  'put enquiry': ({ enquiry: put }, before) => enquiry(put.id, put, before),
  'put invoice': ({ invoice: put }, before) => invoice(put.id, put, before),
  'add happening': follows,
  'remove happening': follows,
  'put run': follows,
  'rest run': follows,
  'put send': ({ send }, before) => ({
    what: 'message',
    id: send.id,
    name: nameOfClient(send, before),
    before: decidedOf(readSend(before.statements, send.id)),
    after: decidedOf(send),
  }),
  'put task': ({ task: put }, before) => task(put.id, put, before),
  'remove task': ({ id }, before) => task(id, undefined, before),
  'put incoming': ({ incoming: put }, { statements }) => ({
    what: 'mail that came in',
    id: put.id,
    name: put.from.address,
    before: readIncoming(statements, put.id) ?? undefined,
    after: put,
  }),
  'put written answer': ({ answer }, { statements }) => ({
    what: 'written answer',
    id: answer.id,
    name: answer.to,
    before: readWrittenAnswer(statements, answer.id) ?? undefined,
    after: answer,
  }),
  'put undelivered': ({ address, undelivered: put }, { statements }) => ({
    what: 'address',
    id: address,
    name: address,
    before: readUndelivered(statements, address) ?? undefined,
    after: put ?? undefined,
  }),
  'put variation': ({ variation }, before) => difference(variation.id, variation, before),
  'remove variation': ({ id }, before) => difference(id, undefined, before),
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
  'hand tasks on': follows,
  'put own status': ({ ownStatus: put }, before) => ownStatus(put.id, put, before),
  'remove own status': ({ id }, before) => ownStatus(id, undefined, before),
  'put pipeline': ({ pipeline: put }, before) => pipeline(put.id, put, before),
  'remove pipeline': ({ id }, before) => pipeline(id, undefined, before),
  'put document': ({ document: put }, before) => documentOf(put.id, put, before),
  'remove document': ({ id }, before) => documentOf(id, undefined, before),
  'put signing': follows,
  'put form': ({ form: put }, before) => formOf(put.id, put, before),
  'remove form': ({ id }, before) => formOf(id, undefined, before),
  'put form receipt': follows,
  'put one-press move': ({ move: put }, before) => onePressMove(put.id, put, before),
  'remove one-press move': ({ id }, before) => onePressMove(id, undefined, before),
  'put pressed move': follows,
  'end pressed move': follows,
  'renew calendar feed': follows,
  'set sending': ({ isOn }, { settings }) => only('sending', isOn, settings?.isSendingOn),
  'set daily cap': ({ cap }) => only('most messages in a day', cap.most, undefined),
  'set sources kept': ({ months }) => only('months of e-mails', months, undefined),
  'set mail account': ({ kept }) => only('mail account', kept?.account ?? null, undefined),
  'put further account': ({ account }, before) => furtherAccount(account.id, account, before),
  'remove further account': ({ id }, before) => furtherAccount(id, undefined, before),
  'put incoming mailbox': ({ mailbox }, before) => incomingMailbox(mailbox.id, mailbox, before),
  'remove incoming mailbox': ({ id }, before) => incomingMailbox(id, undefined, before),
  'set only to': ({ addresses }, { settings }) =>
    only('quiet mode', addresses?.join(', ') ?? null, settings?.onlyTo?.join(', ')),
  'set public address': ({ url }) => only('web address', url, undefined),
  'set marked answers': ({ isOn }, { settings }) =>
    only('marked answers', isOn, settings?.markAnswers !== null),
  'set noticing': ({ noticing }, { settings }) => only('what is noticed', noticing, settings?.noticing),
  'set client noticed': ({ clientId, isNoticed }, { statements }) => ({
    what: 'client',
    id: clientId,
    name: nameOfClient({ clientId }, { statements }),
    before: { isNoticed: !isUnnoticed(statements, clientId) },
    after: { isNoticed },
  }),
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

function changedBy(effects: readonly Effect[], before: Before): readonly ChangedThing[] {
  const found = new Map<string, Thing>()
  for (const effect of effects) {
    if (found.size >= mostThings) break
    const thing = thingOf(effect, before)
    if (!thing) continue
    const key = `${thing.what} ${thing.id}`
    // Put twice it is one thing, as it was before the first and is after the last.
    found.set(key, { ...thing, before: found.get(key)?.before ?? thing.before })
  }
  return [...found.values()]
    .map(({ what, id, name, before: was, after }) => ({ what, id, name, facts: changedFacts(was, after) }))
    .filter(({ facts }) => facts.length > 0)
}

const isOfMessage = ({ kind: of }: Effect) => of === 'put send'

/**
 * What some effects change for a person to read, looked at before they are applied. Messages that are planned anew follow
 * from the rest, and are read only where there is nothing else.
 */
export function thingsChanged(effects: readonly Effect[], before: Before): readonly ChangedThing[] {
  const others = changedBy(
    effects.filter((effect) => !isOfMessage(effect)),
    before,
  )
  return others.length > 0 ? others : changedBy(effects.filter(isOfMessage), before)
}
