import { mailAccountInput, type MailAccountInput, type MailSecurity } from '#core/model/mailAccount.ts'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'

/** A mail account while it is typed; the password empty: the one that is kept, where one is. */
export interface MailDraft {
  readonly host: string
  readonly port: number | string
  readonly security: MailSecurity
  readonly user: string
  readonly password: string
}

/** What a mail server is for: it takes messages, or mailboxes are read at it. */
export type MailUse = 'sending' | 'reading'

/** RFC 8314 3.3, RFC 6409 3.1, RFC 5321 4.5.4.2, RFC 3501 2.1. */
export const usualPort: Readonly<Record<MailUse, Readonly<Record<MailSecurity, number>>>> = {
  sending: { 'from the first byte': 465, 'after the greeting': 587, none: 25 },
  reading: { 'from the first byte': 993, 'after the greeting': 143, none: 143 },
}

export const securityWords = (use: MailUse): Readonly<Record<MailSecurity, string>> => ({
  'from the first byte': `TLS from the first byte (usually port ${usualPort[use]['from the first byte']})`,
  'after the greeting': `TLS after the greeting (usually port ${usualPort[use]['after the greeting']})`,
  none: 'no TLS: only for a server on this machine',
})

/** The account that is kept, and whether its password is. */
export type KeptAccount = Pick<WaysOut, 'account' | 'hasPassword'>

export const draftOf = ({ account }: Pick<KeptAccount, 'account'>, use: MailUse = 'sending'): MailDraft => ({
  host: account?.host ?? '',
  port: account?.port ?? usualPort[use]['from the first byte'],
  security: account?.security ?? 'from the first byte',
  user: account?.user ?? '',
  password: '',
})

/** Whether the password that is kept is the one of what is typed. */
export const keepsPassword = ({ host, user, password }: MailDraft, { account, hasPassword }: KeptAccount) =>
  password === '' && hasPassword && account?.host === host.trim() && account.user === user.trim()

type Errors = Readonly<Record<string, string>>

/** What is typed as the server takes it, or what is wrong with it by field. */
export function readMailDraft(
  draft: MailDraft,
  kept: KeptAccount,
): { account: MailAccountInput } | { errors: Errors } {
  const password = keepsPassword(draft, kept) ? null : draft.password
  const parsed = mailAccountInput.safeParse({
    ...draft,
    port: typeof draft.port === 'number' ? draft.port : Number.NaN,
    password,
  })
  if (parsed.success) return { account: parsed.data }
  const errors = parsed.error.issues.map(({ path, message }) => {
    const field = String(path[0])
    return [field, field === 'port' ? 'A port has a number from 1 to 65535.' : message] as const
  })
  return { errors: Object.fromEntries(errors.toReversed()) }
}
