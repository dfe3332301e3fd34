import type { DeliveryAction, RecipientReport } from '../model/incoming.ts'

/*
 * Status codes of mail systems: class.subject.detail (RFC 3463). The class says how lasting it is, the rest what is at
 * fault.
 */

/** What a report means for the message and its address. */
export type DeliveryOutcome =
  /** The address does not work, and will not by itself: nothing more goes there. */
  | 'address gone'
  /** This message was refused for good, and not because of its address: others may get through. */
  | 'message refused'
  /** The mailbox is full: as good as gone after a few times. */
  | 'mailbox full'
  /** It did not get through this time: once more. */
  | 'try again'
  /** It is still on its way. */
  | 'delayed'
  /** It got there, or beyond where it can be followed. */
  | 'arrived'

const wholeCode = /(?:^|[^\d.])([245]\.\d{1,3}\.\d{1,3})(?![\d.]*\d)/

/** The first status code in a text; null: there is none. */
export const statusCodeIn = (text: string): string | null => wholeCode.exec(text)?.[1] ?? null

/** The first reply code of SMTP in a text that says no (RFC 5321 4.2), such as 550; null: there is none. */
export const replyCodeIn = (text: string): string | null =>
  /(?:^|[\s;:#(])([45][0-5]\d)(?=[\s\-:,.)]|$)/.exec(text)?.[1] ?? null

/**
 * RFC 3463 3.3: mailbox full is x.2.2, and so is what a quota says. Some systems call it permanent, and it is not.
 */
const isFull = ({ status, diagnostic }: Pick<RecipientReport, 'status' | 'diagnostic'>) =>
  (status?.endsWith('.2.2') ?? false) ||
  /\b(mailbox|mail box|postfach)\b.{0,30}\b(full|voll|exceeded|überschritten)|over ?quota|quota exceeded|insufficient storage/i.test(
    diagnostic,
  )

/** Message too long (RFC 3463 3.3, 3.4: x.2.3, x.3.4): a shorter one gets through. */
const isTooLong = (status: string) => status.endsWith('.2.3') || status.endsWith('.3.4')

const saysNoSuchMailbox = (diagnostic: string) =>
  /(user|mailbox|recipient|address|account)\b.{0,40}\b(unknown|not found|does ?n.t exist|no longer|disabled|inactive|unavailable)|unknown (user|recipient|mailbox|address)|no such (user|mailbox|recipient|address)|unbekannt/i.test(
    diagnostic,
  )

/**
 * What one recipient's report means: 4.x.x once more, 5.x.x nothing more to that address. Without a status code the
 * action decides (RFC 3464 2.3.3), and a failure is then taken for one of this message alone.
 */
export function outcomeOf(
  report: Pick<RecipientReport, 'action' | 'status' | 'diagnostic'>,
): DeliveryOutcome {
  const { action, status, diagnostic } = report
  if (action === 'delayed') return 'delayed'
  if (action !== 'failed') return 'arrived'
  if (isFull(report)) return 'mailbox full'
  if (status?.startsWith('4')) return 'try again'
  if (saysNoSuchMailbox(diagnostic)) return 'address gone'
  return status?.startsWith('5') && !isTooLong(status) ? 'address gone' : 'message refused'
}

/** Codes of RFC 3463 section 3 in words; those of a subject alone where the detail is not known. */
const words: Readonly<Record<string, string>> = {
  '1': 'the address',
  '1.1': 'there is no such mailbox',
  '1.2': 'there is no such mail server',
  '1.3': 'the address is written wrongly',
  '1.4': 'the address could be several',
  '1.6': 'the mailbox has moved, nobody knows where to',
  '2': 'the mailbox',
  '2.1': 'the mailbox is switched off',
  '2.2': 'the mailbox is full',
  '2.3': 'the message is too long for the mailbox',
  '3': 'the mail system',
  '3.1': 'the mail system is full',
  '3.2': 'the mail system takes nothing just now',
  '3.4': 'the message is too big for the mail system',
  '4': 'the way there',
  '4.1': 'the mail server did not answer',
  '4.2': 'the connection broke',
  '4.4': 'nobody knows the way to the mail server',
  '4.6': 'the message went in circles',
  '4.7': 'it took too long to get through',
  '5': 'the conversation of the mail servers',
  '6': 'what the message contains',
  '7': 'a rule of the mail server',
  '7.1': 'the mail server does not take messages from this sender',
}

/** A status code in words; empty: there is none, or it says nothing. */
export function statusWords(status: string | null): string {
  const [, subject = '', detail = ''] = status?.split('.') ?? []
  return words[`${subject}.${detail}`] ?? words[subject] ?? ''
}

/** The action that a report without one means. */
export const actionOfCode = (code: string | null): DeliveryAction =>
  code === null || code.startsWith('5') ? 'failed' : code.startsWith('4') ? 'delayed' : 'delivered'
