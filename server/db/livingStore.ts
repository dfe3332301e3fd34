import { bookingsCountSince, goneCountsSince, restsAfterMs } from '#core/planning/atRest.ts'
import type { Send } from '#core/model/send.ts'
import type { ClientFacts, Settings } from '#core/planning/slice.ts'
import { asBooking, asInvoice, asRuns, factsOfClient, ofClientHerself } from './clientStore.ts'
import { asJson } from './columns.ts'
import { asSend } from './sendStore.ts'
import type { Statements } from './statements.ts'
import { isOfStore } from './storeFault.ts'
import { noteReading, UnreadableClient } from './unreadable.ts'

/*
 * What planning needs of a client, apart from the archive: runs that are not at rest with what they work for, what is
 * still to come, what has gone lately. Grows with what is going on, not with all that ever was.
 */

/** What is to be acted on, and is read whether or not it is at rest: bookings, enquiries, invoices and runs by id. */
export interface Focus {
  readonly subjectIds: readonly string[]
  readonly runIds: readonly string[]
}

/** What is read of a client: the living with what is to be acted on, or the archive as well. */
export type Reading = Focus | 'everything'

/** Nothing that could be at rest is to be acted on. */
export const onlyLiving: Focus = { subjectIds: [], runIds: [] }

export const focusOn = (...subjectIds: readonly string[]): Focus => ({ subjectIds, runIds: [] })

export const focusOnSend = ({ runId, subject }: Pick<Send, 'runId' | 'subject'>): Focus => ({
  subjectIds: [subject.id],
  runIds: [runId],
})

export function focusOnSends(sends: readonly Pick<Send, 'runId' | 'subject'>[]): Focus {
  return { subjectIds: sends.map(({ subject }) => subject.id), runIds: sends.map(({ runId }) => runId) }
}

/** Runs that are not at rest with all that work for the same, and the latest of each sequence. */
function readRunsAlive(statements: Statements, clientId: string, focus: Focus, { sequences }: Settings) {
  const alive = statements.all('aliveSubjects', { clientId }).map(({ id }) => String(id))
  return asRuns(
    statements.all('runsAlive', {
      clientId,
      subjectIdsJson: asJson([...alive, ...focus.subjectIds]),
      runIdsJson: asJson(focus.runIds),
      sequenceIdsJson: asJson(sequences.map(({ id }) => id)),
    }),
  )
}

function readBookingsAlive(
  statements: Statements,
  clientId: string,
  subjectIds: readonly string[],
  countSince: number | null,
  now: number,
) {
  const endedSince = Math.min(now - restsAfterMs, countSince ?? Infinity)
  const made =
    countSince === null
      ? []
      : statements.all('bookingsMadeSince', { clientId, since: countSince, endedSince })
  const alive = statements.all('bookingsAlive', { clientId, endedSince, subjectIdsJson: asJson(subjectIds) })
  const known = new Set(alive.map(({ id }) => id))
  return [...made.filter(({ id }) => !known.has(id)), ...alive].map(asBooking)
}

function readSendsAlive(
  statements: Statements,
  clientId: string,
  runs: ClientFacts['runs'],
  settings: Settings,
  now: number,
) {
  const own = statements.all('sendsOfRuns', { runIdsJson: asJson(runs.map(({ id }) => id)) }).map(asSend)
  const known = new Set(own.map(({ id }) => id))
  const gone = statements.all('sendsGoneSince', { clientId, since: goneCountsSince(own, settings, now) })
  return [...gone.filter(({ id }) => !known.has(String(id))).map(asSend), ...own]
}

function livingFacts(
  statements: Statements,
  clientId: string,
  focus: Focus,
  settings: Settings,
  now: number,
): ClientFacts | null {
  const ownFacts = ofClientHerself(statements, clientId)
  if (!ownFacts) return null
  const { runs, resting } = readRunsAlive(statements, clientId, focus, settings)
  const subjectIds = [...new Set([...runs.map(({ subject }) => subject.id), ...focus.subjectIds])]
  const alive = runs.filter(({ id }) => !resting.has(id))
  const countSince = bookingsCountSince(alive, settings)
  const bookings = readBookingsAlive(statements, clientId, subjectIds, countSince, now)
  const bookingIdsJson = asJson(bookings.map(({ id }) => id))
  const about = { clientId, bookingIdsJson, subjectIdsJson: asJson(subjectIds) }
  return {
    ...ownFacts,
    bookings,
    invoices: statements.all('invoicesAlive', about).map(asInvoice),
    runs,
    resting,
    sends: readSendsAlive(statements, clientId, runs, settings, now),
  }
}

/**
 * Reads facts of a client. What of it cannot be read makes the client unreadable as a whole: to plan without a booking
 * would take its messages back.
 */
function readWhole(
  statements: Statements,
  clientId: string,
  read: () => ClientFacts | null,
): ClientFacts | null {
  try {
    const facts = read()
    noteReading(statements, 'client', clientId, null)
    return facts
  } catch (fault) {
    // A database that is busy says nothing about the client.
    if (isOfStore(fault)) throw fault
    noteReading(statements, 'client', clientId, fault)
    throw new UnreadableClient(clientId, fault)
  }
}

/** A client's facts as far as they are asked for; null when there is no such client. Throws where they cannot be read. */
export function readClientFacts(
  statements: Statements,
  clientId: string,
  reading: Reading,
  settings: Settings,
  now: number,
): ClientFacts | null {
  return readWhole(statements, clientId, () =>
    reading === 'everything'
      ? factsOfClient(statements, clientId)
      : livingFacts(statements, clientId, reading, settings, now),
  )
}

/** The same where many clients are gone through: one that cannot be read is passed over, and noted. */
export function readableClientFacts(...asked: Parameters<typeof readClientFacts>): ClientFacts | null {
  try {
    return readClientFacts(...asked)
  } catch (fault) {
    if (fault instanceof UnreadableClient) return null
    throw fault
  }
}
