import { z } from 'zod'
import { clientId } from './client.ts'
import { idOf } from './values.ts'

/** What a run works for. */
export const subject = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('booking'), id: idOf('bk') }).strict(),
  z.object({ kind: z.literal('enquiry'), id: idOf('en') }).strict(),
  z.object({ kind: z.literal('invoice'), id: idOf('in') }).strict(),
  z.object({ kind: z.literal('client'), id: clientId }).strict(),
])
export type Subject = z.infer<typeof subject>
export type SubjectKind = Subject['kind']

interface Traits {
  /** It concerns one service, which rules can ask for. */
  readonly hasService: boolean
  /** Its messages tell of a booking's own times: they end with it, and what they told is known. */
  readonly tellsTimes: boolean
}

export const subjectTraits: Readonly<Record<SubjectKind, Traits>> = {
  booking: { hasService: true, tellsTimes: true },
  enquiry: { hasService: true, tellsTimes: false },
  invoice: { hasService: false, tellsTimes: false },
  client: { hasService: false, tellsTimes: false },
}
