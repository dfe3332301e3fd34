import { setImmediate as breathe } from 'node:timers/promises'
import express, { type Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { clientImportLine, tableField } from '#core/api/tableEndpoints.ts'
import type { CalendarEntry } from '#core/booking/broughtIn.ts'
import { readBookingRow } from '#core/tables/bookingRows.ts'
import { kindOfTable, type TableKind } from '#core/tables/kinds.ts'
import { signatureOf } from '#core/tables/matching.ts'
import { dateOrderOf } from '#core/tables/dates.ts'
import { clientsToCompare } from '../db/clientImports.ts'
import { asJson, fromJson } from '../db/columns.ts'
import type { Statements } from '../db/statements.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { lookAtRows, lookView, OpenTables } from '../tables/openTables.ts'
import { cardMatching, isCards, readCards } from '../tables/readCards.ts'
import { readTable, TableFault, type Table } from '../tables/readTable.ts'
import { mostEntries } from '../mail/readCalendar.ts'
import { lookAtEntries } from './calendar.ts'
import { serve, valueOf } from './route.ts'

/** So many rows are read before others have their turn. */
const atOnce = 200

/** Under which the last matching of columns is kept, by what the columns are called. */
const matchingKey = (of: TableKind, heads: readonly string[]) =>
  `columns of ${of} ${signatureOf(heads)}`.slice(0, 2000)

function rememberedMatching(
  statements: Statements,
  of: TableKind,
  heads: readonly string[],
): readonly (string | null)[] | null {
  const value = statements.one('readMeta', { key: matchingKey(of, heads) })?.['value']
  const kept = fromJson(value)
  if (!Array.isArray(kept) || kept.length !== heads.length) return null
  return kept.map((one) => (typeof one === 'string' && one in kindOfTable[of].fields ? one : null))
}

/** Two columns that would be one and the same are refused. */
function refuseTwice(matching: readonly (string | null)[]) {
  const chosen = matching.filter((field) => field !== null)
  const twice = chosen.find((field, index) => chosen.indexOf(field) !== index)
  if (twice === undefined) return
  const detail = 'Two columns are the same. Leave one of them out.'
  throw new Refusal('invalid', detail, [{ path: `matching.${matching.lastIndexOf(twice)}`, detail }])
}

async function read(bytes: Buffer): Promise<{ table: Table; isCard: boolean }> {
  try {
    const isCard = isCards(bytes)
    return { isCard, table: isCard ? readCards(bytes) : await readTable(bytes) }
  } catch (fault) {
    if (!(fault instanceof TableFault)) throw fault
    throw new Refusal('invalid', fault.message, [{ path: 'base64', detail: fault.message }])
  }
}

/** Tables and cards of clients: opened, looked at, brought in, taken back. */
export function tableRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  const tables = new OpenTables()
  const found = (id: string) => {
    const open = tables.find(id)
    if (!open) throw new Refusal('not found', 'This file is not open any more. Choose it once more.')
    return open
  }
  serve(router, statements, endpoints.openTable, async ({ body: { of, fileName, base64 } }) => {
    const { table, isCard } = await read(Buffer.from(base64, 'base64'))
    if (isCard && of !== 'clients') throw new Refusal('invalid', 'Cards are clients, not bookings.')
    const { heads, rows, encoding, delimiter } = table
    const samples = rows.slice(0, 200).map(({ cells }) => cells)
    const { guess, dateField } = kindOfTable[of]
    const remembered = isCard ? null : rememberedMatching(statements, of, heads)
    const matching = isCard ? cardMatching : (remembered ?? guess(heads, samples))
    return {
      id: tables.open(fileName.trim() || 'a file', table),
      rows: rows.length,
      encoding,
      delimiter,
      columns: heads.map((head, index) => ({
        head,
        field: tableField.parse(matching[index] ?? null),
        samples: samples
          .map((cells) => (cells[index] ?? '').trim().slice(0, 80))
          .filter((cell) => cell !== '')
          .slice(0, 3),
      })),
      dateOrder: dateOrderOf(rows.flatMap(({ cells }) => cells[matching.indexOf(dateField)] ?? [])),
      isRemembered: remembered !== null,
    }
  })
  serve(router, statements, endpoints.lookAtTable, async ({ parameters, body }) => {
    const open = found(parameters.id)
    refuseTwice(body.matching)
    const { zones, isRealMail } = application.settings.required()
    const reading = { ...body, zones, isRealMail, language: 'en' as const }
    const look = await lookAtRows(open, reading, clientsToCompare(statements))
    return lookView(look)
  })
  serve(router, statements, endpoints.lookAtBookingTable, async ({ parameters, body }) => {
    const { table } = found(parameters.id)
    refuseTwice(body.matching)
    const entries: CalendarEntry[] = []
    for (const row of table.rows.slice(0, mostEntries)) {
      entries.push(readBookingRow(row, { ...body, settings: application.settings.required() }))
      if (entries.length % atOnce === 0) await breathe()
    }
    const looked = lookAtEntries(application, entries, body.serviceId)
    const key = matchingKey('bookings', table.heads)
    statements.run('writeMeta', { key, value: asJson(body.matching) })
    return { entries: [...looked], isCut: table.rows.length > mostEntries }
  })
  serve(router, statements, endpoints.tableProgress, ({ parameters }) => {
    const { done, table } = found(parameters.id)
    return { done, total: table.rows.length }
  })
  bringInRoutes(router, { application, commands }, found)
}

type Found = (id: string) => NonNullable<ReturnType<OpenTables['find']>>

function bringInRoutes(
  router: Router,
  { application, commands }: Pick<RunningApplication, 'application' | 'commands'>,
  found: Found,
) {
  const { statements } = application.store
  serve(router, statements, endpoints.bringInClients, ({ parameters, body, called }) => {
    const { fileName, look, table } = found(parameters.id)
    if (look?.id !== body.lookId) {
      throw new Refusal(
        'changed meanwhile',
        'The table was looked at anew since. Look at what would come in now.',
      )
    }
    const others = new Map(body.others.map(({ line, act }) => [line, act]))
    const answer = valueOf(
      commands.bringInClients(called('bringInClients'), {
        fileName,
        rows: look.rows,
        actOf: (line) => others.get(line) ?? body.doubles,
      }),
    )
    statements.run('writeMeta', { key: matchingKey('clients', table.heads), value: asJson(look.matching) })
    return answer
  })
  serve(router, statements, endpoints.clientImports, () => ({
    imports: statements.all('clientImports').map((row) => clientImportLine.parse(row)),
  }))
  serve(router, statements, endpoints.takeClientsBack, ({ parameters, called }) =>
    valueOf(commands.takeClientsBack(called('takeClientsBack'), parameters.id)),
  )
}

/** A table of years is longer than anything else that is sent. */
export const tableBody = express.json({ limit: '30mb' })
