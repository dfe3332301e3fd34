import type { Client } from '../../model/client.ts'
import type { ClientMerge } from '../../model/clientMerge.ts'
import { folded } from '../../model/folded.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { ClientFacts, Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { goesOnAgain, nameOfRun } from '../following/stopRuns.ts'
import { allOf, asFactsOf, isSending, underWay, type HandedOver } from './handingOver.ts'

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
  const isStranger = (id: string | null) =>
    id !== null && !own.has(id) && facts.client.contacts.some((one) => one.id === id)
  const named = [
    ...without(facts.bookings, back.bookings).map(({ people }) => ({
      what: 'A booking',
      ids: [people.payerId, ...people.participantIds],
    })),
    ...without(facts.enquiries, back.enquiries).map(({ contactIds }) => ({
      what: 'An enquiry',
      ids: contactIds,
    })),
  ]
  const stranger = named.find(({ ids }) => ids.some(isStranger))
  if (!stranger) return null
  return refused(
    'not allowed now',
    `${stranger.what} made since names a contact who came from the other client. Take the contact out of it first.`,
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
  const goes: ClientFacts = {
    client: gone,
    variations: [],
    undelivered: facts.undelivered,
    ...asFactsOf(back, gone.id, recipients),
  }
  const ofKept: Effect[] = [
    ...merge.variations.flatMap(({ id }): Effect[] =>
      id !== null && facts.variations.some((one) => one.id === id) ? [{ kind: 'remove variation', id }] : [],
    ),
    appendEvent(context, 'merge taken back', { clientId: kept.id }, `${gone.name} is another client again.`),
    ...(kept.takesPromotional ? goingOnAgain({ settings, facts: stays }, merge, context) : []),
  ]
  const ofGone: Effect[] = [
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
    ...conclude({ settings, facts: { ...stays, client: kept } }, ofKept, context),
    ...conclude({ settings, facts: goes }, ofGone, context),
    { kind: 'end client merge', id: merge.id, at: context.now },
  ]
  return done({ effects, handed: [stays, goes] })
}
