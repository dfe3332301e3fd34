import type { MailAccount } from '../../model/mailAccount.ts'
import type { Allowance } from '../../model/allowance.ts'
import { noCap } from '../../model/dailyCap.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

/** A mail account as it is kept: its password sealed, null where it has none. */
export interface KeptMailAccount {
  readonly account: MailAccount
  readonly sealedPassword: string | null
}

/**
 * Sends through another mail account; null: through the post office that came with it. What was only tried so far must not
 * go to clients at once: where messages become real, sending is held back until a person switches it on.
 */
export function setMailAccount(
  { isRealMail, isSendingOn, business, mailAccounts }: Settings,
  kept: KeptMailAccount | null,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { isHeldBack: boolean } }> {
  if (kept === null && !isRealMail) {
    return refused('not allowed now', 'Messages go to the built-in post office already.')
  }
  if (kept === null && mailAccounts.length > 0) {
    return refused(
      'not allowed now',
      'Take the accounts beside it away first: else some messages would still go to clients.',
    )
  }
  const isHeldBack = kept !== null && !isRealMail && isSendingOn
  const words =
    kept === null
      ? 'Messages go to the built-in post office again.'
      : `Messages go out through ${kept.account.host}.`
  const held: readonly Effect[] = isHeldBack
    ? [
        { kind: 'set sending', isOn: false },
        appendEvent(
          context,
          'sending held back',
          {},
          'All sending was held back: messages are real from now on.',
        ),
      ]
    : []
  return done({
    effects: [
      { kind: 'set mail account', kept },
      appendEvent(context, 'settings changed', { name: business.name }, words),
      ...held,
    ],
    answer: { isHeldBack },
  })
}

/** Says where clients reach the house; null: nobody says so any more. */
export function setPublicUrl(
  { business }: Settings,
  url: string | null,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { url: string | null } }> {
  const words = url === null ? 'Clients reach the house nowhere.' : `Clients reach the house at ${url}.`
  return done({
    effects: [
      { kind: 'set public address', url },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { url },
  })
}

/** Says how many messages may leave in a day before everything is held back. */
export function setDailyCap(
  { business }: Settings,
  most: number | null,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { most: number | null } }> {
  const words =
    most === null ? 'Any number of messages may go in a day.' : `At most ${most} messages may go in a day.`
  return done({
    effects: [
      { kind: 'set daily cap', cap: { ...noCap, most } },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { most },
  })
}

/** Says how much the main mail account takes. */
export function setAllowance(
  { business }: Settings,
  allowance: Allowance,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { allowance: Allowance } }> {
  const changed = { ...business, allowance, revision: business.revision + 1 }
  const words = 'How much the mail account takes was changed.'
  return done({
    effects: [
      { kind: 'put business', business: changed },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { allowance },
  })
}

/** Lets messages reach some addresses alone; null: everybody again. */
export function setOnlyTo(
  { business }: Settings,
  addresses: readonly string[] | null,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { addresses: string[] | null } }> {
  const words =
    addresses === null
      ? 'Quiet mode ended: messages reach everybody again.'
      : `Quiet mode: messages reach only ${addresses.join(', ')}.`
  return done({
    effects: [
      { kind: 'set only to', addresses },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { addresses: addresses && [...addresses] },
  })
}
