import { z } from 'zod'
import { serviceId } from '../model/business.ts'
import { instant } from '../model/values.ts'
import { doubleActs } from '../tables/bringIn.ts'
import { bookingFields } from '../tables/bookingFields.ts'
import { tableKinds } from '../tables/kinds.ts'
import { clientFields } from '../tables/clientFields.ts'
import { sameBy } from '../tables/doubles.ts'
import { looked } from './calendarEndpoints.ts'
import { ask, command, largeFile, tell } from './described.ts'

const field = z.enum(clientFields)
/** What the rows of a table are. */
const tableKind = z.enum(tableKinds)
const bookingField = z.enum(bookingFields)
const dateOrder = z.enum(['day first', 'month first'])

const fault = z.object({ field: field.nullable(), sentence: z.string() })

/** A row that cannot come in, and why. */
const faultyRow = z.object({ line: z.number().int(), faults: z.array(fault) })

/** A row that is taken for somebody who is there, or who stands in an earlier line. */
const doubleRow = z.object({
  line: z.number().int(),
  name: z.string(),
  by: z.enum(sameBy),
  /** Null: somebody of an earlier line. */
  clientId: z.string().nullable(),
  of: z.string(),
})

const newRow = z.object({
  line: z.number().int(),
  name: z.string(),
  email: z.string().nullable(),
  phone: z.string(),
  dates: z.string(),
})

/** What would come of a table. */
const tableLook = z.object({
  /** Names this look: what is brought in is what was looked at. */
  id: z.string(),
  counts: z.object({ new: z.number().int(), double: z.number().int(), faulty: z.number().int() }),
  /** The first of each; more are only counted. */
  faulty: z.array(faultyRow),
  doubles: z.array(doubleRow),
  fresh: z.array(newRow),
})
export type TableLook = z.infer<typeof tableLook>

/** What a column of either kind of table says; null: it is left out. */
export const tableField = field.or(bookingField).nullable()
const tableColumn = z.object({ head: z.string(), samples: z.array(z.string()), field: tableField })

export const clientImportLine = z.object({
  id: z.string(),
  at: instant,
  fileName: z.string(),
  personName: z.string().nullable(),
  clients: z.number().int(),
  takenBackAt: instant.nullable(),
})

/** Tables of clients and cards: looked at, brought in, taken back. */
export const tableEndpoints = {
  openTable: tell({
    path: '/api/tables',
    summary: 'Read a table of clients or bookings, or cards; nothing is brought in',
    body: z
      .object({
        of: tableKind.default('clients'),
        fileName: z.string().max(200),
        base64: largeFile,
      })
      .strict(),
    answer: z.object({
      id: z.string(),
      rows: z.number().int(),
      encoding: z.string(),
      delimiter: z.string(),
      columns: z.array(tableColumn),
      /** Null: no date of the table says it. */
      dateOrder: dateOrder.nullable(),
      /** Whether the columns were matched like this the last time. */
      isRemembered: z.boolean(),
    }),
    isRecorded: false,
  }),
  lookAtTable: tell({
    path: '/api/tables/:id/look',
    summary: 'What the rows of a table would become; nothing is brought in',
    body: z.object({ matching: z.array(field.nullable()).max(100), dateOrder }).strict(),
    answer: tableLook,
    isRecorded: false,
  }),
  lookAtBookingTable: tell({
    path: '/api/tables/:id/bookings',
    summary: 'What the rows of a table of bookings would become; nothing is brought in',
    body: z
      .object({
        matching: z.array(bookingField.nullable()).max(100),
        dateOrder,
        /** Of rows that name none. */
        serviceId,
      })
      .strict(),
    answer: looked,
    isRecorded: false,
  }),
  tableProgress: ask({
    path: '/api/tables/:id',
    summary: 'How far a look at a table is',
    answer: z.object({ done: z.number().int(), total: z.number().int() }),
    access: 'team',
  }),
  bringInClients: tell({
    path: '/api/tables/:id/clients',
    summary: 'Bring the clients of a table in, all or none; nothing starts because of it',
    body: z
      .object({
        ...command,
        lookId: z.string().max(64),
        doubles: z.enum(doubleActs),
        /** What is done with some of the doubles instead, by their lines. */
        others: z.array(z.object({ line: z.number().int(), act: z.enum(doubleActs) }).strict()).max(50_000),
      })
      .strict(),
    answer: z.object({
      importId: z.string(),
      added: z.number().int(),
      merged: z.number().int(),
      left: z.number().int(),
    }),
  }),
  clientImports: ask({
    path: '/api/client-imports',
    summary: 'The last times clients were brought in',
    answer: z.object({ imports: z.array(clientImportLine) }),
  }),
  takeClientsBack: tell({
    path: '/api/client-imports/:id/take-back',
    summary: 'Take an import of clients back; who has changed or was used since stays',
    body: z.object(command).strict(),
    answer: z.object({
      taken: z.number().int(),
      kept: z.array(z.object({ id: z.string(), name: z.string() })),
    }),
  }),
} as const
