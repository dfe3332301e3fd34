import { furtherAccount, type FurtherAccount } from '#core/model/furtherAccount.ts'
import { mailAccount, type MailAccount } from '#core/model/mailAccount.ts'
import type { WaysOut } from '#core/api/mailAccountEndpoints.ts'
import { fromJson } from '../db/columns.ts'
import type { Store } from '../db/database.ts'
import type { AccountAddress, SmtpLimits } from '../mail/conversation.ts'
import { readFurtherAccounts } from '../db/furtherAccounts.ts'
import { noteReading } from '../db/unreadable.ts'
import type { FurtherWay } from '../mail/mailAccounts.ts'
import { openedPassword } from '../mail/sealed.ts'
import { accountAt, limitsOfPostOffice, realLimits } from '../mail/smtpSender.ts'

/** How messages go out, and where their links lead, as it stands at any moment. */
export interface Ways {
  readonly way: WaysOut['way']
  /** Not the post office that came with it: clients get what is sent. */
  readonly isReal: boolean
  readonly account: MailAccount | null
  /** The password that is kept; null: none, or it cannot be read any more. */
  readonly password: string | null
  readonly address: () => AccountAddress
  readonly limits: SmtpLimits
  readonly publicUrl: () => string
  readonly publicUrlBy: WaysOut['publicUrl']['way']
  /** The accounts beside it, the same list until something in it is written. */
  readonly further: readonly FurtherKept[]
  /** Why nothing goes out, whatever the switch says; null: it does. */
  readonly obstacle: string | null
}

/** A further account with its password; the password null: none, or it cannot be read any more. */
export interface FurtherKept extends FurtherWay {
  readonly password: string | null
}

export interface GivenAtStart {
  readonly smtpUrl: string | null
  readonly smtpLimits: SmtpLimits | null
  readonly publicUrl: string | null
  /** Where the house is by itself, until it is said where clients reach it. */
  readonly ownUrl: () => string
  readonly postOfficeUrl: () => string
  /** Whether links that lead to this machine alone keep real messages back. */
  readonly needsPublicUrl: boolean
}

export const publicUrlKey = 'public address'

const noPublicUrl =
  'Nothing goes out: the links in messages would lead nowhere. Say in Set-up, under “How messages go out”, at which address clients reach you, or start Vorfreude with VORFREUDE_PUBLIC_URL.'
const noPassword =
  'Nothing goes out: the password of the mail account cannot be read with the key file that is here now. Type it anew in Set-up, under “How messages go out”; nothing else of it is lost.'

/** The address of an account with its password. */
export function addressOf({ host, port, security, user }: MailAccount, password: string): AccountAddress {
  return {
    host,
    port,
    isSecure: security === 'from the first byte',
    turnsToTls: security === 'none' ? 'never' : 'always',
    signIn: user === '' ? null : { user, pass: password },
  }
}

type Kept = Pick<Ways, 'account' | 'password'> & { readonly isSealedByOther: boolean }

function keptAccount({ statements, keys }: Store): Kept | null {
  const row = statements.one('readMailAccount')
  if (!row) return null
  const parsed = mailAccount.safeParse(fromJson(row['accountJson']))
  if (!parsed.success) {
    noteReading(statements, 'mail account', 'that messages go out through', parsed.error)
    return null
  }
  const sealed = row['sealedPassword']
  const kept = openedPassword(typeof sealed === 'string' ? sealed : null, keys.mailAccounts)
  return { account: parsed.data, password: kept.password, isSealedByOther: kept.isUnreadable }
}

/** The accounts beside the main one, with their passwords as far as they can be read. */
function furtherWays({ statements, keys }: Store): FurtherKept[] {
  return readFurtherAccounts(statements).map(({ sealedPassword, ...one }) => {
    const { password, isUnreadable } = openedPassword(sealedPassword, keys.mailAccounts)
    return { ...one, password, address: isUnreadable ? null : addressOf(one.account, password ?? '') }
  })
}

/** A further account as others see it: without its password. */
export const withoutPassword = (kept: FurtherKept): FurtherAccount => furtherAccount.strip().parse(kept)

const noAccount: Kept = { account: null, password: null, isSealedByOther: false }

function wayOf(store: Store, given: GivenAtStart) {
  const kept = given.smtpUrl === null ? keptAccount(store) : null
  const limits = given.smtpLimits ?? realLimits
  if (given.smtpUrl !== null) {
    const address = accountAt(given.smtpUrl)
    return { way: 'given', ...noAccount, address: () => address, limits } as const
  }
  if (kept?.account) {
    const address = addressOf(kept.account, kept.password ?? '')
    return { way: 'set', ...kept, address: () => address, limits } as const
  }
  // It gets another port where it has to be started again.
  const address = () => accountAt(given.postOfficeUrl())
  return { way: 'post office', ...noAccount, address, limits: limitsOfPostOffice } as const
}

/** How messages go out now: what was given at the start comes first, then what is set up here. */
function waysNow(store: Store, given: GivenAtStart): Ways {
  const { isSealedByOther, ...way } = wayOf(store, given)
  const set = store.statements.one('readMeta', { key: publicUrlKey })?.['value']
  const setUrl = typeof set === 'string' ? set : null
  const isReal = way.way !== 'post office'
  const leadsNowhere = isReal && given.needsPublicUrl && given.publicUrl === null && setUrl === null
  return {
    ...way,
    isReal,
    further: isReal ? furtherWays(store) : [],
    publicUrl: () => given.publicUrl ?? setUrl ?? given.ownUrl(),
    publicUrlBy: given.publicUrl !== null ? 'given' : setUrl !== null ? 'set' : 'unknown',
    obstacle: isSealedByOther ? noPassword : leadsNowhere ? noPublicUrl : null,
  }
}

/** The ways out, read once and kept until something in them is written. */
export interface WaysSource {
  now(): Ways
  /** To be called after anything of them was written. */
  forget(): void
}

export function createWays(store: Store, given: GivenAtStart): WaysSource {
  let kept: Ways | null = null
  return {
    now: () => (kept ??= waysNow(store, given)),
    forget: () => void (kept = null),
  }
}
