import { domainOf } from '#core/model/values.ts'
import { setImmediate as breathe } from 'node:timers/promises'
import { messagesOfMbox } from '../mail/mbox.ts'
import { mainAccountId } from '#core/model/furtherAccount.ts'
import { randomUUID } from 'node:crypto'
import { simpleParser } from 'mailparser'
import type { MergeFactsView } from '#core/api/letterEndpoints.ts'
import { attached, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { actUrlsBy } from '#core/model/clientAct.ts'
import { letterWith } from '#core/letters/content.ts'
import { fieldInfo } from '#core/letters/fieldList.ts'
import { mergeLetter } from '#core/letters/merge.ts'
import { letterFor } from '#core/letters/variants.ts'
import type { Inline, LetterContent } from '#core/model/letter.ts'
import type { Settings } from '#core/planning/slice.ts'
import { readFile } from '../db/letterStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { composeMessage } from '../mail/compose.ts'
import { factsAtSending } from './facts.ts'

function withTestLinks(view: MergeFactsView, publicUrl: string): MergeFactsView {
  const url = `${publicUrl}/test`
  const orNone = (link: string) => (link === '' ? '' : url)
  const { bookingUrl, payUrl, actUrls } = view
  return {
    ...view,
    optOutUrl: url,
    allUrl: url,
    bookingUrl: orNone(bookingUrl),
    actUrls: actUrlsBy((act) => orNone(actUrls[act])),
    payUrl: orNone(payUrl),
  }
}

/** What names a message that is no client's, in the domain of the business. */
export const newMessageId = ({ business }: Pick<Settings, 'business'>) =>
  `<${randomUUID()}@${domainOf(business.senderAddress)}>`

/** A letter's words as a message to one client, or the refusal that says what is missing. */
export function messageOf(
  running: RunningApplication,
  content: LetterContent,
  clientId: string,
  bookingId: string | null,
  letterId: string,
  to: { readonly name: string; readonly address: string },
): OutgoingMessage {
  const { application } = running
  const settings = application.settings.required()
  // Nobody but the client may hold the client's own links.
  const view = withTestLinks(
    factsAtSending(running, clientId, bookingId, letterId).facts,
    running.publicUrl(),
  )
  const { zones } = settings
  const readerZone = view.client.zone === null ? null : zones.zone(view.client.zone)
  const facts = { ...view, zone: zones.zone(view.zoneName), readerZone }
  const own = letterFor(letterWith(content), { serviceId: view.service?.id ?? null, client: view.client })
  const merged = mergeLetter(own, settings.passages, facts)
  if (!merged.ok) {
    const names = merged.missing.map((field) => fieldInfo(field).label).join(', ')
    throw new Refusal('not allowed now', `It would be held for this client: ${names} is missing.`)
  }
  const { senderName, senderAddress } = settings.business
  const { subject, html, text, pictureIds, attachments } = merged.letter
  return {
    messageId: newMessageId(settings),
    from: { name: senderName, address: senderAddress },
    replyTo: null,
    to,
    subject,
    html,
    text,
    at: application.clock.now(),
    pictureIds,
    ...attached(attachments, facts),
    optOutUrl: content.class === 'promotional' ? view.optOutUrl : null,
    told: { booking: null, lines: null },
    toSign: [],
  }
}

/** Hands a test copy over to the mail account at once, beside the outbox. */
export async function sendTestCopy(
  { application, accounts }: RunningApplication,
  message: OutgoingMessage,
  accountId = mainAccountId,
) {
  const source = await composeMessage(message, (id) => readFile(application.store.statements, id))
  const account = accounts.of(accountId) ?? accounts.main
  const outcome = await account.deliver({ from: message.from.address, to: message.to.address }, source)
  if (outcome.kind === 'accepted') return
  const sentence =
    outcome.kind === 'in doubt'
      ? 'The connection was lost while the test copy was handed over: it may have gone.'
      : `The mail account did not take the test copy: ${outcome.answer}`
  throw new Refusal('refused', sentence)
}

/** So many mails of one file are read, the newest last as they stand in it. */
const mostMails = 200
/** A letter has no longer text. */
const longestText = 50_000

/** The mails of a file, one or an mbox: what of each can become a letter. Others have their turn between. */
export async function mailsOf(file: Buffer) {
  const sources = messagesOfMbox(file.toString('latin1'))
  const mails: { subject: string; from: string; at: number | null; text: string }[] = []
  for (const source of sources.slice(-mostMails)) {
    const { subject = '', from, date, text = '' } = await simpleParser(Buffer.from(source, 'latin1'))
    if (text.trim() === '') continue
    mails.push({
      subject: subject.slice(0, 300),
      from: (from?.text ?? '').slice(0, 300),
      at: date && !Number.isNaN(date.getTime()) ? date.getTime() : null,
      text: text.trim().slice(0, longestText),
    })
    await breathe()
  }
  if (mails.length === 0) throw new Refusal('invalid', 'There is no mail with a text in this file.')
  return { mails, isCut: sources.length > mostMails }
}

/** A mail as the words of a letter: its subject, and its text paragraph by paragraph. */
export async function contentOfMail(name: string, text: string): Promise<LetterContent> {
  const mail = await simpleParser(text)
  const body = (mail.text ?? '').trim()
  if (body === '') throw new Refusal('malformed', 'There is no text in this mail.')
  const paragraphs = body
    .split(/\n{2,}/)
    .map((paragraph): Inline[] => [{ kind: 'text', text: paragraph.replace(/\s*\n\s*/g, ' ').trim() }])
  return {
    name: (mail.subject ?? name).slice(0, 120),
    moment: 'any time',
    class: 'service',
    language: 'en',
    letterhead: 'none',
    subject: [{ kind: 'text', text: mail.subject ?? '' }],
    preheader: [],
    sections: [{ id: 'text', kind: 'text', paragraphs }],
    variants: [],
    attachments: [],
    isUnnoticed: false,
  }
}
