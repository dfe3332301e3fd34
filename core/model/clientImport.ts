import { z } from 'zod'
import { personId } from './business.ts'
import { client, clientId } from './client.ts'
import { idOf, instant, oneLine } from './values.ts'

export const clientImportId = idOf('im')

/** Clients that were brought in from a file together. */
export const clientImport = z
  .object({
    id: clientImportId,
    at: instant,
    personId: personId.nullable(),
    fileName: oneLine(200),
    /** Each with what they were before, null: nobody, and the revision they have since. */
    clients: z.array(z.object({ clientId, was: client.nullable(), revision: z.number().int() }).strict()),
  })
  .strict()
export type ClientImport = z.infer<typeof clientImport>
