import { z } from 'zod'
import { personId } from './business.ts'
import { client, clientId, contactId } from './client.ts'
import { happening } from './dealings.ts'
import { idOf, instant } from './values.ts'
import { variation } from './variation.ts'

export const clientMergeId = idOf('mg')

const ids = z.array(z.string().min(1))

/** What changes hands when two clients become one, or one becomes two again. */
export const dealings = z
  .object({
    bookingIds: ids,
    enquiryIds: ids,
    invoiceIds: ids,
    /** Their messages go with them. */
    runIds: ids,
    taskIds: ids,
    happenings: z.array(happening),
    /** Whose messages count as whose: contacts of one client by those of the other. */
    recipients: z.record(contactId, contactId),
  })
  .strict()
export type Dealings = z.infer<typeof dealings>

/** Two clients who are one, with what is needed to take them apart again. */
export const clientMerge = z
  .object({
    id: clientMergeId,
    at: instant,
    personId: personId.nullable(),
    keptId: clientId,
    /** The client who stays, as they were before, and the revision they had after it. */
    keptWas: client,
    keptRevision: z.number().int(),
    /** The client who is gone since, as they were. */
    gone: client,
    moved: dealings,
    /** What differed for the one who is gone, as it was, and the ids it has since. */
    variations: z.array(z.object({ was: variation, id: variation.shape.id.nullable() }).strict()),
    /** Runs that ended because the one who stays has the same going on already. */
    endedRunIds: ids,
  })
  .strict()
export type ClientMerge = z.infer<typeof clientMerge>
