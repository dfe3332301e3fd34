import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { TOTP, Secret } from 'otpauth'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import { putPerson } from '../db/settingsStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { makeWayIn } from '../session/waysIn.ts'
import { openRealHouse } from '../testing/realHouse.ts'
import { eda, testFolder } from '../testing/seed.ts'
import { createApp } from './app.ts'

/* Invited, let in, let in again: links by which a password is chosen, and codes besides it. */

const folder = testFolder()
/** Nothing else in the house is like them, so that they are found wherever they would lie. */
const secrets = ['Zauberwürfel am Deich 4711', 'Nachtkerze hinter Glas 0815', 'Siebenschläfer im Takt 33']
const [first = '', second = '', third = ''] = secrets
const uma = { ...eda, id: 'pe_uma', name: 'Uma', email: 'uma@kiteworks.example', role: 'helper' } as const

let running: RunningApplication
let app: Express
beforeAll(async () => {
  running = await openRealHouse(folder, [
    [eda, first],
    [uma, null],
  ])
})
afterAll(() => running.end())
beforeAll(() => void (app = createApp(running, pino({ level: 'silent' }))))

interface Own {
  readonly cookie: string
  readonly csrf: string
}
const nobody: Own = { cookie: '', csrf: '' }

async function tell(path: string, body: object = {}, { cookie, csrf }: Own = nobody) {
  const answer = await request(app)
    .post(path)
    .set('Host', '127.0.0.1')
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .send(body)
  const setCookie = answer.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
  const said = answer.body as Record<string, unknown>
  const session: Own = { cookie: setCookie, csrf: String(said['csrfToken']) }
  return { status: answer.status, body: said, session }
}
const signIn = (email: string, password: string, code?: string) =>
  tell('/api/session', { email, password, ...(code === undefined ? {} : { code }) })
const tokenOf = (url: unknown) => String(url).split('#')[1] ?? ''

/** What went to a mailbox of the post office that came with it, the newest first. */
const mailTo = (address: string) =>
  (running.postOffice?.mailOf(address) ?? []).map(({ source }) => source.toString('utf8'))

describe('an invitation', () => {
  let url = ''
  test('goes by mail, and is shown as well', async () => {
    const { session } = await signIn(eda.email, first)
    const { status, body } = await tell(`/api/team/${uma.id}/invitation`, {}, session)
    // The post office that came with it is nobody's real mailbox.
    expect([status, body['notSent']]).toEqual([200, expect.stringContaining('No mail account is set up yet')])
    url = String(body['url'])
    expect(mailTo(uma.email).join()).toContain('Come in: ')
  })

  test('says whose it is; the password that is chosen lets in; used twice it is refused', async () => {
    const token = tokenOf(url)
    const look = await tell('/api/way-in/look', { token })
    expect(look.body).toMatchObject({ purpose: 'invitation', name: 'Uma', email: uma.email })
    expect((await tell('/api/way-in', { token, password: 'Password2026!' })).body['detail']).toContain(
      'tried first',
    )
    const taken = await tell('/api/way-in', { token, password: second })
    expect([taken.status, (taken.body['person'] as { id: string }).id]).toEqual([200, uma.id])
    const again = await tell('/api/way-in', { token, password: third })
    expect([again.status, again.body['detail']]).toEqual([409, expect.stringContaining('used already')])
    expect((await signIn(uma.email, second)).status).toBe(200)
    expect((await signIn(uma.email, third)).status).toBe(401)
  })

  test('taken by two at once lets one in', async () => {
    const { token } = makeWayIn(running.application.store.statements, {
      personId: uma.id,
      email: uma.email,
      purpose: 'invitation',
    })
    const answers = await Promise.all(
      [second, second].map((password) => tell('/api/way-in', { token, password })),
    )
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
  })

  test.each([
    ['too late', (now: number) => now - 8 * 86_400_000, 'that is over'],
    ['of tomorrow', (now: number) => now, null],
  ])('%s', async (_, made, sentence) => {
    const { token } = makeWayIn(
      running.application.store.statements,
      { personId: uma.id, email: uma.email, purpose: 'invitation' },
      made(Date.now()),
    )
    const { body } = await tell('/api/way-in/look', { token })
    expect(body['detail'] ?? null).toEqual(sentence === null ? null : expect.stringContaining(sentence))
  })

  test('to an address that is another by now, or to somebody who has left, leads nowhere', async () => {
    const { store } = running.application
    const { token } = makeWayIn(store.statements, {
      personId: uma.id,
      email: uma.email,
      purpose: 'invitation',
    })
    putPerson(store.statements, { ...uma, email: 'uma.other@kiteworks.example' })
    expect((await tell('/api/way-in/look', { token })).status).toBe(404)
    putPerson(store.statements, { ...uma, isActive: false })
    expect((await tell('/api/way-in/look', { token })).status).toBe(404)
    putPerson(store.statements, uma)
    expect((await tell('/api/way-in/look', { token })).status).toBe(200)
    expect((await tell('/api/way-in/look', { token: 'x' })).status).toBe(404)
  })
})

describe('a forgotten password', () => {
  test('is answered alike whether the address is known; the link ends every session and no other', async () => {
    const before = await signIn(uma.email, second)
    const known = await tell('/api/way-in/forgotten', { email: ` ${uma.email.toUpperCase()} ` })
    const unknown = await tell('/api/way-in/forgotten', { email: 'nobody@kiteworks.example' })
    expect([known.status, known.body]).toEqual([unknown.status, unknown.body])
    let found: string | undefined
    for (let tries = 0; tries < 100 && found === undefined; tries += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50))
      found = mailTo(uma.email)
        .join('\n')
        .replaceAll('=\r\n', '')
        .match(/A new password[\s\S]*?come-in#([\w-]+)/)?.[1]
    }
    expect(mailTo('nobody@kiteworks.example')).toEqual([])
    expect((await tell('/api/way-in', { token: found ?? '', password: third })).status).toBe(200)
    const ended = await request(app)
      .get('/api/sessions')
      .set('Host', '127.0.0.1')
      .set('Cookie', before.session.cookie)
    expect(ended.status).toBe(401)
    expect((await signIn(uma.email, third)).status).toBe(200)
  })
})

describe('a code besides the password', () => {
  test('is asked for once it is set up, and a new password does not do without it', async () => {
    app = createApp(running, pino({ level: 'silent' }))
    const { session } = await signIn(uma.email, third)
    const wrong = await tell('/api/session/second-factor/begin', { present: first }, session)
    expect([wrong.status, wrong.body['detail']]).toEqual([422, 'This is not the present password.'])
    const begun = await tell('/api/session/second-factor/begin', { present: third }, session)
    const generator = new TOTP({ secret: Secret.fromBase32(String(begun.body['secret'])) })
    const refused = await tell('/api/session/second-factor', { code: '12' }, session)
    expect(refused.status).toBe(422)
    const code = generator.generate()
    const confirmed = await tell('/api/session/second-factor', { code }, session)
    const words = confirmed.body['recoveryWords'] as string[]
    expect(words).toHaveLength(10)
    const without = await signIn(uma.email, third)
    expect([without.status, without.body['errors']]).toEqual([
      401,
      [expect.objectContaining({ path: 'code' })],
    ])
    // The one that confirmed it is used up.
    expect((await signIn(uma.email, third, code)).status).toBe(401)
    expect((await signIn(uma.email, third, words[0])).status).toBe(200)
    expect((await signIn(uma.email, third, words[0])).status).toBe(401)
    const { token } = makeWayIn(running.application.store.statements, {
      personId: uma.id,
      email: uma.email,
      purpose: 'new password',
    })
    const taken = await tell('/api/way-in', { token, password: second })
    expect([taken.status, taken.body['person']]).toEqual([200, null])
    const ofOwner = await signIn(eda.email, first)
    expect((await tell(`/api/team/${uma.id}/no-second-factor`, {}, ofOwner.session)).status).toBe(200)
    expect((await signIn(uma.email, second)).status).toBe(200)
  })
})

test('no password lies in any file of the data folder, nor does a link that lets in', async () => {
  const { session } = await signIn(eda.email, first)
  const { body } = await tell(`/api/team/${uma.id}/invitation`, {}, session)
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((one) => one.isFile())
  expect(files.length).toBeGreaterThan(2)
  for (const { parentPath, name } of files) {
    const bytes = readFileSync(join(parentPath, name))
    for (const secret of secrets) {
      expect([name, bytes.includes(secret), bytes.includes(Buffer.from(secret).toString('base64'))]).toEqual([
        name,
        false,
        false,
      ])
    }
    // The mailboxes of the post office have what was sent to them.
    if (!name.startsWith('postoffice'))
      expect([name, bytes.includes(tokenOf(body['url']))]).toEqual([name, false])
  }
})
