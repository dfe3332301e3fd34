import { createServer as createTlsServer, type Server as TlsServer } from 'node:tls'
import { createServer, type AddressInfo, type Server } from 'node:net'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { SMTPServer } from 'smtp-server'
import type { MailAccount } from '#core/model/mailAccount.ts'
import { addressOf } from '../engine/waysOut.ts'
import { startFaultingServer, type FaultingServer } from '../testing/faultingServer.ts'
import { makeCertificate, type OwnCertificate } from '../testing/ownCertificate.ts'
import { findAccounts, type ServiceRecord } from './findAccount.ts'
import { tryAccount } from './tryAccount.ts'

/* A mail account tried against real servers at fault, each step with its sentence and the server's own words. */

const copy = {
  from: { name: 'Kiteworks', address: 'hello@kiteworks.example' },
  to: { name: '', address: 'ada@kiteworks.example' },
}
const patient = { greeting: 3000, silence: 3000, whole: 6000 }

let faulting: FaultingServer
let certificate: OwnCertificate
const servers: (Server | TlsServer | SMTPServer)[] = []
const portOf = (server: Server | TlsServer) => (server.address() as AddressInfo).port

beforeAll(async () => {
  faulting = await startFaultingServer()
  certificate = await makeCertificate(['mail.example'])
})
afterAll(() => {
  faulting.close()
  servers.forEach((server) => server.close())
})

const plainAt = (port: number, user = ''): MailAccount => ({
  host: '127.0.0.1',
  port,
  security: 'none',
  user,
})
const tried = async (account: MailAccount, password = 'secret', limits = patient) =>
  await tryAccount(addressOf(account, password), limits, copy)
const outcomes = (steps: Awaited<ReturnType<typeof tryAccount>>) =>
  steps.map(({ step, outcome }) => `${step}: ${outcome}`)
const failed = (steps: Awaited<ReturnType<typeof tryAccount>>) =>
  steps.find(({ outcome }) => outcome === 'failed')

async function listening(server: Server | TlsServer): Promise<number> {
  servers.push(server)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return portOf(server)
}

describe('a mail account that works', () => {
  test('comes through every step, and the copy is taken', async () => {
    faulting.fault(null)
    const steps = await tried(plainAt(faulting.port, 'ada'))
    expect(outcomes(steps)).toEqual([
      'reach: done',
      'secure: not needed',
      'sign in: done',
      'sender: done',
      'copy: done',
    ])
    expect(faulting.taken()).toContain('ada@kiteworks.example')
  })

  test('gets a password with every special sign just as it was typed', async () => {
    const password = ' !"#$%&\'()*+,-./:;<=>?@[\\]^_`{|}~ §äß€ 気球 \u{1F388}'
    const said: unknown[] = []
    const server = new SMTPServer({
      disabledCommands: ['STARTTLS'],
      allowInsecureAuth: true,
      onAuth(auth, _, done) {
        said.push({ user: auth.username, password: auth.password })
        done(null, { user: auth.username })
      },
    })
    servers.push(server)
    const port = await new Promise<number>((resolve) => {
      const { server: net } = server
      server.listen(0, '127.0.0.1', () => resolve(portOf(net)))
    })
    const steps = await tried(plainAt(port, 'ada+flights@mail.example'), password)
    expect(said).toEqual([{ user: 'ada+flights@mail.example', password }])
    expect(failed(steps)).toBeUndefined()
  })
})

describe('a step that fails says so, and what comes after was not tried', () => {
  test('nothing answers at the port, or no server bears the name', async () => {
    const closed = createServer()
    const port = await listening(closed)
    await new Promise((resolve) => closed.close(resolve))
    expect(failed(await tried(plainAt(port)))).toMatchObject({
      step: 'reach',
      sentence: 'Nothing answers at this port.',
    })
    const steps = await tried({ ...plainAt(25), host: 'nowhere.invalid' })
    expect(failed(steps)?.sentence).toMatch('no server of this name')
    expect(outcomes(steps)).toEqual([
      'reach: failed',
      'secure: not needed',
      'sign in: not needed',
      'sender: not tried',
      'copy: not tried',
    ])
  })

  test('a server that takes the connection and then says nothing', async () => {
    faulting.fault('greeting', 'silence')
    const steps = await tried(plainAt(faulting.port), '', { greeting: 400, silence: 400, whole: 800 })
    expect(failed(steps)).toMatchObject({
      step: 'reach',
      sentence: expect.stringMatching('does not answer in time'),
    })
    faulting.fault(null)
  })

  test.each([
    ['greeting', '554 5.7.1 not you', 'reach', 'It does not let us in: ask who runs it.'],
    [
      'AUTH',
      '535 5.7.8 wrong',
      'sign in',
      'It refuses the user or the password. Many servers want a password made for programs.',
    ],
    [
      'MAIL',
      '550 5.7.1 not from you',
      'sender',
      'It does not take messages from this sender: use an address that belongs to the account.',
    ],
    ['MAIL', '530 5.7.0 sign in first', 'sign in', 'It wants a user and a password.'],
    ['RCPT', '550 5.1.1 unknown', 'copy', 'It did not take the copy.'],
    ['.', '554 5.7.1 spam', 'copy', 'It did not take the copy.'],
    ['.', 'drop', 'copy', 'The connection was lost in the last moment: the copy may have gone.'],
  ] as const)('%s %s', async (at, kind, step, sentence) => {
    faulting.fault(at, kind)
    const found = failed(await tried(plainAt(faulting.port, 'ada')))
    expect(found).toMatchObject({ step, sentence })
    expect(found?.answer).toContain(kind === 'drop' ? '' : kind)
    faulting.fault(null)
  })
})

describe('a line that is not safe', () => {
  test('a certificate that nobody vouches for', async () => {
    const { key, cert } = certificate
    const port = await listening(
      createTlsServer({ key, cert }, (socket) => socket.on('error', () => undefined)),
    )
    const steps = await tried({ host: '127.0.0.1', port, security: 'from the first byte', user: 'ada' })
    expect(failed(steps)).toMatchObject({
      step: 'secure',
      sentence: 'Nobody we know vouches for the server’s certificate: it may be another server in between.',
    })
    expect(outcomes(steps).slice(0, 3)).toEqual(['reach: done', 'secure: failed', 'sign in: not tried'])
  })

  test('TLS from the first byte where the server greets first', async () => {
    const steps = await tried({ ...plainAt(faulting.port), security: 'from the first byte' })
    expect(failed(steps)).toMatchObject({
      step: 'secure',
      sentence: expect.stringMatching('“TLS after the greeting” may be'),
    })
  })

  test('TLS after the greeting where the server offers none: the password is not sent', async () => {
    faulting.fault('STARTTLS', '502 5.5.1 not here')
    const before = faulting.signIns()
    const steps = await tried({ ...plainAt(faulting.port, 'ada'), security: 'after the greeting' })
    expect(failed(steps)).toMatchObject({
      step: 'secure',
      sentence: 'No safe line came about: the server offers no TLS here.',
    })
    expect(faulting.signIns()).toBe(before)
    faulting.fault(null)
  })
})

describe('what a domain says of its mail servers (RFC 6186)', () => {
  const record = (name: string, port: number, priority = 0, weight = 0): ServiceRecord => ({
    name,
    port,
    priority,
    weight,
  })

  test('TLS from the first byte comes first, then by priority and weight', async () => {
    const asked: string[] = []
    const found = await findAccounts('ada@kiteworks.nowhere', 'sending', (name) => {
      asked.push(name)
      return Promise.resolve(
        name.startsWith('_submissions')
          ? [record('second.example.', 465, 10), record('first.example', 465, 1)]
          : [record('light.example', 587, 1, 1), record('heavy.example', 587, 1, 9)],
      )
    })
    expect(asked).toEqual(['_submissions._tcp.kiteworks.nowhere', '_submission._tcp.kiteworks.nowhere'])
    expect(found.map(({ host, port }) => `${host}:${port}`)).toEqual([
      'first.example:465',
      'second.example:465',
      'heavy.example:587',
      'light.example:587',
    ])
    expect(found[0]?.security).toBe('from the first byte')
    expect(found[3]?.security).toBe('after the greeting')
  })

  test('a dot says that there is none; a name that is not found is none either', async () => {
    expect(await findAccounts('a@b.nowhere', 'sending', () => Promise.resolve([record('.', 0)]))).toEqual([])
    expect(
      await findAccounts('a@b.nowhere', 'sending', () => Promise.reject(new Error('ENOTFOUND'))),
    ).toEqual([])
    const asked = () => Promise.reject(new Error('It was asked'))
    expect(await findAccounts('a@b.example', 'sending', asked)).toEqual([])
  })
})
