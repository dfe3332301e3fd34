import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { ImapFlow } from 'imapflow'
import type { IncomingLine, IncomingView } from '#core/api/incomingEndpoints.ts'
import type { WaysBack } from '#core/api/mailboxEndpoints.ts'
import { exampleBusiness, exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { writeBusiness } from '../db/settingsStore.ts'
import type { Application } from '../engine/application.ts'
import { freePort } from '../testing/freePort.ts'
import { handOver } from '../testing/handOver.ts'
import { mailOf } from '../testing/mails.ts'
import { newBooking, newClient, read } from '../testing/overHttp.ts'
import { seedFolder, signInAt, startServer, wait, within, type OwnProcess } from '../testing/ownProcess.ts'
import { startRealMailServers, type RealMailServers } from '../testing/realMailServers.ts'
import { addLive, testFolder } from '../testing/seed.ts'

/* The whole way out and in through OpenSMTPD and Dovecot as Debian packs them, by TLS where a password goes over the line. */

/** It fetches what Debian packs, and needs a machine that gives it a room of its own. */
const whenFull = process.env['VORFREUDE_FULL'] === 'yes' ? describe : describe.skip
const soonMs = 30_000

const desk = { address: 'hello@kiteworks.example', password: 'Möwe über 4 Wellen' }
const eda = { address: 'eda@kiteworks.example', password: 'own' }
const oona = { address: 'oona@mail.nowhere', password: 'tide' }
const yorick = { address: 'yorick@mail.nowhere', password: 'ebb', away: 'I am away until Monday.' }
const gone = 'gone@mail.nowhere'
const forwardedAddress = 'answers@kiteworks.example'

let servers: RealMailServers
let server: OwnProcess
const ends: (() => Promise<unknown>)[] = []
let folder: string
let ask: Awaited<ReturnType<typeof signInAt>>

const account = (port: number, password: string) => ({
  host: '127.0.0.1',
  port,
  security: 'from the first byte',
  user: desk.address,
  password,
})
const mailbox = (password: string) => ({
  name: 'Front desk',
  folder: 'INBOX',
  account: account(servers.ports.imap, password),
})

interface SendRow {
  readonly address: string
  readonly step_id: string
  readonly state: string
  readonly message_id: string | null
}
const sendOf = (address: string, step: string) =>
  read<SendRow>(folder, 'SELECT address, step_id, state, message_id FROM sends').find(
    (one) => one.address === address && one.step_id === step,
  )

/** The mails in a client's mailbox, whole, as their own program reads them. */
async function mailsOf({ address, password }: typeof oona): Promise<string[]> {
  const client = new ImapFlow({
    host: '127.0.0.1',
    port: servers.ports.imap,
    secure: true,
    tls: { rejectUnauthorized: false },
    auth: { user: address, pass: password },
    logger: false,
  })
  await client.connect()
  await client.mailboxOpen('INBOX', { readOnly: true })
  const found: string[] = []
  for await (const { source } of client.fetch('1:*', { source: true })) found.push(String(source))
  await client.logout()
  return found
}

async function told<Answer>(method: 'GET' | 'POST', path: string, body?: object): Promise<Answer> {
  const answer = await ask(method, path, body)
  expect([path, answer.status, answer.status === 200 ? '' : answer.body]).toEqual([path, 200, ''])
  return answer.body as Answer
}

const cameIn = async (clientId: string) =>
  (await told<{ incoming: IncomingLine[] }>('GET', `clients/${clientId}/mail`)).incoming

async function bookedClient(name: string, email: string): Promise<string> {
  const { id } = await told<{ id: string }>('POST', 'clients', newClient(name, email))
  await told('POST', 'bookings', newBooking(id, Date.now()))
  return id
}

async function answerTo(id: string) {
  const { revision } = await told<IncomingView>('GET', `incoming/${id}`)
  const answer = { subject: 'Re: Your lesson', text: 'See you on the beach.' }
  await told('POST', `incoming/${id}/answer`, { commandId: randomUUID(), revision, answer })
}

/** Waits until something holds; what both mail servers and ours said where it does not. */
async function comes(holds: () => boolean | Promise<boolean>) {
  const looked = async () => {
    if (await holds()) return true
    await wait(500)
    return false
  }
  if ((await within(soonMs, looked)) === null) throw new Error(servers.log() + server.output())
}

/** A follow-up that an answer ends, and one more address of the house. */
function prepare(application: Application) {
  const { store, settings } = application
  const forwarding = { ...exampleBusiness, replyTo: forwardedAddress }
  store.transaction(() => writeBusiness(store.statements, forwarding))
  settings.forget()
  const anchor = { of: 'booking made' } as const
  const followUp = exampleStep({
    id: 'st_follow',
    purpose: 'follow-up',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'elapsed', amount: 3, unit: 'hours', direction: 'after', anchor },
  })
  addLive(application, 'sq_follow', [followUp], { on: 'booking confirmed' }, [{ on: 'answered', name: null }])
}

async function startAll() {
  const incomingPort = await freePort()
  servers = await startRealMailServers({
    mailboxes: [desk, eda, oona, yorick],
    forwarded: { address: forwardedAddress, port: incomingPort },
  })
  ends.push(() => servers.end())
  folder = testFolder()
  await seedFolder(folder, [], prepare)
  server = await startServer(folder, {
    NODE_EXTRA_CA_CERTS: servers.certificateFile,
    VORFREUDE_PUBLIC_URL: 'https://kiteworks.nowhere',
    VORFREUDE_INCOMING_PORT: String(incomingPort),
  })
  ends.push(() => {
    server.child.kill('SIGKILL')
    return server.ended
  })
  ask = await signInAt(server.address)
}

whenFull('with real mail servers', () => {
  beforeAll(startAll)
  afterAll(() => Promise.all(ends.map((end) => end())))

  interface Tried {
    readonly steps: readonly { readonly step: string; readonly outcome: string; readonly answer: string }[]
  }
  const failedIn = ({ steps }: Tried) => steps.filter(({ outcome }) => outcome === 'failed')

  test('the account and the mailbox are tried, and a wrong password is refused in the servers’ own words', async () => {
    for (const [path, wrong, right] of [
      [
        'mail-account/try',
        { account: account(servers.ports.submission, 'wrong') },
        { account: account(servers.ports.submission, desk.password) },
      ],
      ['incoming-mailboxes/try', { mailbox: mailbox('wrong') }, { mailbox: mailbox(desk.password) }],
    ] as const) {
      const [failed] = failedIn(await told<Tried>('POST', path, wrong))
      expect(failed?.step).toBe('sign in')
      expect(failed?.answer).toMatch(/auth/i)
      expect(failedIn(await told<Tried>('POST', path, right))).toEqual([])
    }
    const turned = { ...mailbox(desk.password).account, port: servers.ports.imapInTheClear }
    const later = { ...mailbox(''), account: { ...turned, security: 'after the greeting' } }
    expect(failedIn(await told<Tried>('POST', 'incoming-mailboxes/try', { mailbox: later }))).toEqual([])
    const set = { commandId: randomUUID(), account: account(servers.ports.submission, desk.password) }
    expect((await ask('PUT', 'mail-account', set)).status).toBe(200)
    await told('POST', 'sending', { commandId: randomUUID(), isOn: true })
    await told('POST', 'incoming-mailboxes', { commandId: randomUUID(), mailbox: mailbox(desk.password) })
    await comes(async () => {
      const { mailboxes } = await told<WaysBack>('GET', 'incoming-mailboxes')
      return mailboxes.some(({ state }) => state.kind === 'listening' && state.isTold)
    })
  })

  test('a message goes out, is answered, the follow-up is dropped, and the answer to it stands in its thread', async () => {
    const clientId = await bookedClient('Oona', oona.address)
    await comes(async () => (await mailsOf(oona)).length === 1)
    const confirmation = sendOf(oona.address, 'st_confirm')
    expect(confirmation?.state).toBe('sent')
    expect((await mailsOf(oona))[0]).toContain(confirmation?.message_id)
    expect(sendOf(oona.address, 'st_follow')?.state).toBe('ready')
    const messageId = '<first@mail.nowhere>'
    const words = {
      from: `Oona Brackwater <${oona.address}>`,
      messageId,
      inReplyTo: confirmation?.message_id ?? '',
    }
    const answer = mailOf({ ...words, to: desk.address })
    expect(await handOver(servers.ports.smtp, answer, { from: oona.address, to: desk.address })).toMatch(
      /^250/,
    )
    await comes(async () => (await cameIn(clientId)).length === 1)
    // The same once more, by the address that is forwarded.
    await handOver(servers.ports.smtp, answer, { from: oona.address, to: forwardedAddress })
    const other = mailOf({ ...words, to: forwardedAddress, messageId: '<second@mail.nowhere>' })
    await handOver(servers.ports.smtp, other, { from: oona.address, to: forwardedAddress })
    await comes(async () => (await cameIn(clientId)).length === 2)
    const lines = await cameIn(clientId)
    expect(lines.map(({ what, match }) => [what.kind, match.by])).toEqual([
      ['answer', 'reference'],
      ['answer', 'reference'],
    ])
    expect(sendOf(oona.address, 'st_follow')?.state).toBe('cancelled')
    await answerTo(lines.at(-1)?.id ?? '')
    await comes(async () => (await mailsOf(oona)).length === 2)
    const [, written] = await mailsOf(oona)
    expect(written).toMatch(/See you on the beach\./)
    expect(written).toMatch(new RegExp(`In-Reply-To:\\s+${messageId}`))
  })

  test('a mailbox that is not there sends a report, and nothing more goes there', async () => {
    const clientId = await bookedClient('Gunnar', gone)
    await comes(async () => (await cameIn(clientId)).length === 1)
    const [report] = await cameIn(clientId)
    expect(report).toMatchObject({ what: { kind: 'delivery report' }, match: { by: 'reference' } })
    expect(sendOf(gone, 'st_follow')?.state).toBe('blocked')
    const { undelivered } = await told<{ undelivered: { address: string }[] }>(
      'GET',
      `clients/${clientId}/mail`,
    )
    expect(undelivered.map(({ address }) => address)).toEqual([gone])
  })

  test('a vacation leaves our messages alone, and what it answers to a person’s own counts as no answer', async () => {
    const clientId = await bookedClient('Yorick', yorick.address)
    await comes(async () => (await mailsOf(yorick)).length === 1)
    const asked = mailOf({ from: yorick.address, to: desk.address, text: 'Is there a car park?' })
    await handOver(servers.ports.smtp, asked, { from: yorick.address, to: desk.address })
    await comes(async () => (await cameIn(clientId)).length === 1)
    await answerTo((await cameIn(clientId))[0]?.id ?? '')
    await comes(async () => (await cameIn(clientId)).length === 2)
    const [reply] = await cameIn(clientId)
    expect(reply).toMatchObject({ what: { kind: 'automatic reply' } })
    expect(await mailsOf(yorick)).toHaveLength(2)
  })
})
