import { describedBookingFields, guessBookingColumns } from './bookingFields.ts'
import { describedFields, guessMatching } from './clientFields.ts'
import { isHeadRow, type DescribedField } from './matching.ts'

/** What the rows of a table can be. */
export const tableKinds = ['clients', 'bookings'] as const
export type TableKind = (typeof tableKinds)[number]

interface Kind {
  readonly fields: Readonly<Record<string, DescribedField>>
  readonly guess: (heads: readonly string[], rows: readonly (readonly string[])[]) => (string | null)[]
  /** Of dates in this column it is asked what comes first. */
  readonly dateField: string
}

export const kindOfTable: Readonly<Record<TableKind, Kind>> = {
  clients: { fields: describedFields, guess: guessMatching, dateField: 'birthday' },
  bookings: { fields: describedBookingFields, guess: guessBookingColumns, dateField: 'date' },
}

/** Whether the first row of a table names its columns. */
export const hasHeads = (first: readonly string[]) =>
  isHeadRow(
    tableKinds.map((kind) => kindOfTable[kind].fields),
    first,
  )
