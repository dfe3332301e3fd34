import type { IncomingMailbox, IncomingMailboxInput } from '../../model/incomingMailbox.ts'
import type { Noticing } from '../../model/noticing.ts'
import type { MailAccount } from '../../model/mailAccount.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import type { Changing } from './furtherAccountCommands.ts'
import { elsewhere } from './settingsFault.ts'

/** A mailbox as it is to be read, its password sealed apart from it. */
export type IncomingMailboxWish = Omit<IncomingMailboxInput, 'account'> & { readonly account: MailAccount }

type Answered = Result<{ readonly effects: readonly Effect[]; readonly answer: { id: string } }>

const isSameFolder = (one: IncomingMailboxWish, other: IncomingMailboxWish) =>
  one.account.host.toLowerCase() === other.account.host.toLowerCase() &&
  one.account.user === other.account.user &&
  one.folder === other.folder

/** Reads a mailbox from now on, or by other words. */
export function putIncomingMailbox(
  { incomingMailboxes, business }: Settings,
  changing: Changing | null,
  wish: IncomingMailboxWish,
  sealedPassword: string | null,
  context: EngineContext,
): Answered {
  const present = changing && incomingMailboxes.find(({ id }) => id === changing.id)
  if (changing && present?.revision !== changing.revision) return elsewhere()
  const others = incomingMailboxes.filter(({ id }) => id !== present?.id)
  if (others.some(({ name }) => name.toLowerCase() === wish.name.toLowerCase())) {
    return refused('invalid', `There is a mailbox “${wish.name}” already.`, 'mailbox.name')
  }
  const same = others.find((one) => isSameFolder(one, wish))
  if (same) return refused('invalid', `This folder is read already, as “${same.name}”.`, 'mailbox.folder')
  const id = present?.id ?? context.newId('mb')
  const mailbox: IncomingMailbox = { ...wish, id, revision: (present?.revision ?? 0) + 1 }
  // Another folder has other mails in it: what was read of the one before says nothing about it.
  const isOther = present !== null && present !== undefined && !isSameFolder(present, wish)
  const words = present ? `Mailbox changed: ${wish.name}.` : `Mailbox is read from now on: ${wish.name}.`
  return done({
    effects: [
      { kind: 'put incoming mailbox', mailbox, sealedPassword, readsAnew: isOther },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { id },
  })
}

/** Reads a mailbox no more; what came in stays. */
export function removeIncomingMailbox(
  { incomingMailboxes, business }: Settings,
  id: string,
  context: EngineContext,
): Answered {
  const present = incomingMailboxes.find((one) => one.id === id)
  if (!present) return refused('not found', 'This mailbox is not read any more.')
  const words = `Mailbox is read no more: ${present.name}.`
  return done({
    effects: [
      { kind: 'remove incoming mailbox', id },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { id },
  })
}

/** Has the address that answers go to carry a mark of the message, or not any more. */
export function setMarkedAnswers(
  { business }: Settings,
  isOn: boolean,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: { isOn: boolean } }> {
  const words = isOn
    ? 'Answers go to an address with a mark of their message from now on.'
    : 'Answers go to plain addresses from now on.'
  return done({
    effects: [
      { kind: 'set marked answers', isOn },
      appendEvent(context, 'settings changed', { name: business.name }, words),
    ],
    answer: { isOn },
  })
}

/** Says what is noticed of what clients do with messages. */
export function setNoticing(
  { business }: Settings,
  noticing: Noticing,
  context: EngineContext,
): Result<{ readonly effects: readonly Effect[]; readonly answer: Noticing }> {
  const noticed = [
    noticing.links ? 'links that are followed' : '',
    noticing.opens ? 'messages that are opened' : '',
  ]
  const words = noticed.filter(Boolean).join(' and ') || 'nothing'
  return done({
    effects: [
      { kind: 'set noticing', noticing },
      appendEvent(context, 'settings changed', { name: business.name }, `Noticed from now on: ${words}.`),
    ],
    answer: noticing,
  })
}
