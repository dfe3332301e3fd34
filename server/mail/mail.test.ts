import type { AddressInfo } from 'node:net'
import { describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { composeMessage } from './compose.ts'
import { startFaultingServer } from '../testing/faultingServer.ts'
import { accountAt, createSmtpSender } from './smtpSender.ts'
import { outcomeOfFault, type SmtpFault, type Stage } from './whoseFault.ts'

const message: OutgoingMessage = {
  messageId: '<sd_1@kiteworks.example>',
  from: { name: 'Kiteworks', address: 'hello@kiteworks.example' },
  to: { name: 'Henrike Oßwald, née Коваленко', address: 'henrike@osswald.example' },
  replyTo: null,
  pictureIds: [],
  files: [],
  appointment: null,
  optOutUrl: null,
  told: { booking: null, lines: null },
  toSign: [],
  subject: `Übermorgen geht es los 🎈 ${'sehr '.repeat(80)}bald`,
  html: `<!doctype html><p>${'Grüße '.repeat(400)}</p>`,
  text: `${'Grüße '.repeat(400)}\n`,
  at: Date.UTC(2026, 4, 14, 5, 40),
}

describe('a composed message, read back by an independent MIME parser', () => {
  test('has both parts, the names, the date and the Message-ID', async () => {
    const parsed = await simpleParser(await composeMessage(message))
    expect(parsed.messageId).toBe(message.messageId)
    expect(parsed.subject).toBe(message.subject)
    expect(parsed.date?.getTime()).toBe(message.at)
    expect([parsed.to].flat()[0]?.value[0]?.name).toBe(message.to.name)
    expect(parsed.text).toContain('Grüße Grüße')
    expect(parsed.html).toContain('Grüße Grüße')
    expect(parsed.headers.get('auto-submitted')).toBe('auto-generated')
  })

  test('has no line over 998 octets and only CR LF line ends (RFC 5322 2.1.1, 2.3)', async () => {
    const source = await composeMessage({
      ...message,
      html: `<p>${'x'.repeat(5000)}</p>`,
      text: 'y'.repeat(5000),
    })
    const lines = source.toString('latin1').split('\r\n')
    expect(Math.max(...lines.map((line) => line.length))).toBeLessThanOrEqual(998)
    expect(source.toString('latin1').replaceAll('\r\n', '')).not.toMatch(/[\r\n]/)
  })

  test('takes no header from a value', async () => {
    const source = await composeMessage({
      ...message,
      subject: 'Hello\r\nBcc: everybody@list.example',
      to: { ...message.to, name: 'A\r\nX-Evil: 1' },
    })
    const parsed = await simpleParser(source)
    expect(parsed.bcc).toBeUndefined()
    expect(parsed.headers.has('x-evil')).toBe(false)
  })
})

const oneSender = (port: number) =>
  createSmtpSender(
    { host: '127.0.0.1', port, isSecure: false, turnsToTls: 'never', signIn: null },
    { size: 1 },
  )
const envelope = { from: 'a@kiteworks.example', to: 'b@mail.example' }

describe('what a failed attempt means, by the command at which it came', () => {
  const fault = (responseCode?: number, more: object = {}) =>
    Object.assign(new Error('x'), responseCode === undefined ? {} : { responseCode }, more)
  const sending = (answers: number, hadBegun = false): Stage => ({ at: 'sending', answers, hadBegun })
  const at = (command: string) => ({ command })

  test.each<[string, SmtpFault, Stage, string]>([
    ['no connection', fault(), { at: 'opening' }, 'away'],
    ['greeting 554', fault(554), { at: 'opening' }, 'not let in'],
    ['greeting 421', fault(421), { at: 'opening' }, 'away'],
    ['EHLO 550', fault(550, at('EHLO')), { at: 'opening' }, 'not let in'],
    ['STARTTLS 454', fault(454, at('STARTTLS')), { at: 'opening' }, 'unsafe'],
    ['a certificate of nobody', fault(undefined, { code: 'ETLS' }), { at: 'opening' }, 'unsafe'],
    ['AUTH 535', fault(535), { at: 'signing in' }, 'sign-in refused'],
    ['AUTH 454', fault(454), { at: 'signing in' }, 'away'],
    ['AUTH, line lost', fault(), { at: 'signing in' }, 'away'],
    ['MAIL 550', fault(550, at('MAIL FROM')), sending(1), 'sender refused'],
    ['MAIL 530', fault(530, at('MAIL FROM')), sending(1), 'sign-in refused'],
    ['MAIL 451', fault(451, at('MAIL FROM')), sending(1), 'away'],
    ['MAIL 552', fault(552, at('MAIL FROM')), sending(1), 'refused'],
    ['MAIL, line lost', fault(), sending(0), 'away'],
    ['RCPT 550', fault(550, at('RCPT TO')), sending(2), 'refused'],
    ['RCPT 530', fault(530, at('RCPT TO')), sending(2), 'sign-in refused'],
    ['RCPT 451', fault(451, at('RCPT TO')), sending(2), 'later'],
    ['RCPT, line lost', fault(), sending(1), 'later'],
    ['DATA 503', fault(503, at('DATA')), sending(3), 'later'],
    ['DATA 554', fault(554, at('DATA')), sending(4, true), 'refused'],
    ['after the final dot 451', fault(451, at('DATA')), sending(4, true), 'later'],
    ['after the final dot, line lost', fault(), sending(3, true), 'in doubt'],
  ])('%s: %s', (_, one, stage, expected) => {
    const outcome = outcomeOfFault(one, stage)
    expect(outcome.kind === 'account' ? outcome.what : outcome.kind).toBe(expected)
  })

  test('a page of an answer is cut, and is one line', () => {
    const { answer } = outcomeOfFault(fault(550, { response: `550 no\r\n${'x'.repeat(9000)}` }), sending(2))
    expect(answer).toMatch(/^550 no xxx/)
    expect(answer.length).toBeLessThan(500)
  })
})

describe('a pool of connections', () => {
  test('goes on with a new one where the server has left the one kept', async () => {
    const server = await startFaultingServer()
    const sender = oneSender(server.port)
    expect((await sender.deliver(envelope, Buffer.from('one'))).kind).toBe('accepted')
    server.fault('MAIL', 'drop', { times: 1 })
    expect((await sender.deliver(envelope, Buffer.from('two'))).kind).toBe('accepted')
    expect(server.taken()).toHaveLength(2)
    sender.close()
    server.close()
  })

  test('takes no certificate that nobody vouches for', async () => {
    const server = new SMTPServer({ secure: true, authOptional: true, logger: false })
    server.on('error', () => undefined)
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve))
    const { port } = server.server.address() as AddressInfo
    const sender = createSmtpSender(accountAt(`smtps://127.0.0.1:${port}`))
    expect(await sender.deliver(envelope, Buffer.from('x'))).toMatchObject({
      kind: 'account',
      what: 'unsafe',
    })
    sender.close()
    await new Promise<void>((resolve) => server.close(resolve))
  })

  test('is not there at all: the account is away', async () => {
    const sender = oneSender(1)
    expect(await sender.deliver(envelope, Buffer.from('x'))).toMatchObject({ kind: 'account', what: 'away' })
    expect(await sender.check()).toMatchObject({ what: 'away' })
    sender.close()
  })
})
