import { execFile } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { connect, type AddressInfo } from 'node:net'
import { join, resolve } from 'node:path'
import { createServer, type Server } from 'node:tls'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import type { TriedStep } from '#core/model/mailAccount.ts'
import { openPostOfficeFile, type PostOfficeFile } from '../../standins/postOffice/file.ts'
import {
  listenForReaders,
  mailboxPassword,
  type ListeningMailboxes,
} from '../../standins/postOffice/mailboxes.ts'
import { makeCertificate, type OwnCertificate } from '../../testing/ownCertificate.ts'
import { testFolder } from '../../testing/seed.ts'
import type { MailboxAddress } from './mailboxClient.ts'
import { tryMailbox } from './tryMailbox.ts'

/* A mailbox tried step by step over a line in the clear and one that is safe from the first byte (RFC 8314, 3.2). */

const run = promisify(execFile)

let file: PostOfficeFile
let mailboxes: ListeningMailboxes
let safe: Server
let certificate: OwnCertificate

beforeAll(async () => {
  file = openPostOfficeFile(join(testFolder(), 'mail.db'))
  mailboxes = await listenForReaders(file)
  certificate = await makeCertificate(['127.0.0.1'])
  safe = createServer({ key: certificate.key, cert: certificate.cert }, (line) => {
    const within = connect(mailboxes.port, '127.0.0.1')
    line.pipe(within).pipe(line)
    for (const one of [line, within]) one.on('error', () => (line.destroy(), within.destroy()))
  })
  safe.on('tlsClientError', () => undefined)
  await new Promise<void>((done) => safe.listen(0, '127.0.0.1', done))
})
afterAll(async () => {
  safe.close()
  await mailboxes.close()
  file.close()
})

const addressAt = (port: number, more: Partial<MailboxAddress> = {}): MailboxAddress => ({
  host: '127.0.0.1',
  port,
  isSecure: false,
  turnsToTls: 'never',
  signIn: { user: 'front-desk@kiteworks.example', pass: mailboxPassword },
  folder: 'INBOX',
  ...more,
})
const outcomes = (steps: readonly TriedStep[]) => steps.map(({ step, outcome }) => `${step}: ${outcome}`)
const safely = () => addressAt((safe.address() as AddressInfo).port, { isSecure: true, turnsToTls: 'always' })

/** The same in a process that believes our certificate: that is settled as one starts. */
async function triedBelieving(address: MailboxAddress): Promise<TriedStep[]> {
  const program = join(testFolder(), 'tried.mts')
  writeFileSync(
    program,
    `import { tryMailbox } from ${JSON.stringify(resolve('server/mail/incoming/tryMailbox.ts'))}
    console.log(JSON.stringify(await tryMailbox(${JSON.stringify(address)})))`,
  )
  const env = { ...process.env, NODE_OPTIONS: '', NODE_EXTRA_CA_CERTS: certificate.file }
  const { stdout } = await run(process.execPath, ['--import', 'tsx', program], { env })
  return JSON.parse(stdout) as TriedStep[]
}

describe('a mailbox', () => {
  test('of this machine needs no safe line', async () => {
    expect(outcomes(await tryMailbox(addressAt(mailboxes.port)))).toEqual([
      'reach: done',
      'secure: not needed',
      'sign in: done',
      'folder: done',
    ])
  })

  test('is reached by a line that is safe from the first byte', async () => {
    expect(outcomes(await triedBelieving(safely()))).toEqual([
      'reach: done',
      'secure: done',
      'sign in: done',
      'folder: done',
    ])
  })

  test('whose certificate nobody vouches for is not signed in to', async () => {
    const steps = await tryMailbox(safely())
    expect(outcomes(steps)).toEqual([
      'reach: done',
      'secure: failed',
      'sign in: not tried',
      'folder: not tried',
    ])
    expect(steps[1]?.answer).toMatch(/self-signed certificate/)
  })

  test('that offers no safe line is not signed in to where one is asked for', async () => {
    expect(outcomes(await tryMailbox(addressAt(mailboxes.port, { turnsToTls: 'always' })))).toEqual([
      'reach: done',
      'secure: failed',
      'sign in: not tried',
      'folder: not tried',
    ])
  })

  test('with another password, or no such folder, says at which step', async () => {
    const signIn = { user: 'front-desk@kiteworks.example', pass: 'wrong' }
    expect(outcomes(await tryMailbox(addressAt(mailboxes.port, { signIn })))[2]).toBe('sign in: failed')
    expect(outcomes(await tryMailbox(addressAt(mailboxes.port, { folder: 'Nowhere' })))[3]).toBe(
      'folder: failed',
    )
  })
})
