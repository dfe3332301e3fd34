import { furtherAccount, type FurtherAccount } from '#core/model/furtherAccount.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

/** A further mail account with its password as it is kept: sealed, null where it has none. */
export interface KeptFurtherAccount extends FurtherAccount {
  readonly sealedPassword: string | null
}

/** All of them by their names; one that cannot be read carries nothing, and what would be its own goes by the main one. */
export function readFurtherAccounts(statements: Statements): KeptFurtherAccount[] {
  const rows = statements.all('furtherAccounts')
  return readRows(statements, 'mail account', rows, ({ accountJson, sealedPassword }) => ({
    ...furtherAccount.parse(fromJson(accountJson)),
    sealedPassword: typeof sealedPassword === 'string' ? sealedPassword : null,
  })).toSorted((one, other) => one.name.localeCompare(other.name))
}

/** Writes one. What is on its way finds its account anew. */
export function putFurtherAccount(
  statements: Statements,
  account: FurtherAccount,
  sealedPassword: string | null,
) {
  const accountJson = asJson(kept(furtherAccount, account))
  statements.run('putFurtherAccount', { id: account.id, accountJson, sealedPassword })
  statements.run('forgetThrough')
}

export function removeFurtherAccount(statements: Statements, id: string) {
  statements.run('removeFurtherAccount', { id })
  statements.run('forgetThrough')
}
