import type { FurtherAccount, FurtherAccountInput } from '../../model/furtherAccount.ts'
import type { MailAccount } from '../../model/mailAccount.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { elsewhere, type SettingsFault } from './settingsFault.ts'

/** An account as it is to be, its password sealed apart from it. */
export type FurtherAccountWish = Omit<FurtherAccountInput, 'account'> & { readonly account: MailAccount }

/** What is changed: null, a new one. */
export interface Changing {
  readonly id: string
  readonly revision: number
}

const sameName = (one: string, other: string) => one.toLowerCase() === other.toLowerCase()

/** Why two accounts would carry one and the same; null: none do. */
function sharedFault(
  { people }: Settings,
  others: readonly FurtherAccount[],
  { name, purposes, personIds, stepsIn }: FurtherAccountWish,
): SettingsFault | null {
  for (const other of others) {
    if (sameName(other.name, name)) return ['name', `There is an account “${other.name}” already.`]
    const purpose = purposes.find((one) => other.purposes.includes(one))
    if (purpose !== undefined) {
      return ['purposes', `Messages of the purpose “${purpose}” go through “${other.name}” already.`]
    }
    const personId = personIds.find((one) => other.personIds.includes(one))
    if (personId !== undefined) {
      const person = people.find(({ id }) => id === personId)?.name ?? 'Somebody'
      return ['personIds', `${person} sends through “${other.name}” already.`]
    }
    if (stepsIn && other.stepsIn) {
      return ['stepsIn', `“${other.name}” steps in for the main account already.`]
    }
  }
  return null
}

function furtherAccountFault(
  settings: Settings,
  others: readonly FurtherAccount[],
  wish: FurtherAccountWish,
): SettingsFault | null {
  const { purposes, personIds, stepsIn } = wish
  if (personIds.some((id) => !settings.people.some((one) => one.id === id && one.isActive))) {
    return ['personIds', 'One of these people is not in the team any more.']
  }
  if (purposes.length === 0 && personIds.length === 0 && !stepsIn) {
    return [
      'purposes',
      'Say what goes through it: a purpose, somebody’s messages, or those of the main account in its stead.',
    ]
  }
  return sharedFault(settings, others, wish)
}

const mainFirst =
  'Set the main mail account up first: while messages go to the built-in post office, none may go to clients by another way.'

/** Sets up a mail account beside the main one, or changes one. */
export function putFurtherAccount(
  settings: Settings,
  changing: Changing | null,
  wish: FurtherAccountWish,
  sealedPassword: string | null,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { id: string } }> {
  if (!settings.isRealMail) return refused('not allowed now', mainFirst)
  const { mailAccounts, business } = settings
  const present = changing && mailAccounts.find(({ id }) => id === changing.id)
  if (changing && present?.revision !== changing.revision) return elsewhere()
  const others = mailAccounts.filter(({ id }) => id !== present?.id)
  const fault = furtherAccountFault(settings, others, wish)
  if (fault) return refused('invalid', fault[1], `account.${fault[0]}`)
  const id = present?.id ?? context.newId('ma')
  const account: FurtherAccount = { ...wish, id, revision: (present?.revision ?? 0) + 1 }
  const words = present ? `Mail account changed: ${wish.name}.` : `Mail account added: ${wish.name}.`
  return done({
    effects: [
      { kind: 'put further account', account, sealedPassword },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { id },
  })
}

/** Takes an account away: what was its own goes through the main one. */
export function removeFurtherAccount(
  { mailAccounts, business }: Settings,
  id: string,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { id: string } }> {
  const present = mailAccounts.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such mail account any more.')
  return done({
    effects: [
      { kind: 'remove further account', id },
      appendEvent(
        context,
        'settings changed',
        { name: business.name },
        `Mail account taken away: ${present.name}.`,
      ),
    ],
    answer: { id },
  })
}
