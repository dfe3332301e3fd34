import { z } from 'zod'
import { recordKinds, recordVerdicts } from '../insight/domainRecords.ts'
import { mostInDay } from '../model/dailyCap.ts'
import { allowance } from '../model/allowance.ts'
import {
  accountId,
  furtherAccount,
  furtherAccountId,
  furtherAccountInput,
  mainAccountId,
} from '../model/furtherAccount.ts'
import { beginningSteps } from '../insight/beginning.ts'
import {
  mailAccount,
  mailAccountInput,
  mailSecurity,
  onlyTo,
  publicAddress,
  triedStep,
} from '../model/mailAccount.ts'
import { emailAddress, instant } from '../model/values.ts'
import { ask, change, command, commandOn, end, tell } from './described.ts'

/** How messages go out, and where their links lead. */
export const waysOut = z.object({
  /** Given when it was started, set here, or none: the post office that came with it. */
  way: z.enum(['given', 'set', 'post office']),
  account: mailAccount.nullable(),
  /** How much it takes. */
  allowance,
  /** The accounts beside it. */
  further: z.array(
    furtherAccount.extend({
      hasPassword: z.boolean(),
      /** Why it takes nothing; null: it does. */
      trouble: z.string().nullable(),
    }),
  ),
  /** Whether a password is kept for it. */
  hasPassword: z.boolean(),
  /** Where clients reach the house; by whom that was said. */
  publicUrl: z.object({ url: z.string(), way: z.enum(['given', 'set', 'unknown']) }),
  /** Why nothing goes out, whatever the switch says; null: it does. */
  obstacle: z.string().nullable(),
  /** Where a test copy goes. */
  ownAddress: z.string(),
})
export type WaysOut = z.infer<typeof waysOut>

const waysChanged = z.object({ isHeldBack: z.boolean() })

export const mailAccountEndpoints = {
  beginning: ask({
    path: '/api/beginning',
    summary: 'What is missing before messages reach clients',
    answer: z.object({ steps: z.array(z.object({ step: z.enum(beginningSteps), isDone: z.boolean() })) }),
    access: 'owner',
  }),
  rehearse: tell({
    path: '/api/rehearsal',
    summary: 'Have all that a client would get who books now sent to oneself, through the mail account',
    body: z.object(command).strict(),
    answer: z.object({
      address: emailAddress,
      messages: z.array(z.object({ at: instant, subject: z.string() })),
    }),
    access: 'owner',
  }),
  waysOut: ask({
    path: '/api/mail-account',
    summary: 'The mail account messages go out through, without its password',
    answer: waysOut,
    access: 'owner',
  }),
  setMailAccount: change({
    path: '/api/mail-account',
    summary: 'Send through another mail account',
    body: z.object({ ...command, account: mailAccountInput }).strict(),
    answer: waysChanged,
    access: 'owner',
  }),
  removeMailAccount: end({
    path: '/api/mail-account',
    summary: 'Send through the built-in post office again',
    body: z.object(command).strict(),
    answer: waysChanged,
    access: 'owner',
  }),
  setAllowance: change({
    path: '/api/mail-account/allowance',
    summary: 'Say how much the main mail account takes',
    body: z.object({ ...command, allowance }).strict(),
    answer: z.object({ allowance }),
    access: 'owner',
  }),
  addFurtherAccount: tell({
    path: '/api/mail-accounts',
    summary: 'Set up a mail account beside the main one',
    body: z.object({ ...command, account: furtherAccountInput }).strict(),
    answer: z.object({ id: furtherAccountId }),
    access: 'owner',
  }),
  changeFurtherAccount: change({
    path: '/api/mail-accounts/:id',
    summary: 'Change a mail account beside the main one',
    body: z.object({ ...commandOn, account: furtherAccountInput }).strict(),
    answer: z.object({ id: furtherAccountId }),
    access: 'owner',
  }),
  removeFurtherAccount: end({
    path: '/api/mail-accounts/:id',
    summary: 'Take a mail account beside the main one away',
    body: z.object(command).strict(),
    answer: z.object({ id: furtherAccountId }),
    access: 'owner',
  }),
  tryMailAccount: tell({
    path: '/api/mail-account/try',
    summary: 'Try a mail account step by step, up to a copy to who asks',
    /** `senderAddress`: where the copy comes from; null: from the sender's address of the business. */
    body: z
      .object({ account: mailAccountInput, senderAddress: emailAddress.nullable().default(null) })
      .strict(),
    answer: z.object({ steps: z.array(triedStep) }),
    access: 'owner',
  }),
  findMailAccount: tell({
    path: '/api/mail-account/find',
    summary: 'What the domain of an address says of its mail servers',
    /** Servers that take mail, or those that mailboxes are read at. */
    body: z.object({ email: emailAddress, for: z.enum(['sending', 'reading']).default('sending') }).strict(),
    answer: z.object({
      found: z.array(z.object({ host: z.string(), port: z.number().int(), security: mailSecurity })),
    }),
    access: 'owner',
    isRecorded: false,
  }),
  domainRecords: tell({
    path: '/api/mail-account/records',
    summary: 'What the domain of the sender says about who may send in its name, and what to set there',
    body: z
      .object({
        /** Whose sender: the account's, else that of the business. */
        accountId: accountId.default(mainAccountId),
        selector: z
          .string()
          .regex(
            /^([A-Za-z0-9]([\w.-]{0,61}[A-Za-z0-9])?)?$/,
            'A selector is letters, digits, dots and hyphens.',
          ),
      })
      .strict(),
    answer: z.object({
      records: z.array(
        z.object({
          what: z.enum(recordKinds),
          name: z.string(),
          toSet: z.string().nullable(),
          found: z.array(z.string()),
          verdict: z.enum(recordVerdicts),
          sentence: z.string(),
        }),
      ),
    }),
    access: 'owner',
    isRecorded: false,
  }),
  safety: ask({
    path: '/api/sending/safety',
    summary: 'How many messages may leave in a day, and how many have',
    answer: z.object({ most: mostInDay, sentToday: z.number().int(), ownAddress: z.string() }),
    access: 'owner',
  }),
  setDailyCap: change({
    path: '/api/sending/safety',
    summary: 'Say how many messages may leave in a day before everything is held back',
    body: z.object({ ...command, most: mostInDay }).strict(),
    answer: z.object({ most: mostInDay }),
    access: 'owner',
  }),
  setOnlyTo: change({
    path: '/api/sending/only-to',
    summary: 'Let messages reach some addresses alone, or everybody again',
    body: z.object({ ...command, addresses: onlyTo }).strict(),
    answer: z.object({ addresses: z.array(z.string()).nullable() }),
    access: 'owner',
  }),
  setPublicUrl: change({
    path: '/api/public-url',
    summary: 'Say where clients reach the house',
    body: z.object({ ...command, url: publicAddress.nullable() }).strict(),
    answer: z.object({ url: z.string().nullable() }),
    access: 'owner',
  }),
} as const
