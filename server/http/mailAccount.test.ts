import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import { addPerson } from '../db/settingsStore.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { hashPassword } from '../session/password.ts'
import { within } from '../testing/ownProcess.ts'
import { startTakingServer, type TakingServer } from '../testing/takingServer.ts'
import { addBookedClient, call, eda, testFolder, writeExampleBusiness } from '../testing/seed.ts'
import { createApp } from './app.ts'

/* The mail account that is set up in the browser: kept sealed, real from the moment it is used, and never by surprise. */

const password = 'a long enough one'
/** Nothing else in the house is like it, so that it is found wherever it would lie. */
const secret = 'Zauberwürfel “4711” §$%'
const folder = testFolder()
const soonMs = 20_000

let server: TakingServer
let port = 0
const taken = () => server.taken.map(({ user, to }) => ({ user, to }))
let running: RunningApplication
let cookie = ''
let csrf = ''

async function begin() {
  running = await openApplication({
    folder,
    isDemo: false,
    smtpUrl: null,
    needsPublicUrl: true,
    onFault: (fault) => {
      throw fault
    },
  })
}

async function signIn() {
  const answer = await request(createApp(running, pino({ level: 'silent' })))
    .post('/api/session')
    .set('Host', '127.0.0.1')
    .send({ email: eda.email, password })
  cookie = answer.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
  csrf = (answer.body as { csrfToken: string }).csrfToken
}

let count = 0
async function ask(method: 'get' | 'post' | 'put' | 'delete', path: string, body: object = {}) {
  count += 1
  const asked = request(createApp(running, pino({ level: 'silent' })))
    [method](path)
    .set('Host', '127.0.0.1')
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
  const answer = await (method === 'get'
    ? asked
    : asked.send(path.endsWith('/try') ? body : { commandId: `mail-account-${count}`, ...body }))
  return { status: answer.status, body: answer.body as Record<string, unknown> }
}

const account = (part: object = {}) => ({
  account: { host: '127.0.0.1', port, security: 'none', user: 'ada', password: secret, ...part },
})

beforeAll(async () => {
  server = await startTakingServer({
    onAuth: ({ username, password: given }, _, done) =>
      given === secret ? done(null, { user: username }) : done(new Error('535 5.7.8 wrong')),
  })
  port = server.port
  await begin()
  const { store, settings } = running.application
  const hash = await hashPassword(password)
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addPerson(store.statements, eda, hash)
  })
  settings.forget()
  store.statements.run('setSendingOn', { isSendingOn: 1 })
  settings.forget()
  await running.begin()
  await signIn()
})
afterAll(async () => {
  await running.end()
  server.close()
})

const isSendingOn = () => running.application.settings.required().isSendingOn

describe('a mail account set up in the browser', () => {
  test('is refused where it could not be meant, by field', async () => {
    const fields = async (part: object) =>
      ((await ask('put', '/api/mail-account', account(part))).body['errors'] as { path: string }[]).map(
        ({ path }) => path,
      )
    expect(await fields({ host: 'smtp place', security: 'after the greeting' })).toEqual(['account.host'])
    expect(await fields({ host: '', security: 'after the greeting' })).toEqual(['account.host'])
    expect(await fields({ port: 70_000 })).toEqual(['account.port'])
    expect(await fields({ host: 'mail.example' })).toEqual(['account.security'])
    expect(await fields({ user: '' })).toEqual(['account.user'])
    expect(await fields({ password: '' })).toEqual(['account.password'])
    expect(await fields({ password: null })).toEqual(['account.password'])
    expect(await fields({ user: 'ada\r\nRSET' })).toEqual(['account.user'])
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({ way: 'post office', account: null })
  })

  test('is tried without being used: nothing goes but a copy to who asks', async () => {
    const { body } = await ask('post', '/api/mail-account/try', account())
    expect((body['steps'] as { outcome: string }[]).map(({ outcome }) => outcome)).toEqual([
      'done',
      'not needed',
      'done',
      'done',
      'done',
    ])
    expect(taken()).toEqual([{ user: 'ada', to: eda.email }])
    const wrong = await ask('post', '/api/mail-account/try', account({ password: 'not this one' }))
    expect(wrong.body['steps']).toContainEqual(
      expect.objectContaining({ step: 'sign in', outcome: 'failed' }),
    )
    expect(isSendingOn()).toBe(true)
  })

  test('makes messages real, so sending is held back until somebody switches it on, and it needs an address for its links', async () => {
    expect((await ask('put', '/api/mail-account', account())).body).toEqual({ isHeldBack: true })
    expect(isSendingOn()).toBe(false)
    const ways = (await ask('get', '/api/mail-account')).body
    expect(ways).toMatchObject({
      way: 'set',
      hasPassword: true,
      obstacle: expect.stringMatching('links in messages'),
    })
    expect((await ask('post', '/api/sending', { isOn: true })).status).toBe(409)
    for (const url of [
      'booking.example',
      'ftp://booking.example',
      'https://booking.example/flights',
      'https://a@booking.example',
    ]) {
      expect([url, (await ask('put', '/api/public-url', { url })).status]).toEqual([url, 422])
    }
    expect((await ask('put', '/api/public-url', { url: 'https://booking.example/' })).body).toEqual({
      url: 'https://booking.example',
    })
    expect(running.publicUrl()).toBe('https://booking.example')
    expect((await ask('post', '/api/sending', { isOn: true })).status).toBe(200)
  })

  test('messages go through it at once, without a new start', async () => {
    const before = taken().length
    addBookedClient(running.application, running.commands, 'Oona', 'oona@mail.nowhere', 5)
    expect(await within(soonMs, () => taken().length > before)).not.toBeNull()
    expect(taken().at(-1)).toEqual({ user: 'ada', to: 'oona@mail.nowhere' })
  })

  test('its password is kept for the same server and user alone, and is told to nobody', async () => {
    expect((await ask('post', '/api/mail-account/try', account({ password: null }))).status).toBe(200)
    for (const other of [{ host: 'localhost' }, { user: 'eve' }]) {
      const refused = await ask('post', '/api/mail-account/try', account({ password: null, ...other }))
      expect(refused.body['detail']).toBe('Type the password of this account.')
    }
    const said = [
      await ask('get', '/api/mail-account'),
      await ask('get', '/api/settings'),
      await ask('get', '/api/overview'),
    ]
    expect(JSON.stringify(said)).not.toContain('Zauberwürfel')
  })

  test('beside it others are set up, each with a password of its own that is told to nobody', async () => {
    const further = {
      name: 'Newsletter',
      senderAddress: 'news@kiteworks.example',
      purposes: ['promotional'],
      personIds: [],
      allowance: { perHour: 20, perDay: null, perMonth: null, perMinute: 5 },
      fallsBack: false,
      stepsIn: false,
      account: { ...account().account, user: 'news' },
    }
    const fieldOf = async (part: object) => {
      const { status, body } = await ask('post', '/api/mail-accounts', { account: { ...further, ...part } })
      return [status, (body['errors'] as { path: string }[]).map(({ path }) => path)]
    }
    expect(await fieldOf({ name: ' ' })).toEqual([422, ['account.name']])
    expect(await fieldOf({ senderAddress: 'news' })).toEqual([422, ['account.senderAddress']])
    expect(await fieldOf({ purposes: ['internal'] })).toEqual([422, ['account.purposes.0']])
    expect(await fieldOf({ purposes: [] })).toEqual([422, ['account.purposes']])
    expect(await fieldOf({ account: { ...further.account, password: null } })).toEqual([
      422,
      ['account.account.password'],
    ])
    const added = await ask('post', '/api/mail-accounts', { account: further })
    expect(added.status).toBe(200)
    const seen = (await ask('get', '/api/mail-account')).body['further']
    expect(seen).toEqual([
      {
        ...further,
        id: added.body['id'],
        revision: 1,
        account: { host: '127.0.0.1', port, security: 'none', user: 'news' },
        hasPassword: true,
        trouble: null,
      },
    ])
    const sealed = running.application.store.statements.all('furtherAccounts')
    expect(sealed).toHaveLength(1)
    expect(JSON.stringify(sealed)).not.toContain('Zauberwürfel')
    expect((await ask('delete', '/api/mail-account')).body['detail']).toMatch('beside it away first')
    const path = `/api/mail-accounts/${String(added.body['id'])}`
    const renamed = { ...further, name: 'News', account: { ...further.account, password: null } }
    expect((await ask('put', path, { revision: 1, account: renamed })).status).toBe(200)
    expect((await ask('put', path, { revision: 1, account: renamed })).status).toBe(409)
    expect((await ask('get', '/api/mail-account')).body['further']).toEqual([
      expect.objectContaining({ name: 'News', hasPassword: true, revision: 2 }),
    ])
    const allowance = { perHour: null, perDay: 300, perMonth: null, perMinute: 30 }
    expect((await ask('put', '/api/mail-account/allowance', { allowance })).status).toBe(200)
    expect((await ask('get', '/api/mail-account')).body['allowance']).toEqual(allowance)
    const nothing = { perHour: 0, perDay: null, perMonth: null, perMinute: null }
    expect((await ask('put', '/api/mail-account/allowance', { allowance: nothing })).status).toBe(422)
  })

  test('its password lies in no file of the data folder, as it is or hashed', () => {
    const files = readdirSync(folder).map((name) => readFileSync(join(folder, name)))
    expect(files.length).toBeGreaterThan(2)
    for (const form of [
      secret,
      JSON.stringify(secret),
      Buffer.from(secret).toString('base64'),
      encodeURIComponent(secret),
    ]) {
      for (const file of files) expect(file.includes(form)).toBe(false)
    }
  })

  test('is there after a new start; with another key its password is lost, and that alone', async () => {
    await running.end()
    await begin()
    await signIn()
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({
      way: 'set',
      hasPassword: true,
      obstacle: null,
    })
    await running.end()
    const keys = join(folder, 'keys.json')
    const own = readFileSync(keys, 'utf8')
    writeFileSync(keys, JSON.stringify({ key: 'ab'.repeat(32), formerLinks: null }))
    await begin()
    await signIn()
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({
      way: 'set',
      hasPassword: false,
      account: { host: '127.0.0.1', user: 'ada' },
      obstacle: expect.stringMatching('the password of the mail account cannot be read'),
      further: [
        {
          name: 'News',
          hasPassword: false,
          trouble: expect.stringMatching(/“News” cannot be read with the key/),
        },
      ],
    })
    const [beside] = running.ways().further
    const tried = await ask('post', '/api/sending/try', { accountId: beside?.id })
    expect(tried.body['sentence']).toMatch(/refuses the user or the password.*no password that can be read/)
    expect(isSendingOn()).toBe(false)
    await running.end()
    writeFileSync(keys, own)
    await begin()
    await signIn()
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({ hasPassword: true, obstacle: null })
  })

  test('is taken away with its password, and messages go to the built-in post office again', async () => {
    const further = running.ways().further
    expect(further).toHaveLength(1)
    for (const { id } of further) {
      expect((await ask('delete', `/api/mail-accounts/${id}`)).body).toEqual({ id })
      expect((await ask('delete', `/api/mail-accounts/${id}`)).status).toBe(404)
    }
    expect((await ask('delete', '/api/mail-account')).body).toEqual({ isHeldBack: false })
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({
      way: 'post office',
      hasPassword: false,
    })
    expect((await ask('delete', '/api/mail-account')).body['detail']).toMatch('already')
    expect(running.application.store.statements.one('readMailAccount')).toBeUndefined()
  })

  test('that was given at the start is changed there', async () => {
    await running.end()
    running = await openApplication({
      folder,
      isDemo: false,
      smtpUrl: `smtp://127.0.0.1:${port}`,
      onFault: () => undefined,
    })
    await signIn()
    expect((await ask('get', '/api/mail-account')).body).toMatchObject({ way: 'given', account: null })
    expect((await ask('put', '/api/mail-account', account())).body['detail']).toMatch('VORFREUDE_SMTP_URL')
    expect(running.commands.setMailAccount(call('setMailAccount'), null).ok).toBe(true)
  })
})
