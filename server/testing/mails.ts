/** What a mail that comes in says; the rest is made up. */
export interface MailWords {
  readonly from?: string
  readonly to?: string
  readonly subject?: string
  readonly text?: string
  readonly messageId?: string | null
  readonly inReplyTo?: string | null
  /** Further header fields, as they are written. */
  readonly headers?: readonly string[]
}

let count = 0

/** A plain mail as a mail program writes it (RFC 5322). */
export function mailOf({
  from = 'Enno Brackwater <enno@brackwater.example>',
  to = 'hello@kiteworks.example',
  subject = 'Re: Your lesson',
  text = 'Thank you, that works for us.',
  messageId = `<mail-${(count += 1)}@brackwater.example>`,
  inReplyTo = null,
  headers = [],
}: MailWords = {}): Buffer {
  const lines = [
    'Date: Thu, 14 May 2026 10:00:00 +0200',
    `From: ${from}`,
    `To: ${to}`,
    `Subject: ${subject}`,
    ...(messageId === null ? [] : [`Message-ID: ${messageId}`]),
    ...(inReplyTo === null ? [] : [`In-Reply-To: ${inReplyTo}`, `References: ${inReplyTo}`]),
    ...headers,
    ...(headers.some((field) => /^content-type:/i.test(field))
      ? []
      : ['MIME-Version: 1.0', 'Content-Type: text/plain; charset=utf-8', 'Content-Transfer-Encoding: 8bit']),
    '',
    text,
    '',
  ]
  return Buffer.from(lines.join('\n').replace(/\r?\n/g, '\r\n'))
}

const boundary = '----=_a_report'

/** Parts of a multipart mail, each with its type. */
const multipart = (parts: readonly (readonly [type: string, text: string])[]) =>
  [...parts.map(([type, text]) => `--${boundary}\nContent-Type: ${type}\n\n${text}`), `--${boundary}--`].join(
    '\n',
  )

interface ReportWords {
  /** The Message-ID of what it brings back; null: it brings nothing back. */
  readonly about: string | null
  readonly address?: string
  readonly action?: string
  readonly status?: string
  readonly said?: string
}

const brought = (about: string | null) =>
  about === null ? [] : ([['text/rfc822-headers', `Message-ID: ${about}\nSubject: Your lesson\n`]] as const)

/** A delivery report of RFC 3464. */
export function deliveryReport({
  about,
  address = 'enno@brackwater.example',
  action = 'failed',
  status = '5.1.1',
  said = '550 5.1.1 user unknown',
}: ReportWords): Buffer {
  const fields = [
    'Reporting-MTA: dns; mx.brackwater.example',
    '',
    `Final-Recipient: rfc822; ${address}`,
    `Action: ${action}`,
    `Status: ${status}`,
    `Diagnostic-Code: smtp; ${said}`,
    '',
  ].join('\n')
  return mailOf({
    from: 'Mail Delivery System <MAILER-DAEMON@mx.brackwater.example>',
    subject: 'Undelivered Mail Returned to Sender',
    headers: [
      'Auto-Submitted: auto-replied',
      'MIME-Version: 1.0',
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
    ],
    text: multipart([
      ['text/plain', 'It could not be delivered.\n'],
      ['message/delivery-status', fields],
      ...brought(about),
    ]),
  })
}

/** A complaint in the form of RFC 5965. */
export const complaintAbout = (about: string): Buffer =>
  mailOf({
    from: 'Abuse Desk <abusedesk@mailhost.example>',
    subject: 'FW: Your lesson',
    headers: [
      'MIME-Version: 1.0',
      `Content-Type: multipart/report; report-type=feedback-report; boundary="${boundary}"`,
    ],
    text: multipart([
      ['text/plain', 'This is an email abuse report.\n'],
      ['message/feedback-report', 'Feedback-Type: abuse\nUser-Agent: SomeGenerator/1.0\nVersion: 1\n'],
      ['message/rfc822', `Message-ID: ${about}\nSubject: Your lesson\n\nHello.\n`],
    ]),
  })

/** A reply to an invitation (RFC 5546 3.2.3). */
export const invitationReply = (uid: string, status: string): Buffer =>
  mailOf({
    subject: `${status}: Kite lesson`,
    headers: ['MIME-Version: 1.0', `Content-Type: multipart/alternative; boundary="${boundary}"`],
    text: multipart([
      ['text/plain', 'Enno has replied.\n'],
      [
        'text/calendar; method=REPLY; charset=utf-8',
        [
          'BEGIN:VCALENDAR',
          'VERSION:2.0',
          'METHOD:REPLY',
          'BEGIN:VEVENT',
          `UID:${uid}`,
          'ORGANIZER:mailto:hello@kiteworks.example',
          `ATTENDEE;PARTSTAT=${status}:mailto:enno@brackwater.example`,
          'END:VEVENT',
          'END:VCALENDAR',
          '',
        ].join('\n'),
      ],
    ]),
  })
