import { simpleParser, type AddressObject } from 'mailparser'
import type { MailboxView, MailLine, MailView } from '#core/api/mailboxViews.ts'
import { unescapeHtml } from '#core/letters/html.ts'
import type { PostOfficeFile, StoredMail } from './postOffice/file.ts'

const addressText = (field: AddressObject | AddressObject[] | undefined) =>
  [field ?? []]
    .flat()
    .map(({ text }) => text)
    .join(', ')

async function line(mail: StoredMail): Promise<MailLine> {
  const parsed = await simpleParser(mail.source)
  return {
    id: mail.id,
    receivedAt: mail.receivedAt,
    from: addressText(parsed.from),
    subject: parsed.subject ?? '',
    beginning: (parsed.text ?? '').replace(/\s+/g, ' ').slice(0, 140),
  }
}

/** What lies in one made-up mailbox, the newest first. */
export async function readMailbox(file: PostOfficeFile, address: string): Promise<MailboxView> {
  return { address, messages: await Promise.all(file.mailOf(address).map(line)) }
}

/** The web links of a page, with the words they stand behind. */
function linksIn(html: string): MailView['links'] {
  return [...html.matchAll(/<a\b[^>]*? href="(https?:[^"]*)"[^>]*>(.*?)<\/a>/gs)].map(
    ([, href = '', inner = '']) => ({
      url: unescapeHtml(href),
      words: unescapeHtml(inner.replace(/<[^>]*>/g, ' '))
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, 80),
    }),
  )
}

function openingIn(html: string): string | null {
  const source = /<img src="(https?:[^"]*\/seen\/[^"]*)"/.exec(html)?.[1]
  return source === undefined ? null : unescapeHtml(source)
}

/** The picture of a message that tells that it was opened; null: it has none. */
export async function openingPicture(mail: StoredMail): Promise<string | null> {
  const { html } = await simpleParser(mail.source)
  return openingIn(html || '')
}

/** One message as its receiver's mail program would see it. */
export async function readMail(file: PostOfficeFile, id: number): Promise<MailView | null> {
  const mail = file.mail(id)
  if (!mail) return null
  const parsed = await simpleParser(mail.source)
  return {
    ...(await line(mail)),
    address: mail.address,
    to: addressText(parsed.to),
    messageId: mail.messageId,
    text: parsed.text ?? '',
    hasHtml: parsed.html !== false,
    source: mail.source.toString('utf8'),
    links: linksIn(parsed.html || ''),
    tellsOpening: openingIn(parsed.html || '') !== null,
    attachments: parsed.attachments
      // What stands beside the words is for calendars, and there once more as a file.
      .filter(({ filename, contentType }) => filename !== undefined || contentType !== 'text/calendar')
      .map(({ filename, contentType, size }) => ({
        name: filename ?? 'without a name',
        type: contentType,
        size,
      })),
  }
}

/** The HTML part of a message; null when there is no such message or part. */
export async function readMailHtml(file: PostOfficeFile, id: number): Promise<string | null> {
  const mail = file.mail(id)
  const html = mail && (await simpleParser(mail.source)).html
  return html || null
}
