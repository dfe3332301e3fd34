import { randomUUID } from 'node:crypto'
import { simpleParser, type ParsedMail } from 'mailparser'
import type { ClientReaction } from '#core/model/clientReaction.ts'
import type { StoredMail } from './file.ts'

/*
 * What a made-up client does with a message: a mail as mail programs and mail servers write it.
 */

interface Reaction {
  readonly mail: StoredMail
  readonly parsed: ParsedMail
  readonly text: string
  /** Business time. */
  readonly at: number
}

/** A mail and who its envelope says it is from; empty: a program, which wants no answer. */
interface Composed {
  readonly from: string
  readonly lines: readonly string[]
}

const boundary = '=_post-office'

const domainOf = (address: string) => address.slice(address.lastIndexOf('@') + 1)

const header = (
  { mail, at }: Reaction,
  from: string,
  subject: string,
  type: string,
  more: readonly string[] = [],
) => [
  `Date: ${new Date(at).toUTCString().replace('GMT', '+0000')}`,
  `From: ${from}`,
  `Subject: ${subject}`,
  `Message-ID: <${randomUUID()}@${domainOf(mail.address)}>`,
  ...more,
  'MIME-Version: 1.0',
  `Content-Type: ${type}`,
]

const multipart = (parts: readonly (readonly [type: string, text: string])[]) => [
  ...parts.flatMap(([type, text]) => [`--${boundary}`, `Content-Type: ${type}`, '', text, '']),
  `--${boundary}--`,
]

const thread = ({ mail, parsed }: Reaction) => {
  const before = [parsed.references ?? []].flat().join(' ')
  return [`In-Reply-To: ${mail.messageId}`, `References: ${before} ${mail.messageId}`.replace(/: +/, ': ')]
}

const plain = 'text/plain; charset=utf-8'

function answer(of: Reaction): Composed {
  const { mail, parsed, text, at } = of
  const subject = parsed.subject ?? ''
  const quoted = (parsed.text ?? '').split('\n').map((line) => `> ${line}`)
  const lines = [
    ...header(of, mail.address, /^re:/i.test(subject) ? subject : `Re: ${subject}`, plain, [
      ...thread(of),
      'Content-Transfer-Encoding: 8bit',
    ]),
    '',
    text,
    '',
    `On ${new Date(at).toUTCString()} ${parsed.from?.text ?? ''} wrote:`,
    ...quoted,
  ]
  return { from: mail.address, lines }
}

function automaticReply(of: Reaction): Composed {
  const subject = `Automatic reply: ${of.parsed.subject ?? ''}`
  const more = [...thread(of), 'Auto-Submitted: auto-replied', 'Content-Transfer-Encoding: 8bit']
  return { from: '', lines: [...header(of, of.mail.address, subject, plain, more), '', of.text] }
}

const brought = ({ mail, parsed }: Reaction) =>
  ['text/rfc822-headers', `Message-ID: ${mail.messageId}\nSubject: ${parsed.subject ?? ''}`] as const

/** RFC 3464. */
function cameBack(of: Reaction, status: string, said: string): Composed {
  const { mail } = of
  const fields = [
    `Reporting-MTA: dns; mx.${domainOf(mail.address)}`,
    '',
    `Final-Recipient: rfc822; ${mail.address}`,
    'Action: failed',
    `Status: ${status}`,
    `Diagnostic-Code: smtp; ${said}`,
  ].join('\n')
  const lines = [
    ...header(
      of,
      `Mail Delivery System <mailer-daemon@mx.${domainOf(mail.address)}>`,
      'Undelivered mail returned to sender',
      `multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      ['Auto-Submitted: auto-replied'],
    ),
    '',
    ...multipart([
      ['text/plain', 'It could not be delivered.'],
      ['message/delivery-status', fields],
      brought(of),
    ]),
  ]
  return { from: '', lines }
}

/** RFC 5965. */
function complaint(of: Reaction): Composed {
  const from = `Abuse desk <abuse@${domainOf(of.mail.address)}>`
  const type = `multipart/report; report-type=feedback-report; boundary="${boundary}"`
  const lines = [
    ...header(of, from, `Complaint: ${of.parsed.subject ?? ''}`, type),
    '',
    ...multipart([
      ['text/plain', 'This is an email abuse report.'],
      ['message/feedback-report', 'Feedback-Type: abuse\nUser-Agent: post-office/1\nVersion: 1'],
      brought(of),
    ]),
  ]
  return { from: '', lines }
}

/** RFC 5546 3.2.3; without an invitation there is nothing to decline. */
function decline(of: Reaction): Composed | null {
  const invitation = of.parsed.attachments.find(({ contentType }) => contentType === 'text/calendar')
  const uid = /^UID:(.*)$/m.exec(invitation?.content.toString('utf8') ?? '')?.[1]?.trim()
  if (uid === undefined) return null
  const reply = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'METHOD:REPLY',
    'BEGIN:VEVENT',
    `UID:${uid}`,
    `ATTENDEE;PARTSTAT=DECLINED:mailto:${of.mail.address}`,
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\n')
  const type = `multipart/alternative; boundary="${boundary}"`
  const lines = [
    ...header(of, of.mail.address, `Declined: ${of.parsed.subject ?? ''}`, type),
    '',
    ...multipart([
      ['text/plain', 'Declined.'],
      ['text/calendar; method=REPLY; charset=utf-8', reply],
    ]),
  ]
  return { from: of.mail.address, lines }
}

const composed: Readonly<Record<ClientReaction, (of: Reaction) => Composed | null>> = {
  answer,
  'automatic reply': automaticReply,
  'no such mailbox': (of) => cameBack(of, '5.1.1', '550 5.1.1 user unknown'),
  'mailbox full': (of) => cameBack(of, '5.2.2', '552 5.2.2 mailbox full'),
  complaint,
  decline,
}

/** A mail of a made-up client, with its envelope. */
export interface ReactionMail {
  readonly from: string
  readonly to: string
  readonly source: Buffer
}

/** What a made-up client writes about a message; null: that cannot be done with this one. */
export async function reactionTo(
  mail: StoredMail,
  reaction: ClientReaction,
  text: string,
  at: number,
): Promise<ReactionMail | null> {
  const parsed = await simpleParser(mail.source)
  const made = composed[reaction]({ mail, parsed, text, at })
  const to = (parsed.replyTo ?? parsed.from)?.value[0]?.address
  if (!made || to === undefined) return null
  // A report and a complaint go to the envelope sender, which is that of the From field here.
  const isReport = made.from === '' && reaction !== 'automatic reply'
  const target = isReport ? (parsed.from?.value[0]?.address ?? to) : to
  const [first = '', ...others] = made.lines
  const source = [first, `To: ${target}`, ...others].join('\n').replace(/\r?\n/g, '\r\n')
  return { from: made.from, to: target, source: Buffer.from(`${source}\r\n`) }
}
