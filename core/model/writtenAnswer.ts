import { z } from 'zod'
import { personId } from './business.ts'
import { clientId } from './client.ts'
import { incomingId } from './incoming.ts'
import { emailAddress, idOf, instant, oneLine, severalLines } from './values.ts'

export const writtenAnswerId = idOf('wa')

/** What a person of the team types. */
export const answerInput = z
  .object({
    subject: oneLine(200),
    text: severalLines(20_000).min(1, 'The answer needs words.'),
  })
  .strict()
export type AnswerInput = z.infer<typeof answerInput>

/** A mail that the team wrote in answer to one that came in. It goes once; whether it has gone is never guessed. */
export const writtenAnswer = z
  .object({
    id: writtenAnswerId,
    incomingId,
    /** Null: it is not known whose the mail is. */
    clientId: clientId.nullable(),
    at: instant,
    personId: personId.nullable(),
    from: z.object({ name: oneLine(120), address: emailAddress }).strict(),
    replyTo: emailAddress.nullable(),
    to: emailAddress,
    ...answerInput.shape,
    /** RFC 5322 Message-ID, the same on each attempt. */
    messageId: z.string(),
    /** Message-IDs of the thread, the oldest first; the last is what it answers. */
    references: z.array(z.string()).max(30),
    /** What it answers, quoted under it. */
    quoted: z.string().max(40_000),
    state: z.enum(['ready', 'sending', 'sent', 'failed', 'in doubt']),
    /** Why it has not gone, or nobody knows; null: there is nothing to say. */
    reason: z.string().max(600).nullable(),
    attempts: z.number().int().min(0),
    sentAt: instant.nullable(),
  })
  .strict()
export type WrittenAnswer = z.infer<typeof writtenAnswer>
