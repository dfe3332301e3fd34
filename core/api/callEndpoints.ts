import { z } from 'zod'
import { clientId } from '../model/client.ts'
import { sendId, sendState } from '../model/send.ts'
import { instant } from '../model/values.ts'
import { ask, command, numberedPart, tell } from './described.ts'
import { partOf } from './views.ts'

/** How a call to a web address ended. */
export const callOutcome = z.enum(['accepted', 'refused', 'later', 'in doubt'])

/** One call to a web address, as it went. */
export const callLine = z.object({
  id: z.string(),
  at: instant,
  sendId,
  clientId,
  clientName: z.string(),
  sequenceName: z.string(),
  url: z.string(),
  outcome: callOutcome,
  answer: z.string(),
  /** In milliseconds of real time. */
  tookMs: z.number().int(),
  /** Who made it go once more; null: it went by its sequence. */
  personName: z.string().nullable(),
  /** Where the step stands by now. */
  state: sendState,
  /** Whether no later call was made for the same step. */
  isLast: z.boolean(),
})
export type CallLine = z.infer<typeof callLine>

/** Calls of sequences to web addresses. */
export const callEndpoints = {
  webCalls: ask({
    path: '/api/web-calls',
    summary: 'The calls to web addresses as they went, the newest first; a part of them',
    query: z.object(numberedPart('A call has a number.')).strict(),
    answer: partOf(callLine),
  }),
  callAgain: tell({
    path: '/api/sends/:id/call-again',
    summary: 'Call a web address once more with the same words; who is called knows it by its id',
    body: z.object(command).strict(),
    answer: z.object({ outcome: callOutcome.nullable(), answer: z.string() }),
  }),
  callSecret: tell({
    path: '/api/web-calls/secret',
    summary: 'What calls to web addresses are signed with, for those who check that',
    body: z.object({ present: z.string().max(200) }).strict(),
    answer: z.object({ secret: z.string() }),
    access: 'owner',
    byKey: false,
  }),
} as const
