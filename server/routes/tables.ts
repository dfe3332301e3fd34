import express, { type Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import { clientImportLine } from '#core/api/tableEndpoints.ts'
import { clientFields, guessMatching, signatureOf, type Matching } from '#core/tables/clientFields.ts'
import { dateOrderOf } from '#core/tables/dates.ts'
import { clientsToCompare } from '../db/clientImports.ts'
import { asJson, fromJson } from '../db/columns.ts'
import type { Statements } from '../db/statements.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { lookAtRows, lookView, OpenTables } from '../tables/openTables.ts'
import { cardMatching, isCards, readCards } from '../tables/readCards.ts'
import { readTable, TableFault, type Table } from '../tables/readTable.ts'
import { serve, valueOf } from './route.ts'

/** Under which the last matching of columns is kept, by what the columns are called. */
const matchingKey = (heads: readonly string[]) => `columns of clients ${signatureOf(heads)}`.slice(0, 2000)

function rememberedMatching(statements: Statements, heads: readonly string[]): Matching | null {
  const value = statements.one('readMeta', { key: matchingKey(heads) })?.['value']
  const kept = fromJson(value)
  if (!Array.isArray(kept) || kept.length !== heads.length) return null
  return kept.map((one) => clientFields.find((field) => field === one) ?? null)
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
  serve(router, statements, endpoints.openTable, async ({ body: { fileName, base64 } }) => {
    const { table, isCard } = await read(Buffer.from(base64, 'base64'))
    const { heads, rows, encoding, delimiter } = table
    const samples = rows.slice(0, 200).map(({ cells }) => cells)
    const remembered = isCard ? null : rememberedMatching(statements, heads)
    const matching = isCard ? cardMatching : (remembered ?? guessMatching(heads, samples))
    return {
      id: tables.open(fileName.trim() || 'a file', table),
      rows: rows.length,
      encoding,
      delimiter,
      columns: heads.map((head, index) => ({
        head,
        field: matching[index] ?? null,
        samples: samples
          .map((cells) => (cells[index] ?? '').trim().slice(0, 80))
          .filter((cell) => cell !== '')
          .slice(0, 3),
      })),
      dateOrder: dateOrderOf(rows.flatMap(({ cells }) => cells[matching.indexOf('birthday')] ?? [])),
      isRemembered: remembered !== null,
    }
  })
  serve(router, statements, endpoints.lookAtTable, async ({ parameters, body }) => {
    const open = found(parameters.id)
    const chosen = body.matching.filter((field) => field !== null)
    const twice = chosen.find((field, index) => chosen.indexOf(field) !== index)
    if (twice !== undefined) {
      const detail = 'Two columns are the same. Leave one of them out.'
      throw new Refusal('invalid', detail, [{ path: `matching.${body.matching.lastIndexOf(twice)}`, detail }])
    }
    const { zones, isRealMail } = application.settings.required()
    const reading = { ...body, zones, isRealMail, language: 'en' as const }
    const look = await lookAtRows(open, reading, clientsToCompare(statements))
    return lookView(look)
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
    statements.run('writeMeta', { key: matchingKey(table.heads), value: asJson(look.matching) })
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
