import { mainAccountId, type FurtherAccount } from '#core/model/furtherAccount.ts'
import type { AccountAddress, SmtpLimits } from './conversation.ts'
import { createMailAccount, type AccountTrouble, type MailAccount } from './mailAccount.ts'
import { createSmtpSender } from './smtpSender.ts'
import type { AccountFault } from './whoseFault.ts'

/** A further account as it stands: what it carries, and how it is reached. */
export interface FurtherWay extends FurtherAccount {
  /** Null: the password that is kept cannot be read any more. */
  readonly address: AccountAddress | null
}

/** An account's trouble, and whose. */
export interface NamedTrouble extends AccountTrouble {
  readonly id: string
}

/** All accounts that messages go out through: the main one, and those beside it. */
export interface MailAccounts {
  readonly main: MailAccount
  /** Their ids, the main one's first. */
  ids(): readonly string[]
  /** Null: there is none any more. */
  of(id: string): MailAccount | null
  /** Which account carries at present what is to go through one: another steps in where it is at fault and may. */
  carrierOf(id: string): string
  /** What is known of a further account; null: it is the main one, or gone. */
  wayOf(id: string): FurtherWay | null
  troubles(): readonly NamedTrouble[]
  close(): void
}

export interface MailAccountsOptions {
  readonly main: MailAccount
  /** The same list as long as nothing in it changes. */
  readonly further: () => readonly FurtherWay[]
  readonly limits: () => SmtpLimits
  readonly onChange: () => void
}

interface Open {
  way: FurtherWay
  readonly account: MailAccount
}

const unreadable = ({ name }: FurtherWay) =>
  `The password of the mail account “${name}” cannot be read with the key file that is here now: what goes through it waits. Type it anew in Set-up, under “How messages go out”.`

/** Nobody can be reached without the password: an account that is away until it is typed anew. */
const closed: AccountAddress = {
  host: '127.0.0.1',
  port: 9,
  isSecure: false,
  turnsToTls: 'never',
  signIn: null,
}

/** Nobody was asked: there is nothing to sign in with. */
const noPassword: AccountFault = {
  kind: 'account',
  what: 'sign-in refused',
  answer: 'no password that can be read',
}

/** Whether it takes nothing at all and will not soon by itself. One that is to be tried with a message is tried. */
const isAway = (account: MailAccount) => account.trouble() !== null && account.room() === 0

/** A further account; without its password it takes nothing. */
function openWay(first: FurtherWay, { limits, onChange }: MailAccountsOptions): Open {
  const open = { way: first }
  const sender = createSmtpSender(() => open.way.address ?? closed, { limits })
  const since = Date.now()
  const account = createMailAccount(sender, {
    onChange,
    perMinute: () => open.way.allowance.perMinute,
  })
  const isUnreadable = () => open.way.address === null
  return Object.assign(open, {
    account: {
      ...account,
      room: () => (isUnreadable() ? 0 : account.room()),
      trouble: () => (isUnreadable() ? { sentence: unreadable(open.way), since } : account.trouble()),
      tryNow: () => (isUnreadable() ? Promise.resolve(noPassword) : account.tryNow()),
    },
  })
}

const named = (name: string, { sentence, since }: AccountTrouble): AccountTrouble => ({
  sentence: `“${name}”: ${sentence}`,
  since,
})

export function createMailAccounts(options: MailAccountsOptions): MailAccounts {
  const { main, further } = options
  const open = new Map<string, Open>()
  let known: readonly FurtherWay[] = []

  /** Opens what is new, renews what has changed, leaves what is gone: what is on the wire there ends by itself. */
  const present = () => {
    const now = further()
    if (now === known) return open
    known = now
    for (const [id, { account }] of open) {
      if (now.some((way) => way.id === id)) continue
      open.delete(id)
      account.renew()
    }
    for (const way of now) {
      const before = open.get(way.id)
      if (!before) open.set(way.id, openWay(way, options))
      else if (before.way !== way) {
        const isOther = before.way.revision !== way.revision
        before.way = way
        if (isOther) before.account.renew()
      }
    }
    return open
  }

  const accountOf = (id: string) => (id === mainAccountId ? main : (present().get(id)?.account ?? null))

  return {
    main,
    ids: () => [mainAccountId, ...present().keys()],
    of: accountOf,
    wayOf: (id) => present().get(id)?.way ?? null,
    carrierOf(id) {
      const own = present().get(id)
      if (own) return own.way.fallsBack && isAway(own.account) && !isAway(main) ? mainAccountId : id
      if (!isAway(main)) return mainAccountId
      const inItsStead = [...present().values()].find(({ way, account }) => way.stepsIn && !isAway(account))
      return inItsStead?.way.id ?? mainAccountId
    },
    troubles() {
      const ofMain = main.trouble()
      const ofOthers = [...present().values()].flatMap(({ way, account }) => {
        const trouble = account.trouble()
        if (!trouble) return []
        return [{ id: way.id, ...(way.address === null ? trouble : named(way.name, trouble)) }]
      })
      return [...(ofMain ? [{ id: mainAccountId, ...ofMain }] : []), ...ofOthers]
    },
    close() {
      main.close()
      for (const { account } of present().values()) account.close()
    },
  }
}
