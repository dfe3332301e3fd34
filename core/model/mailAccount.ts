import { z } from 'zod'
import { emailAddress, oneLine } from './values.ts'

/** How the line to a mail server is kept safe (RFC 8314, 3.3; RFC 3207). */
export const mailSecurities = ['from the first byte', 'after the greeting', 'none'] as const
export const mailSecurity = z.enum(mailSecurities)
export type MailSecurity = z.infer<typeof mailSecurity>

const hostName = z
  .string()
  .trim()
  .max(253, 'The name of a server has at most 253 characters.')
  .regex(
    /^(?:[A-Za-z0-9](?:[A-Za-z0-9.-]*[A-Za-z0-9])?|[0-9A-Fa-f]*:[0-9A-Fa-f:.]+)$/,
    'This is not the name of a server. It looks like smtp.place.example.',
  )

/** What a server reads as one line of a password; no sign of it is lost on the way, but a NUL ends it (RFC 4616, 2). */
export const mailPassword = z
  .string()
  .max(500, 'At most 500 characters.')
  .regex(/^\P{Cc}*$/u, 'Line breaks and control characters are not possible here.')

/** A mail account that messages go out through (RFC 6409), without its password. */
export const mailAccount = z
  .object({
    host: hostName,
    port: z
      .number()
      .int()
      .min(1, 'A port has a number from 1 to 65535.')
      .max(65_535, 'A port has a number from 1 to 65535.'),
    security: mailSecurity,
    /** Empty: the server takes messages without a sign-in. */
    user: oneLine(320),
  })
  .strict()
export type MailAccount = z.infer<typeof mailAccount>

/** On this machine nothing is on a line that others could listen to. */
const isThisMachine = (host: string) => /^(localhost|127(\.\d{1,3}){3}|::1)$/i.test(host)

/** A mail account as it is given; the password null: the one that is kept. */
export const mailAccountInput = mailAccount
  .extend({ password: mailPassword.nullable() })
  .strict()
  .superRefine(({ security, user, host, password }, context) => {
    if (security === 'none' && user !== '' && !isThisMachine(host)) {
      const message = 'A password is not sent over a line that others can read: choose TLS.'
      context.addIssue({ code: 'custom', path: ['security'], message })
    }
    if (user === '' && password !== null && password !== '') {
      context.addIssue({ code: 'custom', path: ['user'], message: 'A password needs a user.' })
    }
    if (user !== '' && password === '') {
      context.addIssue({ code: 'custom', path: ['password'], message: 'The user needs a password.' })
    }
  })
export type MailAccountInput = z.infer<typeof mailAccountInput>

/** Where mail servers of a domain say they are (RFC 6186, 3.1; RFC 8314, 5.1), the safest first. */
export const submissionServices = [
  { name: '_submissions._tcp', security: 'from the first byte' },
  { name: '_submission._tcp', security: 'after the greeting' },
] as const satisfies readonly { readonly name: string; readonly security: MailSecurity }[]
/** The same of the servers that mailboxes are read at (RFC 6186, 3.2). */
export const mailboxServices = [
  { name: '_imaps._tcp', security: 'from the first byte' },
  { name: '_imap._tcp', security: 'after the greeting' },
] as const satisfies readonly { readonly name: string; readonly security: MailSecurity }[]

/** Steps in which a mail account is tried, in their order. */
export const accountSteps = ['reach', 'secure', 'sign in', 'sender', 'copy'] as const
/** Steps in which a mailbox is tried. */
export const mailboxSteps = ['reach', 'secure', 'sign in', 'folder'] as const
export const triedStep = z.object({
  step: z.enum([...accountSteps, ...mailboxSteps]),
  outcome: z.enum(['done', 'failed', 'not needed', 'not tried']),
  sentence: z.string(),
  /** The server's own words; empty: it said nothing. */
  answer: z.string(),
})
export type TriedStep = z.infer<typeof triedStep>

/** What keeps a text from being where clients reach the house; null: nothing does. */
export function publicAddressFault(text: string): 'no address' | 'says too much' | null {
  if (!URL.canParse(text)) return 'no address'
  const { protocol, hostname, pathname, search, hash, username } = new URL(text)
  if ((protocol !== 'https:' && protocol !== 'http:') || hostname === '') return 'no address'
  const saysMore = pathname !== '/' || search !== '' || hash !== '' || username !== ''
  return saysMore ? 'says too much' : null
}

/** Where clients reach the house: a web address with nothing behind its host. */
/** Whom messages reach while the owner looks on quietly; null: everybody. */
export const onlyTo = z
  .array(emailAddress)
  .min(1, 'Name at least one address.')
  .max(50, 'At most 50 addresses.')
  .nullable()

export const publicAddress = z
  .string()
  .trim()
  .max(300, 'At most 300 characters.')
  .refine(
    (text) => publicAddressFault(text) !== 'no address',
    'This is no web address. It looks like https://booking.place.example.',
  )
  .refine(
    (text) => publicAddressFault(text) !== 'says too much',
    'It needs a host of its own: nothing may follow it, such as a path.',
  )
  .transform((text) => (URL.canParse(text) ? new URL(text).origin : text))
