import type { MailAccount, MailAccountInput } from '#core/model/mailAccount.ts'
import { Refusal } from '../http/problems.ts'

/** What is kept of an account or a mailbox: where it is, and its password as far as it can be read. */
interface Known {
  readonly account: MailAccount | null
  readonly password: string | null
}

/** The password that was typed, or the one that is kept for the same server and user: nobody else gets it. */
export function passwordOf(
  { password, host, user }: MailAccountInput,
  known: readonly Known[],
  { what, path }: { readonly what: 'account' | 'mailbox'; readonly path: string },
): string {
  if (password !== null || user === '') return password ?? ''
  const same = known.find(({ account }) => account?.host === host && account.user === user)
  if (same && same.password !== null) return same.password
  const detail = `Type the password of this ${what}.`
  throw new Refusal('invalid', detail, [{ path, detail }])
}
