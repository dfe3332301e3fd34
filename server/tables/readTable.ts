import { CsvError, parse } from 'csv-parse'
import type { TableRow } from '#core/tables/clientRows.ts'
import { hasHeads } from '#core/tables/kinds.ts'
import { textOfTable } from './tableText.ts'

/** A table as it was read. */
export interface Table {
  readonly heads: readonly string[]
  readonly rows: readonly TableRow[]
  readonly encoding: string
  /** What stands between cells; empty: it was no such table. */
  readonly delimiter: string
}

/** The file cannot be read as a table, with a sentence for a person. */
export class TableFault extends Error {}

/** More rows than these are not taken at once. */
export const mostRows = 50_000
const mostColumns = 100
const longestCell = 10_000

const delimiters = [',', ';', '\t', '|'] as const

/** What stands between the cells of a first line, quoted parts left out: what it has most of. */
function delimiterOf(text: string): string {
  const line = (/^[^\r\n]*/.exec(text.trimStart())?.[0] ?? '').replace(/"(?:[^"]|"")*"/g, '')
  const counts = delimiters.map((one) => line.split(one).length)
  const most = Math.max(...counts)
  return delimiters[counts.indexOf(most)] ?? ','
}

/** What a reader of CSV (RFC 4180) says, for a person. */
function faultWords({ code, message, lines }: CsvError & { lines?: number }): string {
  const where = lines === undefined ? '' : `Line ${lines}: `
  switch (code) {
    case 'CSV_QUOTE_NOT_CLOSED':
      return `${where}a quotation mark is opened and never closed, so the rest of the file would be one cell.`
    case 'CSV_INVALID_CLOSING_QUOTE':
    case 'INVALID_OPENING_QUOTE':
      return `${where}there is a quotation mark in the middle of a cell. Within quotation marks it is written twice.`
    case 'CSV_MAX_RECORD_SIZE':
      return `${where}one row is longer than any table has it. Is this a table?`
    default:
      return `${where}${message}`
  }
}

interface Read {
  readonly record: string[]
  readonly info: { readonly lines: number }
}

async function readRows(text: string, delimiter: string): Promise<TableRow[]> {
  const rows: TableRow[] = []
  const parser = parse(text, {
    delimiter,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    max_record_size: 1_000_000,
  })
  for await (const { record, info } of parser as AsyncIterable<Read>) {
    if (rows.length > mostRows) {
      throw new TableFault(
        `The table has more than ${mostRows.toLocaleString('en')} rows. Cut it into several files and bring them in one after the other.`,
      )
    }
    // A row begins so many lines before it ends: cells may have several.
    const within = record.join('').match(/\r\n|\r|\n/g)?.length ?? 0
    rows.push({
      line: info.lines - within,
      cells: record.slice(0, mostColumns).map((cell) => cell.slice(0, longestCell)),
    })
  }
  return rows.filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
}

/** Reads a table of comma-separated values, in whatever a spreadsheet wrote it. Throws a TableFault. */
export async function readTable(bytes: Buffer): Promise<Table> {
  const { text, encoding } = textOfTable(bytes)
  if (text.trim() === '') throw new TableFault('The file is empty.')
  if (text.includes('\0')) throw new TableFault('This is no table: save it as CSV in your spreadsheet first.')
  const delimiter = delimiterOf(text)
  const rows = await readRows(text, delimiter).catch((fault: unknown) => {
    throw fault instanceof CsvError ? new TableFault(faultWords(fault)) : fault
  })
  const [first, ...others] = rows
  if (!first) throw new TableFault('There is no row in the file.')
  const width = Math.max(...rows.slice(0, 1000).map(({ cells }) => cells.length))
  const isHeaded = hasHeads(first.cells)
  const heads = Array.from({ length: width }, (_, index) =>
    isHeaded ? (first.cells[index] ?? '').trim() : `Column ${index + 1}`,
  )
  return { heads, rows: isHeaded ? others : rows, encoding, delimiter }
}
