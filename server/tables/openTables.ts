import { randomUUID } from 'node:crypto'
import { setImmediate as breathe } from 'node:timers/promises'
import type { TableLook } from '#core/api/tableEndpoints.ts'
import type { ClientInput } from '#core/engine/commands/clientCommands.ts'
import type { Matching } from '#core/tables/clientFields.ts'
import { readClientRow, type RowFault, type RowReading } from '#core/tables/clientRows.ts'
import { writtenDate } from '#core/tables/dates.ts'
import { Known, type SameBy } from '#core/tables/doubles.ts'
import type { ToCompare } from '../db/clientImports.ts'
import type { Table } from './readTable.ts'

/** A row that can come in: whom it is taken for, if anybody. */
export interface LookedAtRow {
  readonly line: number
  readonly input: ClientInput
  readonly double: {
    readonly by: SameBy
    /** Null: somebody of an earlier line. */
    readonly clientId: string | null
    readonly of: string
  } | null
}

/** What would come of a table, whole. */
export interface Look {
  readonly id: string
  readonly matching: Matching
  readonly rows: readonly LookedAtRow[]
  readonly faulty: readonly { readonly line: number; readonly faults: readonly RowFault[] }[]
}

interface OpenTable {
  readonly id: string
  readonly fileName: string
  readonly table: Table
  look: Look | null
  done: number
}

/** So many tables are kept open; the one opened first is forgotten. */
const mostOpen = 4
/** So many rows are read before others have their turn. */
const atOnce = 200
/** So many lines of each sort are shown. */
const mostShown = 200

/** The tables that were read and not brought in yet. They are gone when the program ends. */
export class OpenTables {
  readonly #open = new Map<string, OpenTable>()

  open(fileName: string, table: Table): string {
    const id = randomUUID()
    const [oldest] = this.#open.keys()
    if (this.#open.size >= mostOpen && oldest !== undefined) this.#open.delete(oldest)
    this.#open.set(id, { id, fileName, table, look: null, done: 0 })
    return id
  }

  find(id: string): OpenTable | null {
    return this.#open.get(id) ?? null
  }
}

/** Looks at every row: what it would become, and whom it may be already. Others have their turn between. */
export async function lookAtRows(
  open: OpenTable,
  reading: RowReading,
  known: readonly ToCompare[],
): Promise<Look> {
  const there = new Known<{ clientId: string | null; of: string }>()
  for (const one of known) there.add(one, { clientId: one.id, of: one.name })
  const rows: LookedAtRow[] = []
  const faulty: { line: number; faults: readonly RowFault[] }[] = []
  open.done = 0
  for (const row of open.table.rows) {
    const { line, input, faults } = readClientRow(row, reading)
    if (input === null) faulty.push({ line, faults })
    else {
      const same = there.find(input)
      rows.push({ line, input, double: same && { by: same.by, ...same.value } })
      if (!same) there.add(input, { clientId: null, of: `line ${line}: ${input.name}` })
    }
    open.done += 1
    if (open.done % atOnce === 0) await breathe()
  }
  const look = { id: randomUUID(), matching: reading.matching, rows, faulty }
  open.look = look
  return look
}

/** A look as it is shown: the first of each sort, and how many there are. */
export function lookView({ id, rows, faulty }: Look): TableLook {
  const doubles = rows.flatMap(({ line, input, double }) =>
    double ? [{ line, name: input.name, ...double }] : [],
  )
  const fresh = rows.filter(({ double }) => double === null)
  return {
    id,
    counts: { new: fresh.length, double: doubles.length, faulty: faulty.length },
    faulty: faulty
      .slice(0, mostShown)
      .map(({ line, faults }) => ({ line, faults: faults.map((one) => ({ ...one })) })),
    doubles: doubles.slice(0, mostShown),
    fresh: fresh.slice(0, mostShown).map(({ line, input }) => ({
      line,
      name: input.name,
      email: input.contacts[0]?.email ?? null,
      phone: input.contacts[0]?.phone ?? '',
      dates: input.namedDates.map(writtenDate).join(', '),
    })),
  }
}
