import { once } from 'node:events'
import { stringify } from 'csv-stringify/sync'
import type { Response, Router } from 'express'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import type { FileEndpoint } from '#core/api/endpoint.ts'
import type { Client } from '#core/model/client.ts'
import { isoWithOffset } from '#core/time/format.ts'
import type { Zone } from '#core/time/zones.ts'
import { clientCells, clientHeads } from '#core/tables/clientTable.ts'
import { writeBundle } from '../bundle/writeBundle.ts'
import { readClient } from '../db/clientStore.ts'
import { sourcesOfClient } from '../db/messageStore.ts'
import type { Statements } from '../db/statements.ts'
import { noteReading } from '../db/unreadable.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { mboxOf } from '../mail/mbox.ts'
import { cardOf } from '../tables/writeCards.ts'
import { businessZone } from './businessTime.ts'
import { give } from './route.ts'

/** So many clients are read before others have their turn. */
const atOnce = 200

/** The ids of all clients, in their order. */
function* clientIds(statements: Statements): Generator<string> {
  let afterId: string | null = null
  for (;;) {
    const ids: readonly string[] = statements
      .all('clientIdsAfter', { afterId, limit: atOnce })
      .map(({ id }) => String(id))
    yield* ids
    if (ids.length < atOnce) return
    afterId = ids.at(-1) ?? null
  }
}

/** All clients; one that cannot be read is left out, and noted. */
function* clientsOf(statements: Statements): Generator<Client> {
  for (const id of clientIds(statements)) {
    try {
      const client = readClient(statements, id)
      if (client) yield client
    } catch (fault) {
      noteReading(statements, 'client', id, fault)
    }
  }
}

/** Every spreadsheet reads this: a byte order mark, lines ended as on Windows, nothing it takes for a formula. */
const asCsv = (rows: readonly (readonly string[])[]) =>
  stringify(rows as string[][], { escape_formulas: true, record_delimiter: 'windows' })
const mark = '\uFEFF'

function* clientsCsv(statements: Statements): Generator<string> {
  yield mark + asCsv([clientHeads])
  for (const client of clientsOf(statements)) yield asCsv([clientCells(client)])
}

/** Columns that are moments. */
const isMoment = (column: string) => column.endsWith('At')

/** A cell of a table: moments on the clock of the business (ISO 8601). */
function cellOf(column: string, value: unknown, zone: Zone): string {
  if (value === null || value === undefined) return ''
  if (isMoment(column) && typeof value === 'number') return isoWithOffset(zone, value)
  return typeof value === 'string' || typeof value === 'number' ? String(value) : ''
}

type OutQuery = 'bookingsOut' | 'enquiriesOut' | 'invoicesOut' | 'messagesOut'

function* rowsCsv(statements: Statements, query: OutQuery, zone: Zone): Generator<string> {
  const rows: readonly Readonly<Record<string, unknown>>[] = statements.all(query)
  const columns = Object.keys(rows[0] ?? { id: '' })
  yield mark + asCsv([columns])
  for (const row of rows) yield asCsv([columns.map((column) => cellOf(column, row[column], zone))])
}

function* cards(statements: Statements): Generator<string> {
  for (const client of clientsOf(statements)) yield cardOf(client)
}

function* mails(statements: Statements, from: string): Generator<string> {
  for (const id of clientIds(statements)) {
    yield mboxOf(sourcesOfClient(statements, id).map((one) => ({ from, ...one })))
  }
}

/** Hands a file on as fast as it is taken, part by part; others have their turn between. */
async function stream(response: Response, parts: Iterable<string>, encoding: 'utf8' | 'latin1' = 'utf8') {
  for (const part of parts) {
    if (response.destroyed) return
    if (!response.write(part, encoding))
      await Promise.race([once(response, 'drain'), once(response, 'close')])
  }
  response.end()
}

/** Everything in open formats: for other programs, for spreadsheets, and whole. */
export function outRoutes(router: Router, { application }: RunningApplication) {
  const { store, settings } = application
  const { statements } = store
  const giveParts = (
    endpoint: FileEndpoint,
    parts: () => Iterable<string>,
    encoding: 'utf8' | 'latin1' = 'utf8',
  ) =>
    give(router, statements, endpoint, async ({ response }) => {
      response.attachment(endpoint.path.split('/').at(-1)).type(endpoint.type)
      await stream(response, parts(), encoding)
    })
  const table = (query: OutQuery) => () => rowsCsv(statements, query, businessZone(application))
  giveParts(fileEndpoints.clientsTable, () => clientsCsv(statements))
  giveParts(fileEndpoints.bookingsTable, table('bookingsOut'))
  giveParts(fileEndpoints.enquiriesTable, table('enquiriesOut'))
  giveParts(fileEndpoints.invoicesTable, table('invoicesOut'))
  giveParts(fileEndpoints.messagesTable, table('messagesOut'))
  giveParts(fileEndpoints.clientCards, () => cards(statements))
  giveParts(
    fileEndpoints.allMessages,
    () => mails(statements, settings.required().business.senderAddress),
    'latin1',
  )
  giveParts(fileEndpoints.wholeBusiness, () => writeBundle(store.file, new Date()))
}
