import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import type { OutgoingMessage } from '#core/engine/checkAtSending.ts'
import { composeMessage } from './compose.ts'
import { createSmtpSender, outcomeOfFault, type SmtpSender } from './smtpSender.ts'

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

describe('what a failed attempt means', () => {
  const fault = (responseCode?: number) =>
    Object.assign(new Error('x'), responseCode === undefined ? {} : { responseCode })

  test.each([
    [550, true, 'refused'],
    [554, false, 'refused'],
    [503, false, 'later'],
    [421, true, 'later'],
    [451, false, 'later'],
    [undefined, false, 'later'],
    [undefined, true, 'in doubt'],
  ])('answer %s, message begun %s: %s', (code, hadBegun, kind) => {
    expect(outcomeOfFault(fault(code), hadBegun).kind).toBe(kind)
  })
})

type Script = (command: string, socket: Socket) => string | null

/** A mail server that answers as a script says; null breaks the connection. */
function scripted(script: Script): Promise<Server> {
  const server = createServer((socket) => {
    let isData = false
    let rest = ''
    socket.on('error', () => undefined)
    socket.write('220 test\r\n')
    socket.on('data', (part) => {
      rest += part.toString('latin1')
      for (;;) {
        const end = rest.indexOf(isData ? '\r\n.\r\n' : '\r\n')
        if (end < 0) return
        const command = isData ? '.' : rest.slice(0, end)
        rest = rest.slice(end + (isData ? 5 : 2))
        const answer = script(command, socket)
        if (answer === null) {
          socket.destroy()
          return
        }
        isData = command === 'DATA' && answer.startsWith('354')
        socket.write(`${answer}\r\n`)
      }
    })
  })
  return new Promise((resolve) => server.listen(0, '127.0.0.1', () => resolve(server)))
}

const polite: Script = (command) =>
  command === 'DATA' ? '354 go on' : command === 'QUIT' ? '221 bye' : '250 fine'
const but =
  (at: string, answer: string | null): Script =>
  (command, socket) =>
    command.startsWith(at) ? answer : polite(command, socket)

describe('handing over to a server that', () => {
  const cases: readonly (readonly [string, Script, string])[] = [
    ['takes it', polite, 'accepted'],
    ['refuses the recipient', but('RCPT', '550 5.1.1 unknown'), 'refused'],
    ['asks to come back', but('RCPT', '451 4.2.1 busy'), 'later'],
    ['breaks off before DATA', but('DATA', null), 'later'],
    ['breaks off after the final dot', but('.', null), 'in doubt'],
    ['refuses after the final dot', but('.', '554 5.7.1 no'), 'refused'],
    ['asks to come back after the final dot', but('.', '452 4.3.1 full'), 'later'],
  ]
  const servers: Server[] = []
  const senders: SmtpSender[] = []
  beforeAll(async () => {
    for (const [, script] of cases) {
      const server = await scripted(script)
      servers.push(server)
      senders.push(createSmtpSender(`smtp://127.0.0.1:${(server.address() as AddressInfo).port}`, 1))
    }
  })
  afterAll(() => {
    senders.forEach((sender) => sender.close())
    servers.forEach((server) => server.close())
  })

  test.each(cases.map(([words, , kind], index) => [words, index, kind] as const))(
    '%s',
    async (_, index, kind) => {
      const source = await composeMessage(message)
      const outcome = await senders[index]?.deliver(
        { from: 'a@kiteworks.example', to: 'b@x.example' },
        source,
      )
      expect(outcome?.kind).toBe(kind)
    },
  )

  test('is not there at all: later', async () => {
    const sender = createSmtpSender('smtp://127.0.0.1:1', 1)
    const outcome = await sender.deliver({ from: 'a@kiteworks.example', to: 'b@x.example' }, Buffer.from('x'))
    expect(outcome.kind).toBe('later')
    sender.close()
  })
})
