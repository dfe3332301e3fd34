import { describe, expect, test } from '@jest/globals'
import { kindOf } from '#core/incoming/kindOf.ts'
import { deliveryReportOf } from '#core/incoming/deliveryReport.ts'
import { outcomeOf, statusWords } from '#core/incoming/statusCode.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { mailOf } from '../../testing/mails.ts'
import { readMail } from './readMail.ts'

/* Mail that programs send, as the standards show it. The texts of the examples are from memory. */

const today = epochDayOf('2026-05-14')
const unknown = { from: null, to: [] }

/** A report with the fields of an example in it. */
const withFields = (fields: string) =>
  mailOf({
    from: 'Mail Delivery Subsystem <MAILER-DAEMON@cs.utk.edu>',
    subject: 'Returned mail',
    headers: [
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="RAA14128.773615765/CS.UTK.EDU"',
    ],
    text: [
      '--RAA14128.773615765/CS.UTK.EDU',
      '',
      'The original message was received at Sat, 2 Jul 1994 17:10:28 -0400',
      '',
      '--RAA14128.773615765/CS.UTK.EDU',
      'content-type: message/delivery-status',
      '',
      fields,
      '',
      '--RAA14128.773615765/CS.UTK.EDU',
      'content-type: message/rfc822',
      '',
      'Message-ID: <199407021710.AA1@cs.utk.edu>',
      '',
      'The original message.',
      '--RAA14128.773615765/CS.UTK.EDU--',
    ].join('\n'),
  })

const read = (source: Buffer) => readMail(source, unknown)

async function reportsOf(fields: string) {
  const mail = await read(withFields(fields))
  const what = kindOf(mail, today)
  if (what.kind !== 'delivery report') throw new Error(`It is taken for: ${what.kind}`)
  return what.reports.map((report) => [report.address, report.action, report.status, outcomeOf(report)])
}

describe('RFC 3464, appendix E', () => {
  test('E.1: a report of the own mail server after attempts for days', async () => {
    const fields = [
      'Reporting-MTA: dns; cs.utk.edu',
      '',
      'Original-Recipient: rfc822;louisl@larry.slip.umd.edu',
      'Final-Recipient: rfc822;louisl@larry.slip.umd.edu',
      'Action: failed',
      'Status: 4.0.0',
      'Diagnostic-Code: smtp; 426 connection timed out',
      'Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400',
    ].join('\n')
    expect(await reportsOf(fields)).toEqual([['louisl@larry.slip.umd.edu', 'failed', '4.0.0', 'try again']])
    expect(deliveryReportOf(await read(withFields(fields))).messageIds).toEqual([
      '<199407021710.AA1@cs.utk.edu>',
    ])
  })

  test('E.2: several recipients, comments behind the codes, a field over two lines', async () => {
    const fields = [
      'Reporting-MTA: dns; cs.utk.edu',
      '',
      'Original-Recipient: rfc822;arathib@vnet.ibm.com',
      'Final-Recipient: rfc822;arathib@vnet.ibm.com',
      'Action: failed',
      'Status: 5.0.0 (permanent failure)',
      'Diagnostic-Code: smtp;',
      " 550 'arathib@vnet.IBM.COM' is not a registered gateway user",
      'Remote-MTA: dns; vnet.ibm.com',
      '',
      'Original-Recipient: rfc822;johnh@hpnjld.njd.hp.com',
      'Final-Recipient: rfc822;johnh@hpnjld.njd.hp.com',
      'Action: delayed',
      'Status: 4.0.0 (hpnjld.njd.jp.com: host name lookup failure)',
      '',
      'Original-Recipient: rfc822;wsnell@sdcc13.ucsd.edu',
      'Final-Recipient: rfc822;wsnell@sdcc13.ucsd.edu',
      'Action: failed',
      'Status: 5.0.0',
      'Diagnostic-Code: smtp; 550 user unknown',
      'Remote-MTA: dns; sdcc13.ucsd.edu',
    ].join('\n')
    expect(await reportsOf(fields)).toEqual([
      ['arathib@vnet.ibm.com', 'failed', '5.0.0', 'address gone'],
      ['johnh@hpnjld.njd.hp.com', 'delayed', '4.0.0', 'delayed'],
      ['wsnell@sdcc13.ucsd.edu', 'failed', '5.0.0', 'address gone'],
    ])
  })

  test('E.3: of a mail system that is none of the Internet: it names no address', async () => {
    const fields = [
      'Reporting-MTA: mailbus; SYS30',
      '',
      'Final-Recipient: unknown; nair_s',
      'Status: 5.0.0 (unknown permanent failure)',
      'Action: failed',
    ].join('\n')
    expect(await reportsOf(fields)).toEqual([['', 'failed', '5.0.0', 'address gone']])
  })

  test('E.4: a delay', async () => {
    const fields = [
      'Reporting-MTA: dns; sun2.nsfnet-relay.ac.uk',
      '',
      'Final-Recipient: rfc822;thomas@de-montfort.ac.uk',
      'Status: 4.0.0 (unknown temporary failure)',
      'Action: delayed',
    ].join('\n')
    expect(await reportsOf(fields)).toEqual([['thomas@de-montfort.ac.uk', 'delayed', '4.0.0', 'delayed']])
  })
})

describe('status codes of RFC 3463', () => {
  test.each([
    ['5.1.1', 'address gone', 'there is no such mailbox'],
    ['5.1.2', 'address gone', 'there is no such mail server'],
    ['5.2.1', 'address gone', 'the mailbox is switched off'],
    ['5.7.1', 'address gone', 'the mail server does not take messages from this sender'],
    ['5.2.2', 'mailbox full', 'the mailbox is full'],
    ['4.2.2', 'mailbox full', 'the mailbox is full'],
    ['5.2.3', 'message refused', 'the message is too long for the mailbox'],
    ['5.3.4', 'message refused', 'the message is too big for the mail system'],
    ['4.4.1', 'try again', 'the mail server did not answer'],
    ['4.4.7', 'try again', 'it took too long to get through'],
    ['5.4.4', 'address gone', 'nobody knows the way to the mail server'],
    ['5.9.9', 'address gone', ''],
  ] as const)('%s: %s', (status, outcome, words) => {
    expect(outcomeOf({ action: 'failed', status, diagnostic: '' })).toBe(outcome)
    expect(statusWords(status)).toBe(words)
  })

  test('other actions than a failure (RFC 3464 2.3.3)', () => {
    const of = (action: 'delayed' | 'delivered' | 'relayed' | 'expanded') =>
      outcomeOf({ action, status: '2.1.5', diagnostic: '' })
    expect(of('delayed')).toBe('delayed')
    expect((['delivered', 'relayed', 'expanded'] as const).map(of)).toEqual(['arrived', 'arrived', 'arrived'])
  })
})

const kindOfMail = async (source: Buffer, from: string | null = null) =>
  kindOf(await readMail(source, { from, to: [] }), today)

describe('automatic mail (RFC 3834)', () => {
  test.each([
    'auto-replied',
    'auto-generated',
    'auto-notified; owner-email="x@y.example"',
    '(comment) auto-replied',
  ])('Auto-Submitted: %s is no answer', async (value) => {
    expect((await kindOfMail(mailOf({ headers: [`Auto-Submitted: ${value}`] }))).kind).toBe('automatic reply')
  })

  test('Auto-Submitted: no is what a person wrote', async () => {
    expect(await kindOfMail(mailOf({ headers: ['Auto-Submitted: no'] }))).toEqual({ kind: 'answer' })
    expect(await kindOfMail(mailOf({ headers: ['Auto-Submitted: NO (really)'] }))).toEqual({ kind: 'answer' })
  })

  test('from a list, or in bulk: nobody’s answer (RFC 2919; Precedence is common practice, no source)', async () => {
    expect((await kindOfMail(mailOf({ headers: ['List-Id: <news.place.example>'] }))).kind).toBe(
      'automatic reply',
    )
    expect((await kindOfMail(mailOf({ headers: ['Precedence: bulk'] }))).kind).toBe('automatic reply')
  })

  test('by its subject, with the day its person is back', async () => {
    const away = mailOf({
      subject: 'Automatic reply: Your lesson',
      text: 'I am out of the office and will be back on 20 May 2026.',
    })
    expect(await kindOfMail(away)).toEqual({ kind: 'automatic reply', returnsOn: '2026-05-20' })
    const fort = mailOf({
      subject: 'Abwesenheitsnotiz: Ihre Stunde',
      text: 'Ich bin bis einschließlich 22. Mai nicht im Büro.',
    })
    expect(await kindOfMail(fort)).toEqual({ kind: 'automatic reply', returnsOn: '2026-05-23' })
  })

  test('by nothing but its words it is not sure, and a person looks', async () => {
    const words = mailOf({ subject: 'Re: Your lesson', text: 'I am out of the office until Friday.' })
    expect((await kindOfMail(words)).kind).toBe('unclear')
    expect((await kindOfMail(mailOf(), '')).kind).toBe('unclear')
  })

  test('that a message was displayed is no answer (RFC 8098)', async () => {
    const shown = mailOf({
      headers: [
        'MIME-Version: 1.0',
        'Content-Type: multipart/report; report-type=disposition-notification; boundary="b"',
      ],
      text: '--b\n\nIt was displayed.\n--b\nContent-Type: message/disposition-notification\n\nDisposition: manual-action/MDN-sent-manually; displayed\n--b--',
    })
    expect((await kindOfMail(shown)).kind).toBe('automatic reply')
  })
})

describe('complaints (RFC 5965, appendix B)', () => {
  const report = (fields: string) =>
    mailOf({
      from: '<abusedesk@example.com>',
      to: '<abuse@example.net>',
      subject: 'FW: Earn money',
      headers: [
        'MIME-Version: 1.0',
        'Content-Type: multipart/report; report-type=feedback-report; boundary="part1_13d.2e68ed54_boundary"',
      ],
      text: [
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: text/plain; charset="US-ASCII"',
        'Content-Transfer-Encoding: 7bit',
        '',
        'This is an email abuse report for an email message received from IP',
        '192.0.2.1 on Thu, 8 Mar 2005 14:00:00 EDT.',
        '',
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: message/feedback-report',
        '',
        fields,
        '',
        '--part1_13d.2e68ed54_boundary',
        'Content-Type: message/rfc822',
        'Content-Disposition: inline',
        '',
        'From: <somespammer@example.net>',
        'Message-ID: 8787KJKJ3K4J3K4J3K4J3.mail@example.net',
        'Subject: Earn money',
        '',
        'Spam Spam Spam',
        '--part1_13d.2e68ed54_boundary--',
      ].join('\n'),
    })

  test('B.1: the simple report', async () => {
    const simple = report('Feedback-Type: abuse\nUser-Agent: SomeGenerator/1.0\nVersion: 1')
    expect(await kindOfMail(simple)).toEqual({ kind: 'complaint', about: 'abuse' })
  })

  test('B.2: the full report', async () => {
    const full = report(
      [
        'Feedback-Type: abuse',
        'User-Agent: SomeGenerator/1.0',
        'Version: 1',
        'Original-Mail-From: <somespammer@example.net>',
        'Original-Rcpt-To: <user@example.com>',
        'Arrival-Date: Thu, 8 Mar 2005 14:00:00 EDT',
        'Reporting-MTA: dns; mail.example.com',
        'Source-IP: 192.0.2.1',
      ].join('\n'),
    )
    expect(await kindOfMail(full)).toEqual({ kind: 'complaint', about: 'abuse' })
  })

  test('a report of a failed signature is nobody’s complaint (RFC 6591)', async () => {
    expect((await kindOfMail(report('Feedback-Type: auth-failure\nVersion: 1'))).kind).toBe('automatic reply')
  })
})

describe('reports that are words alone (common practice, no source)', () => {
  const inWords = (subject: string, text: string, from = 'MAILER-DAEMON@mx.example') =>
    mailOf({ from, subject, text })
  const reportIn = async (source: Buffer) => {
    const what = await kindOfMail(source, '')
    return what.kind === 'delivery report' ? what.reports[0] : what
  }

  test('with a reply code and the address near it', async () => {
    const text = [
      "Hi. This is the mail server at mx.example. I'm afraid I wasn't able to deliver your message.",
      '',
      '<enno@brackwater.example>:',
      '550 user unknown',
      '',
      '--- Below this line is a copy of the message.',
      'Message-ID: <sd_1@kiteworks.example>',
    ].join('\n')
    const report = await reportIn(inWords('failure notice', text))
    expect(report).toMatchObject({ address: 'enno@brackwater.example', action: 'failed', status: '5.0.0' })
    const mail = await read(inWords('failure notice', text))
    expect(deliveryReportOf(mail).messageIds).toContain('<sd_1@kiteworks.example>')
  })

  test('in German, with a status code', async () => {
    const text = 'Ihre Nachricht an enno@brackwater.example konnte nicht zugestellt werden: 5.1.1 unbekannt'
    expect(await reportIn(inWords('Unzustellbar: Ihre Stunde', text, 'postmaster@mx.example'))).toMatchObject(
      {
        address: 'enno@brackwater.example',
        status: '5.1.1',
      },
    )
  })

  test('a delay', async () => {
    const text =
      'Delivery to enno@brackwater.example is delayed: 4.4.1. We are still trying; no need to do anything.'
    expect(await reportIn(inWords('Delivery delayed', text))).toMatchObject({
      action: 'delayed',
      status: '4.4.1',
    })
  })

  test('with its recipient in a field of the header', async () => {
    const failed = mailOf({
      from: 'Mail Delivery Subsystem <mailer-daemon@mx.example>',
      subject: 'Delivery Status Notification (Failure)',
      headers: ['X-Failed-Recipients: enno@brackwater.example'],
      text: 'The response was: 550 5.1.1 no such user',
    })
    expect(await reportIn(failed)).toMatchObject({ address: 'enno@brackwater.example', status: '5.1.1' })
  })

  test('somebody who writes about a delivery is a person', async () => {
    const asked = mailOf({
      subject: 'Delivery failed',
      text: 'The delivery of the voucher failed, can you send it again?',
    })
    expect(await kindOfMail(asked, 'enno@brackwater.example')).toEqual({ kind: 'answer' })
  })
})

test('a challenge is none of these', async () => {
  const asked = mailOf({
    subject: 'Please confirm your message',
    text: 'To prove that you are a real person and not a robot, please click the link to have your mail delivered.',
  })
  expect((await kindOfMail(asked)).kind).toBe('challenge')
})
