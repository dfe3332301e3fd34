import { z } from 'zod'
import {
  client,
  contact,
  contactId,
  mostContacts,
  mostNamedDates,
  namedDate,
  type Client,
} from '../../model/client.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { reservedEndingOf, reservedSentence } from '../../model/reservedAddress.ts'
import { claimableStates } from '../../model/sendState.ts'
import { factsOf, type Settings, type Slice } from '../../planning/slice.ts'
import { noSuchZone } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { happened } from './dealingCommands.ts'
import { conclude } from '../following/react.ts'
import { missWhileHeldBack } from './sendCommands.ts'

const contactInput = contact.omit({ id: true }).extend({ id: contactId.nullable() }).strict()

export const clientInput = client
  .pick({ name: true, zone: true, language: true, tags: true, takesPromotional: true, isActive: true })
  .extend({
    contacts: z
      .array(contactInput)
      .min(1, 'A client needs at least one contact.')
      .max(mostContacts, `At most ${mostContacts} contacts.`)
      .refine(
        (contacts) => contacts.filter((one) => one.isPrimary).length === 1,
        'Exactly one contact is the primary one.',
      ),
    namedDates: z.array(namedDate).max(mostNamedDates, `At most ${mostNamedDates} dates.`),
  })
  .strict()
export type ClientInput = z.infer<typeof clientInput>

function zoneProblem(settings: Settings, zone: string | null) {
  if (zone === null || settings.zones.has(zone)) return null
  return refused<never>('invalid', noSuchZone(zone), 'zone')
}

/** Refused where an address of a contact cannot be real; one that stood there before is left alone. */
function addressProblem({ isRealMail }: Settings, { contacts }: ClientInput, old: Client | null) {
  if (!isRealMail) return null
  const index = contacts.findIndex(
    ({ email }) =>
      email !== null &&
      reservedEndingOf(email) !== null &&
      old?.contacts.every((other) => other.email !== email) !== false,
  )
  const email = contacts[index]?.email ?? ''
  const ending = reservedEndingOf(email)
  if (ending === null) return null
  return refused<never>('invalid', reservedSentence(email, ending), `contacts.${index}.email`)
}

function contactsOf(input: ClientInput, context: EngineContext): Client['contacts'] {
  return input.contacts.map((one) => ({ ...one, id: one.id ?? context.newId('ct') }))
}

/** A client as they begin. */
export function newClient(input: ClientInput, context: EngineContext): Client {
  return {
    ...input,
    id: context.newId('cl'),
    contacts: contactsOf(input, context),
    isHeldBack: false,
    addedAt: context.now,
    revision: 1,
  }
}

/** A yearly date became known: sequences that hang on it start. */
function dateKnown(clientId: string, label: string, context: EngineContext): Effect {
  return appendEvent(context, 'date known', { clientId, name: label }, `Date known: ${label}.`)
}

/** A new client, with the facts of nobody else: the answer is the client's own first slice. */
export function addClient(
  settings: Settings,
  input: ClientInput,
  context: EngineContext,
): Result<readonly Effect[]> {
  const problem = zoneProblem(settings, input.zone) ?? addressProblem(settings, input, null)
  if (problem) return problem
  if (input.contacts.some((one) => one.id !== null)) {
    return refused('invalid', 'A new client has no contacts with ids yet.', 'contacts')
  }
  const added = newClient(input, context)
  const event = appendEvent(context, 'client added', { clientId: added.id }, `Client added: ${added.name}.`)
  const tagged = added.tags.flatMap((tag) =>
    happened(added.id, { kind: 'tag added', name: tag, at: context.now }, context),
  )
  const dated = added.namedDates.map(({ label }) => dateKnown(added.id, label, context))
  const effects = [{ kind: 'put client', client: added } as const, event, ...tagged, ...dated]
  return done(conclude({ settings, facts: factsOf(added) }, effects, context))
}

/** Holds everything to a client back, or lets it go on: what fell due meanwhile is missed and listed, never sent in a burst. */
export function setClientHeldBack(
  slice: Slice,
  isHeldBack: boolean,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { client: old, sends } = slice.facts
  if (old.isHeldBack === isHeldBack) return done([])
  const put: Effect = { kind: 'put client', client: { ...old, isHeldBack, revision: old.revision + 1 } }
  const about = { clientId: old.id }
  if (isHeldBack) {
    return done([
      put,
      appendEvent(context, 'client held back', about, 'Everything to this client is held back.'),
    ])
  }
  const overdue = sends.filter(
    ({ state, dueAt }) => claimableStates.includes(state) && dueAt !== null && dueAt <= context.now,
  )
  const words = `Messages go to this client again; ${overdue.length} missed meanwhile.`
  return done([
    put,
    appendEvent(context, 'client released', about, words),
    ...missWhileHeldBack(overdue, { ...slice, facts: withEffects(slice.facts, [put]) }, context),
  ])
}

/** Tags that came or went, each as an act of its own. */
function tagChanges(old: Client, changed: Client, context: EngineContext): readonly Effect[] {
  const act = (kind: 'tag added' | 'tag removed') => (name: string) =>
    happened(old.id, { kind, name, at: context.now }, context)
  return [
    ...old.tags.filter((tag) => !changed.tags.includes(tag)).flatMap(act('tag removed')),
    ...changed.tags.filter((tag) => !old.tags.includes(tag)).flatMap(act('tag added')),
  ]
}

/** A client's data changed. A new address or primary contact changes what is planned, too. */
export function changeClient(
  slice: Slice,
  revision: number,
  input: ClientInput,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { client: old, sends } = { ...slice.facts }
  if (old.revision !== revision) {
    return refused(
      'changed meanwhile',
      'Somebody has changed this client meanwhile. Look at it again, then decide.',
    )
  }
  const problem = zoneProblem(slice.settings, input.zone) ?? addressProblem(slice.settings, input, old)
  if (problem) return problem
  const known = new Set(old.contacts.map((one) => one.id))
  if (input.contacts.some((one) => one.id !== null && !known.has(one.id))) {
    return refused('not found', 'One of these contacts does not belong to this client.', 'contacts')
  }
  const kept = new Set(input.contacts.map((one) => one.id))
  const removedWithHistory = old.contacts.find(
    (one) => !kept.has(one.id) && sends.some((send) => send.recipientId === one.id),
  )
  if (removedWithHistory) {
    const sentence =
      'A contact that messages were planned for or sent to stays: take its address out instead.'
    return refused('not allowed now', sentence, 'contacts')
  }
  const changed: Client = {
    ...old,
    ...input,
    contacts: contactsOf(input, context),
    revision: old.revision + 1,
  }
  const event = appendEvent(
    context,
    'client changed',
    { clientId: old.id },
    `Client changed: ${changed.name}.`,
  )
  const tagged = tagChanges(old, changed, context)
  const dated = changed.namedDates
    .filter(({ label }) => !old.namedDates.some((one) => one.label === label))
    .map(({ label }) => dateKnown(old.id, label, context))
  const optedOut =
    old.takesPromotional && !changed.takesPromotional
      ? happened(old.id, { kind: 'opted out', name: '', at: context.now }, context)
      : []
  const effects = [{ kind: 'put client', client: changed } as const, event, ...tagged, ...dated, ...optedOut]
  return done(conclude(slice, effects, context))
}

/** It is noticed what a client opens and follows, or not any more. */
export function setClientNoticed(
  clientId: string,
  isNoticed: boolean,
  context: EngineContext,
): Result<readonly Effect[]> {
  const words = isNoticed
    ? 'It is noticed again which messages are opened and links followed.'
    : 'It is not noticed any more which messages are opened and links followed.'
  return done([
    { kind: 'set client noticed', clientId, isNoticed },
    appendEvent(context, 'client changed', { clientId }, words),
  ])
}
