import { z } from 'zod'
import {
  incomingMailbox,
  incomingMailboxId,
  incomingMailboxInput,
  readingState,
} from '../model/incomingMailbox.ts'
import { noticing } from '../model/noticing.ts'
import { triedStep } from '../model/mailAccount.ts'
import { ask, change, command, commandOn, end, tell } from './described.ts'

/** What comes back. */
export const waysBack = z.object({
  /** Where a mail server hands over what comes, by SMTP; null: nowhere. */
  listensAt: z.number().int().nullable(),
  /** The mailboxes that are read, without their passwords. */
  mailboxes: z.array(incomingMailbox.extend({ hasPassword: z.boolean(), state: readingState })),
  /** The mailbox of the built-in post office, which the demo reads; null: there is none. */
  ownMailbox: z.object({ name: z.string(), state: readingState }).nullable(),
  /** Whether the address that answers go to carries a mark of the message. */
  isMarked: z.boolean(),
  noticing,
})
export type WaysBack = z.infer<typeof waysBack>

export const mailboxEndpoints = {
  waysBack: ask({
    path: '/api/incoming-mailboxes',
    summary: 'What comes back: the mailboxes that are read, and how far each is read',
    answer: waysBack,
    access: 'owner',
  }),
  addIncomingMailbox: tell({
    path: '/api/incoming-mailboxes',
    summary: 'Read a mailbox by IMAP',
    body: z.object({ ...command, mailbox: incomingMailboxInput }).strict(),
    answer: z.object({ id: incomingMailboxId }),
    access: 'owner',
  }),
  changeIncomingMailbox: change({
    path: '/api/incoming-mailboxes/:id',
    summary: 'Change how a mailbox is read',
    body: z.object({ ...commandOn, mailbox: incomingMailboxInput }).strict(),
    answer: z.object({ id: incomingMailboxId }),
    access: 'owner',
  }),
  removeIncomingMailbox: end({
    path: '/api/incoming-mailboxes/:id',
    summary: 'Read a mailbox no more',
    body: z.object(command).strict(),
    answer: z.object({ id: incomingMailboxId }),
    access: 'owner',
  }),
  tryIncomingMailbox: tell({
    path: '/api/incoming-mailboxes/try',
    summary: 'Try a mailbox step by step, up to what lies in its folder',
    body: z.object({ mailbox: incomingMailboxInput }).strict(),
    answer: z.object({ steps: z.array(triedStep) }),
    access: 'owner',
  }),
  lookForMail: tell({
    path: '/api/incoming-mailboxes/look',
    summary: 'Look into the mailboxes at once; the answer comes when what lies there was taken in',
    body: z.object({}).strict(),
    answer: z.object({ cameIn: z.number().int() }),
    access: 'team',
    isRecorded: false,
  }),
  setNoticing: change({
    path: '/api/noticing',
    summary: 'Say what is noticed of what clients do with messages',
    body: z.object({ ...command, noticing }).strict(),
    answer: noticing,
    access: 'owner',
  }),
  setMarkedAnswers: change({
    path: '/api/marked-answers',
    summary: 'Say whether the address that answers go to carries a mark of the message',
    body: z.object({ ...command, isOn: z.boolean() }).strict(),
    answer: z.object({ isOn: z.boolean() }),
    access: 'owner',
  }),
} as const
