import { z } from 'zod'
import { mailAccount, mailAccountInput } from './mailAccount.ts'
import { idOf, requiredLine } from './values.ts'

export const incomingMailboxId = idOf('mb')

const mailFolder = requiredLine(
  200,
  'Say which folder is read; what comes in lies in INBOX, more often than not.',
)

const named = {
  name: requiredLine(60, 'The mailbox needs a name.'),
  /** The folder that is read (RFC 3501 5.1). */
  folder: mailFolder,
}

/** A mailbox that is read by IMAP (RFC 3501), without its password. */
export const incomingMailbox = z
  .object({
    id: incomingMailboxId,
    ...named,
    account: mailAccount.extend({ user: mailAccount.shape.user.min(1) }),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type IncomingMailbox = z.infer<typeof incomingMailbox>

/** The same as it is given; the password null: the one that is kept. */
export const incomingMailboxInput = z
  .object({
    ...named,
    account: mailAccountInput.refine(({ user }) => user !== '', {
      path: ['user'],
      message: 'A mailbox is read by its user.',
    }),
  })
  .strict()
export type IncomingMailboxInput = z.infer<typeof incomingMailboxInput>

/** How far a mailbox is read just now. */
export const readingState = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('connecting') }).strict(),
  /** What lay there before is looked through, so that it is known as old: nothing follows from it. */
  z.object({ kind: z.literal('noting what is old'), noted: z.number().int(), of: z.number().int() }).strict(),
  z.object({ kind: z.literal('reading'), waiting: z.number().int() }).strict(),
  /** All that is there was read; whether the server says by itself when something comes. */
  z.object({ kind: z.literal('listening'), isTold: z.boolean() }).strict(),
  z.object({ kind: z.literal('fault'), sentence: z.string() }).strict(),
])
export type ReadingState = z.infer<typeof readingState>
