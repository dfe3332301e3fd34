import { primaryContact, type Client, type Contact } from '../../model/client.ts'
import type { ClientMerge, Dealings } from '../../model/clientMerge.ts'
import { folded } from '../../model/folded.ts'
import { phoneKey } from '../../model/phoneKey.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Run } from '../../model/sequence.ts'
import type { Subject } from '../../model/subject.ts'
import type { ClientFacts, Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { goesOnAgain, nameOfRun, stoppedRun } from '../following/stopRuns.ts'
import { happened } from './dealingCommands.ts'

/** What changes hands, and how each client concerned stands with it before anything follows from that. */
export interface HandedOver {
  readonly effects: readonly Effect[]
  readonly handed: readonly ClientFacts[]
}

const mostContacts = 20
const mostDates = 20

const changedMeanwhile = 'Somebody has changed one of the two meanwhile. Look at them again, then decide.'
const underWay = 'A message to one of them is being sent at this moment. Try again in a minute.'

const isSending = ({ sends }: ClientFacts) => sends.some(({ state }) => state === 'sending')

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

/** A contact with what is known of them besides. */
const filled = (contact: Contact, by: Contact | undefined): Contact =>
  by === undefined
    ? contact
    : {
        ...contact,
        firstName: contact.firstName || by.firstName,
        lastName: contact.lastName || by.lastName,
        email: contact.email ?? by.email,
        phone: contact.phone || by.phone,
      }

const saysNothingNew = (contact: Contact, known: Contact) =>
  (contact.email === null || sameAddress(contact, known)) &&
  (contact.phone === '' || contact.phone === known.phone || phoneKey(contact.phone) === phoneKey(known.phone))

function contactsTogether(kept: Client, gone: Client, recipients: Dealings['recipients']): Contact[] {
  const standsFor = new Map(gone.contacts.map((one) => [recipients[one.id] ?? '', one]))
  const own = kept.contacts.map((one) => filled(one, standsFor.get(one.id)))
  const further = gone.contacts.filter((one) => {
    const known = own.find(({ id }) => id === recipients[one.id])
    return !known || !saysNothingNew(one, known)
  })
  return [...own, ...further.map((one) => ({ ...one, isPrimary: false }))]
}

/** The client who stays with what is known of the one who goes: what differs stays as it is with the one who stays. */
function together(kept: Client, gone: Client, recipients: Dealings['recipients']): Client {
  const labels = new Set(kept.namedDates.map(({ label }) => folded(label)))
  return {
    ...kept,
    zone: kept.zone ?? gone.zone,
    contacts: contactsTogether(kept, gone, recipients),
    namedDates: [...kept.namedDates, ...gone.namedDates.filter(({ label }) => !labels.has(folded(label)))],
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
  if (namedDates.length > mostDates) {
    const sentence = `Together they would have ${namedDates.length} yearly dates; a client has at most ${mostDates}. Remove some first.`
    return refused('not allowed now', sentence)
  }
  return null
}

/** The same subject where it is the client herself. */
const subjectOf = (subject: Subject, of: string): Subject =>
  subject.kind === 'client' ? { kind: 'client', id: of } : subject

/** Facts of one client as those of another, to whom some of the messages went. */
function asFactsOf(
  {
    bookings,
    enquiries,
    invoices,
    runs,
    sends,
    happenings,
    resting,
  }: Omit<ClientFacts, 'client' | 'variations'>,
  clientId: string,
  recipients: Dealings['recipients'],
): Omit<ClientFacts, 'client' | 'variations'> {
  const handed = <Item extends object>(item: Item) => ({ ...item, clientId })
  return {
    bookings: bookings.map(handed),
    enquiries: enquiries.map(handed),
    invoices: invoices.map(handed),
    runs: runs.map((run) => ({ ...handed(run), subject: subjectOf(run.subject, clientId) })),
    sends: sends.map((send) => ({
      ...handed(send),
      subject: subjectOf(send.subject, clientId),
      recipientId: recipients[send.recipientId] ?? send.recipientId,
    })),
    happenings,
    resting,
  }
}

type Dealt = ReturnType<typeof asFactsOf>

const bothOf = (one: Dealt, other: Dealt): Dealt => ({
  bookings: [...one.bookings, ...other.bookings].sort(
    (a, b) => a.startAt - b.startAt || (a.id < b.id ? -1 : 1),
  ),
  enquiries: [...one.enquiries, ...other.enquiries],
  invoices: [...one.invoices, ...other.invoices],
  runs: [...one.runs, ...other.runs],
  sends: [...one.sends, ...other.sends],
  happenings: [...one.happenings, ...other.happenings].sort((a, b) => a.at - b.at),
  resting: new Set([...one.resting, ...other.resting]),
})

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

/** Everything there is of a client. */
const allOf = (
  { bookings, enquiries, invoices, runs, happenings }: ClientFacts,
  taskIds: readonly string[],
  recipients: Dealings['recipients'],
): Dealings => ({
  bookingIds: bookings.map(({ id }) => id),
  enquiryIds: enquiries.map(({ id }) => id),
  invoiceIds: invoices.map(({ id }) => id),
  runIds: runs.map(({ id }) => id),
  taskIds: [...taskIds],
  happenings: [...happenings],
  recipients,
})

/** Which revisions of the two it was decided on. */
export interface MergeAsked {
  readonly keptRevision: number
  readonly goneRevision: number
  /** Tasks about the one who goes. */
  readonly taskIds: readonly string[]
}

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
  const handed: ClientFacts = {
    client: kept.client,
    variations: kept.variations,
    ...bothOf(kept, asFactsOf(gone, kept.client.id, recipients)),
  }
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

/** What of a client goes back to the one who was merged with them: all that came, and what has come of that since. */
function goingBack(facts: ClientFacts, { moved }: ClientMerge) {
  const is = (ids: readonly string[]) => (one: { readonly id: string }) => ids.includes(one.id)
  const bookings = facts.bookings.filter(is(moved.bookingIds))
  const enquiries = facts.enquiries.filter(is(moved.enquiryIds))
  const invoices = facts.invoices.filter(
    (one) => moved.invoiceIds.includes(one.id) || bookings.some(({ id }) => id === one.bookingId),
  )
  const subjects = new Set([...bookings, ...enquiries, ...invoices].map(({ id }) => id))
  const runs = facts.runs.filter(({ id, subject }) => moved.runIds.includes(id) || subjects.has(subject.id))
  const runIds = new Set(runs.map(({ id }) => id))
  const isMoved = new Set(moved.happenings.map((one) => JSON.stringify([one.kind, one.name, one.at])))
  const happenings = facts.happenings.filter((one) =>
    isMoved.has(JSON.stringify([one.kind, one.name, one.at])),
  )
  const sends = facts.sends.filter(({ runId }) => runIds.has(runId))
  return { bookings, enquiries, invoices, runs, sends, happenings, resting: facts.resting }
}

const without = <Item>(all: readonly Item[], some: readonly Item[]) =>
  all.filter((one) => !some.includes(one))

/** What there is of the client who stayed without that. */
const whatStays = (facts: ClientFacts, back: ReturnType<typeof goingBack>): ClientFacts => ({
  ...facts,
  bookings: without(facts.bookings, back.bookings),
  enquiries: without(facts.enquiries, back.enquiries),
  invoices: without(facts.invoices, back.invoices),
  runs: without(facts.runs, back.runs),
  sends: without(facts.sends, back.sends),
  happenings: without(facts.happenings, back.happenings),
})

/** The client who stayed without what came from the other; what was changed since stays changed. */
function apart(present: Client, { keptWas, keptRevision, gone }: ClientMerge): Client {
  const revision = present.revision + 1
  if (present.revision === keptRevision) return { ...keptWas, revision }
  const came = (one: { readonly id: string }) =>
    gone.contacts.some(({ id }) => id === one.id) && !keptWas.contacts.some(({ id }) => id === one.id)
  const knew = new Set(keptWas.namedDates.map(({ label }) => folded(label)))
  const cameWith = new Set(
    gone.namedDates.map(({ label }) => folded(label)).filter((label) => !knew.has(label)),
  )
  return {
    ...present,
    contacts: present.contacts.filter((one) => !came(one)),
    tags: present.tags.filter((tag) => keptWas.tags.includes(tag) || !gone.tags.includes(tag)),
    namedDates: present.namedDates.filter(({ label }) => !cameWith.has(folded(label))),
    revision,
  }
}

/** Why a merge cannot be taken back now; null: it can. */
function whyNotApart(
  facts: ClientFacts,
  kept: Client,
  back: ReturnType<typeof goingBack>,
): Result<never> | null {
  if (isSending(facts)) return refused('not allowed now', underWay)
  if (!kept.contacts.some(({ isPrimary }) => isPrimary)) {
    const sentence =
      'The contact that messages go to came from the other client. Choose one of the client’s own for that first.'
    return refused('not allowed now', sentence)
  }
  const own = new Set(kept.contacts.map(({ id }) => id))
  const stranger = without(facts.bookings, back.bookings).find(({ people: { payerId, participantIds } }) =>
    [payerId, ...participantIds].some(
      (id) => id !== null && !own.has(id) && facts.client.contacts.some((one) => one.id === id),
    ),
  )
  if (!stranger) return null
  return refused(
    'not allowed now',
    'A booking made since names a contact who came from the other client. Take the contact out of that booking first.',
  )
}

/** What the merge had ended goes on: what went on twice, and what the no of the other had stopped. */
function goingOnAgain(
  slice: Slice,
  { endedRunIds, at }: ClientMerge,
  context: EngineContext,
): readonly Effect[] {
  return slice.facts.runs
    .filter(({ id, state, stoppedOn, stoppedAt }) => {
      if (state !== 'stopped') return false
      return stoppedOn === 'merge' ? endedRunIds.includes(id) : stoppedOn === 'opted out' && stoppedAt === at
    })
    .flatMap((run) => goesOnAgain(run, nameOfRun(slice, run), context))
}

/** Two clients who were merged are two again; what was made since stays with the one who stayed. */
export function takeMergeBack(
  { settings, facts }: Slice,
  merge: ClientMerge,
  taskIds: readonly string[],
  context: EngineContext,
): Result<HandedOver> {
  const back = goingBack(facts, merge)
  const kept = apart(facts.client, merge)
  const problem = whyNotApart(facts, kept, back)
  if (problem) return problem
  const gone: Client = { ...merge.gone, revision: merge.gone.revision + 1 }
  const recipients = Object.fromEntries(
    Object.entries(merge.moved.recipients).map(([from, to]) => [to, from]),
  )
  const ownTasks = merge.moved.taskIds.filter((id) => taskIds.includes(id))
  const moved = allOf({ ...facts, ...back }, ownTasks, recipients)
  const stays = whatStays(facts, back)
  const goes: ClientFacts = { client: gone, variations: [], ...asFactsOf(back, gone.id, recipients) }
  const ofKept: Effect[] = [
    { kind: 'put client', client: kept },
    ...merge.variations.flatMap(({ id }): Effect[] =>
      id !== null && facts.variations.some((one) => one.id === id) ? [{ kind: 'remove variation', id }] : [],
    ),
    appendEvent(context, 'merge taken back', { clientId: kept.id }, `${gone.name} is another client again.`),
    ...(kept.takesPromotional ? goingOnAgain({ settings, facts: stays }, merge, context) : []),
  ]
  const ofGone: Effect[] = [
    { kind: 'put client', client: gone },
    ...merge.variations.map(({ was }): Effect => ({ kind: 'put variation', variation: was })),
    appendEvent(
      context,
      'merge taken back',
      { clientId: gone.id },
      `Is another client than ${kept.name} again.`,
    ),
    ...goingOnAgain({ settings, facts: goes }, merge, context),
  ]
  const effects: Effect[] = [
    // First the contacts leave the one, then they are those of the other.
    { kind: 'put client', client: kept },
    { kind: 'put client', client: gone },
    { kind: 'move to client', fromId: kept.id, toId: gone.id, moved, isWhole: false },
    ...conclude({ settings, facts: stays }, ofKept, context),
    ...conclude({ settings, facts: goes }, ofGone, context),
    { kind: 'end client merge', id: merge.id, at: context.now },
  ]
  return done({ effects, handed: [stays, goes] })
}
