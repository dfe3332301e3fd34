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

export const securityWords: Readonly<Record<MailSecurity, string>> = {
  'from the first byte': 'TLS from the first byte (usually port 465)',
  'after the greeting': 'TLS after the greeting (usually port 587)',
  none: 'no TLS: only for a server on this machine',
}

export const usualPort: Readonly<Record<MailSecurity, number>> = {
  'from the first byte': 465,
  'after the greeting': 587,
  none: 25,
}

/** The account that is kept, and whether its password is. */
export type KeptAccount = Pick<WaysOut, 'account' | 'hasPassword'>

export const draftOf = ({ account }: Pick<KeptAccount, 'account'>): MailDraft => ({
  host: account?.host ?? '',
  port: account?.port ?? usualPort['from the first byte'],
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
