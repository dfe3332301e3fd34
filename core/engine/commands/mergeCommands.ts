import {
  datesTogether,
  filledBy,
  mostContacts,
  mostNamedDates,
  primaryContact,
  type Client,
  type Contact,
} from '../../model/client.ts'
import type { ClientMerge, Dealings } from '../../model/clientMerge.ts'
import { phoneKey } from '../../model/phoneKey.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Run } from '../../model/sequence.ts'
import type { ClientFacts, Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { nameOfRun, stoppedRun } from '../following/stopRuns.ts'
import { happened } from './dealingCommands.ts'
import { allOf, asFactsOf, bothOf, isSending, underWay, type HandedOver } from './handingOver.ts'

const changedMeanwhile = 'Somebody has changed one of the two meanwhile. Look at them again, then decide.'
const sameAddress = (one: Contact, other: Contact) =>
  one.email !== null && one.email.toLowerCase() === other.email?.toLowerCase()

/**
 * Whose messages count as whose: those to the one client's primary contact as if they had gone to the other's, and
 * those to an address that both have. Each contact stands for one other at most.
 */
function recipientsBetween(kept: Client, gone: Client): Record<string, string> {
  const found = new Map([[primaryContact(gone).id, primaryContact(kept).id]])
  for (const contact of gone.contacts) {
    if (found.has(contact.id)) continue
    const taken = new Set(found.values())
    const same = kept.contacts.find((one) => !taken.has(one.id) && sameAddress(one, contact))
    if (same) found.set(contact.id, same.id)
  }
  return Object.fromEntries(found)
}

const saysNothingNew = (contact: Contact, known: Contact) =>
  (contact.email === null || sameAddress(contact, known)) &&
  (contact.phone === '' || contact.phone === known.phone || phoneKey(contact.phone) === phoneKey(known.phone))

function contactsTogether(kept: Client, gone: Client, recipients: Dealings['recipients']): Contact[] {
  const standsFor = new Map(gone.contacts.map((one) => [recipients[one.id] ?? '', one]))
  const own = kept.contacts.map((one) => filledBy(one, standsFor.get(one.id)))
  const further = gone.contacts.filter((one) => {
    const known = own.find(({ id }) => id === recipients[one.id])
    return !known || !saysNothingNew(one, known)
  })
  return [...own, ...further.map((one) => ({ ...one, isPrimary: false }))]
}

/** The client who stays with what is known of the one who goes: what differs stays as it is with the one who stays. */
function together(kept: Client, gone: Client, recipients: Dealings['recipients']): Client {
  return {
    ...kept,
    zone: kept.zone ?? gone.zone,
    contacts: contactsTogether(kept, gone, recipients),
    namedDates: datesTogether(kept.namedDates, gone.namedDates),
    tags: [...new Set([...kept.tags, ...gone.tags])],
    // Whoever has said no once has said no.
    takesPromotional: kept.takesPromotional && gone.takesPromotional,
    isActive: kept.isActive || gone.isActive,
    isHeldBack: kept.isHeldBack || gone.isHeldBack,
    addedAt: Math.min(kept.addedAt, gone.addedAt),
    revision: kept.revision + 1,
  }
}

function tooMany({ contacts, namedDates }: Client): Result<never> | null {
  if (contacts.length > mostContacts) {
    const sentence = `Together they would have ${contacts.length} contacts; a client has at most ${mostContacts}. Remove some first.`
    return refused('not allowed now', sentence)
  }
  if (namedDates.length > mostNamedDates) {
    const sentence = `Together they would have ${namedDates.length} yearly dates; a client has at most ${mostNamedDates}. Remove some first.`
    return refused('not allowed now', sentence)
  }
  return null
}

/** What goes on for both clients themselves, such as a birthday: it goes on for the one who stays. */
function goingOnTwice(kept: readonly Run[], gone: readonly Run[]): readonly string[] {
  const isOwn = ({ state, subject }: Run) => state === 'running' && subject.kind === 'client'
  const going = new Set(kept.filter(isOwn).map(({ sequenceId }) => sequenceId))
  return gone.filter((run) => isOwn(run) && going.has(run.sequenceId)).map(({ id }) => id)
}

/** What differs for the one who goes comes along, but where something differs for the one who stays already. */
function variationsOver(kept: ClientFacts, gone: ClientFacts, context: EngineContext) {
  const over = gone.variations.map((was) => {
    const isTaken = kept.variations.some(
      (one) => one.sequenceId === was.sequenceId && one.stepId === was.stepId,
    )
    return { was, id: isTaken ? null : context.newId('va') }
  })
  const effects = over.flatMap(({ was, id }): Effect[] => [
    { kind: 'remove variation', id: was.id },
    ...(id === null
      ? []
      : [
          {
            kind: 'put variation' as const,
            variation: { ...was, id, scope: { of: 'client' as const, clientId: kept.client.id } },
          },
        ]),
  ])
  return { over, effects }
}

/** Which revisions of the two it was decided on. */
export interface MergeAsked {
  readonly keptRevision: number
  readonly goneRevision: number
  /** Tasks about the one who goes. */
  readonly taskIds: readonly string[]
}

/** What there is of both, as that of the one who stays. */
const handedOver = (
  kept: ClientFacts,
  gone: ClientFacts,
  recipients: Dealings['recipients'],
): ClientFacts => ({
  client: kept.client,
  variations: kept.variations,
  undelivered: [...kept.undelivered, ...gone.undelivered],
  ...bothOf(kept, asFactsOf(gone, kept.client.id, recipients)),
})

/**
 * Two clients become one: everything of the one goes over to the other, and what is planned is planned for the one who
 * stays. What has gone to the one counts for the other: nothing goes twice because of it.
 */
export function mergeClients(
  { settings, facts: kept }: Slice,
  gone: ClientFacts,
  { keptRevision, goneRevision, taskIds }: MergeAsked,
  context: EngineContext,
): Result<HandedOver> {
  if (kept.client.id === gone.client.id) return refused('invalid', 'These are not two clients.', 'otherId')
  if (kept.client.revision !== keptRevision || gone.client.revision !== goneRevision) {
    return refused('changed meanwhile', changedMeanwhile)
  }
  if (isSending(kept) || isSending(gone)) return refused('not allowed now', underWay)
  const recipients = recipientsBetween(kept.client, gone.client)
  const client = together(kept.client, gone.client, recipients)
  const problem = tooMany(client)
  if (problem) return problem
  const { over, effects: varied } = variationsOver(kept, gone, context)
  const handed = handedOver(kept, gone, recipients)
  const slice: Slice = { settings, facts: handed }
  const twice = goingOnTwice(kept.runs, gone.runs)
  const ended = handed.runs.filter((run) => twice.includes(run.id))
  const merge: ClientMerge = {
    id: context.newId('mg'),
    at: context.now,
    personId: context.personId,
    keptId: client.id,
    keptWas: kept.client,
    keptRevision: client.revision,
    gone: gone.client,
    moved: allOf(gone, taskIds, recipients),
    variations: over,
    endedRunIds: ended.map(({ id }) => id),
  }
  const own: Effect[] = [
    { kind: 'put client', client },
    ...varied,
    appendEvent(
      context,
      'clients merged',
      { clientId: client.id },
      `${gone.client.name} is the same client: the two were merged.`,
    ),
    ...ended.flatMap((run) =>
      stoppedRun(run, nameOfRun(slice, run), 'merge', 'It goes on already for the same client.', context),
    ),
    ...(kept.client.takesPromotional && !gone.client.takesPromotional
      ? happened(client.id, { kind: 'opted out', name: '', at: context.now }, context)
      : []),
  ]
  const effects: Effect[] = [
    { kind: 'move to client', fromId: gone.client.id, toId: client.id, moved: merge.moved, isWhole: true },
    { kind: 'remove client', id: gone.client.id },
    ...conclude(slice, own, context),
    { kind: 'put client merge', merge },
  ]
  return done({ effects, handed: [handed] })
}
