import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import { keyScopes, type NewApiKey } from '#core/model/apiKey.ts'
import type { Endpoint } from '#core/api/endpoint.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { plainStep } from '#core/model/step.ts'
import { dayMs } from '#core/time/calendar.ts'
import { addPerson } from '../db/settingsStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { signatureOf } from '../mail/webCall.ts'
import { listenForCalls } from '../standins/receiver/listen.ts'
import { openRealHouse } from '../testing/realHouse.ts'
import { addBookedClient, addLive, call, clientInput, eda, openExample, testFolder } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'

/* Other programs: what they ask by a key, and what they are told by calls. */

const quiet = pino({ level: 'silent' })
let running: RunningApplication
let app: Express
let eda1: { cookie: string; csrf: string }
beforeAll(async () => {
  running = await openExample()
  addEda(running.application)
  app = createApp(running, quiet)
  eda1 = await signInEda(app)
})
afterAll(() => running.end())
// Attempts are counted by the application: each test has its own.
afterEach(() => void (app = createApp(running, quiet)))

const signedIn = (method: 'get' | 'post' | 'delete', path: string, by = eda1) =>
  request(app)[method](path).set('Cookie', by.cookie).set('X-CSRF-Token', by.csrf)

async function makeKey(key: Partial<NewApiKey> = {}) {
  const body = { present: '', key: { name: 'The website', scope: 'look', days: null, ...key } }
  const answer = await signedIn('post', '/api/keys').send(body)
  expect(answer.status).toBe(200)
  return answer.body as { id: string; key: string }
}

const by = (key: string, method: Endpoint['method'], path: string, body?: object) =>
  request(app)[method.toLowerCase() as 'get'](path).set('Authorization', `Bearer ${key}`).send(body)

const pathOf = ({ path }: Pick<Endpoint, 'path'>) => path.replace(/:(\w+)/g, 'xx_1')

describe('a key', () => {
  test.each(keyScopes)(
    'that reaches as far as “%s” gets at each endpoint as the table says, and at no other',
    async (scope) => {
      const { key } = await makeKey({ scope })
      const reach = {
        look: ['signed in'],
        work: ['signed in', 'team'],
        everything: ['signed in', 'team', 'owner'],
      }[scope]
      for (const [name, endpoint] of Object.entries(endpoints as Record<string, Endpoint>)) {
        if (endpoint.access === 'anybody') continue
        // Each may ask only so often.
        app = createApp(running, quiet)
        const { status } = await by(
          key,
          endpoint.method,
          pathOf(endpoint),
          endpoint.method === 'GET' ? undefined : {},
        )
        const isLook = scope !== 'look' || endpoint.method === 'GET'
        const mayAsk = endpoint.byKey && isLook && reach.includes(endpoint.access)
        expect([name, status === 403]).toEqual([name, !mayAsk])
        expect([name, status]).not.toEqual([name, 401])
      }
    },
  )

  test('is kept as a hash alone, is seen in the list by how it begins, and is in no bundle', async () => {
    const { id, key } = await makeKey({ name: 'Kept nowhere', days: 30 })
    const database = running.application.store.statements.all('apiKeys', { personId: null })
    expect(JSON.stringify(database)).not.toContain(key)
    const listed = (await signedIn('get', '/api/keys')).body as {
      keys: { id: string; hint: string; endsAt: number }[]
    }
    const line = listed.keys.find((one) => one.id === id)
    expect(key.startsWith(line?.hint ?? 'x')).toBe(true)
    expect(Math.round(((line?.endsAt ?? 0) - Date.now()) / dayMs)).toBe(30)
    const bundle = await signedIn('get', '/api/out/business.json')
    expect(bundle.text).not.toContain('api_keys')
  })

  test('does the team’s work without the token of a browser, once for each id, and the record says by which key', async () => {
    const { key } = await makeKey({ scope: 'work', name: 'Front desk' })
    const body = { commandId: 'from-the-desk-1', client: clientInput('Oona', 'oona@siltanen.example') }
    const first = await by(key, 'POST', '/api/clients', body)
    const again = await by(key, 'POST', '/api/clients', body)
    expect([first.status, again.status]).toEqual([200, 200])
    expect(again.body).toEqual(first.body)
    const [act] = running.record.list({ words: 'front desk', personId: null, afterId: null, limit: 5 })
    expect(act).toMatchObject({ personName: 'Eda', sentence: 'Add a client · by the key “Front desk”' })
    const used = (await signedIn('get', '/api/keys')).body as {
      keys: { name: string; usedAt: number | null }[]
    }
    expect(
      Math.abs(Date.now() - (used.keys.find(({ name }) => name === 'Front desk')?.usedAt ?? 0)),
    ).toBeLessThan(60_000)
  })

  test('that is wrong, over or taken back opens nothing, not even beside a cookie that does', async () => {
    const { id, key } = await makeKey()
    expect((await by(key, 'GET', '/api/clients')).status).toBe(200)
    expect((await signedIn('delete', `/api/keys/${id}`)).status).toBe(200)
    expect((await signedIn('delete', `/api/keys/${id}`)).status).toBe(404)
    for (const wrong of [key, `${key}x`, 'vorfreude_', '']) {
      const answer = await by(wrong, 'GET', '/api/clients').set('Cookie', eda1.cookie)
      expect([wrong, answer.status, answer.headers['www-authenticate']]).toEqual([wrong, 401, 'Bearer'])
    }
    const over = await makeKey({ days: 30 })
    const now = Date.now
    Date.now = () => now() + 31 * dayMs
    try {
      expect((await by(over.key, 'GET', '/api/clients')).status).toBe(401)
    } finally {
      Date.now = now
    }
  })

  test('is asked only so often, and wrong ones are not found by trying', async () => {
    const { key } = await makeKey()
    let last = await by(key, 'GET', '/api/keys')
    for (let count = 0; count < 70 && last.status !== 429; count++)
      last = await by(`wrong-${count}`, 'GET', '/api/clients')
    expect(last.status).toBe(429)
    expect(Number(last.headers['retry-after'])).toBeGreaterThan(0)
    app = createApp(running, quiet)
    const all = []
    for (let count = 0; count < 301; count++) all.push((await by(key, 'GET', '/api/session')).status)
    expect([all.slice(0, 300).every((status) => status === 200), all[300]]).toEqual([true, 429])
  })

  test('belongs to its person: others see and end only their own, and who is gone takes theirs along', async () => {
    const { store, settings } = running.application
    const kit = { ...eda, id: 'pe_kit', name: 'Kit', email: 'kit@kiteworks.example', role: 'helper' } as const
    store.transaction(() => addPerson(store.statements, kit, null))
    settings.forget()
    const answer = await request(app).post('/api/session/demo').send({ personId: kit.id })
    const own = {
      cookie: answer.headers['set-cookie']?.[0]?.split(';')[0] ?? '',
      csrf: (answer.body as { csrfToken: string }).csrfToken,
    }
    const ofEda = await makeKey()
    const made = await signedIn('post', '/api/keys', own).send({
      present: '',
      key: { name: 'Kit’s', scope: 'everything', days: null },
    })
    const { key } = made.body as { key: string }
    const names = async (who: typeof own) =>
      ((await signedIn('get', '/api/keys', who)).body as { keys: { name: string }[] }).keys.map(
        ({ name }) => name,
      )
    expect(await names(own)).toEqual(['Kit’s'])
    expect(await names(eda1)).toContain('Kit’s')
    expect((await signedIn('delete', `/api/keys/${ofEda.id}`, own)).status).toBe(404)
    // The key reaches no further than its person.
    expect((await by(key, 'GET', '/api/acts')).status).toBe(403)
    expect((await by(key, 'GET', '/api/clients')).status).toBe(200)
    const { id: kitId, revision, ...plain } = kit
    const person = { ...plain, away: [], isActive: false }
    const change = { of: 'person', id: kitId, revision, person } as const
    const gone = running.commands.changeSettings(call('changeSettings'), change, null)
    expect(gone.ok).toBe(true)
    expect((await by(key, 'GET', '/api/clients')).status).toBe(401)
  })
})

test('in a real house a key is made by whoever knows the password', async () => {
  const word = 'Blåbær på tur 7'
  const house = await openRealHouse(testFolder(), [[eda, word]])
  try {
    const { store } = house.application
    const real = createApp(house, quiet)
    const answer = await request(real).post('/api/session').send({ email: eda.email, password: word })
    const cookie = answer.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
    const { csrfToken } = answer.body as { csrfToken: string }
    const tell = (path: string, body: object) =>
      request(real).post(path).set('Cookie', cookie).set('X-CSRF-Token', csrfToken).send(body)
    const key = { name: 'x', scope: 'look', days: 30 }
    expect((await tell('/api/keys', { present: 'guess', key })).status).toBe(422)
    expect((await tell('/api/web-calls/secret', { present: 'guess' })).status).toBe(422)
    expect((await tell('/api/keys', { present: word, key })).status).toBe(200)
    const { secret } = (await tell('/api/web-calls/secret', { present: word })).body as { secret: string }
    expect(secret).toBe(store.keys.webCalls)
  } finally {
    await house.end()
  }
})

describe('calls to a web address', () => {
  test('are received, signed, by who checks that; each stands in the list, and goes once more at a press', async () => {
    const { store } = running.application
    const receiver = await listenForCalls(store.keys.webCalls)
    const at = (path: string) => `http://127.0.0.1:${receiver.port}${path}`
    const steps = [at('/ok'), at('/answers/410')].map((url, index) =>
      plainStep.parse({ id: `st_call${index}`, kind: 'web call', url, timing: { kind: 'at once' } }),
    )
    addLive(running.application, 'sq_calls', steps)
    addBookedClient(running.application, running.commands, 'Bo', 'bo@mail.example')
    await running.pump.advance(running.application.clock.now() + 1)
    const list = async () =>
      (
        (await signedIn('get', '/api/web-calls')).body as {
          lines: {
            id: string
            url: string
            outcome: string
            sendId: string
            personName: string | null
            isLast: boolean
            state: string
          }[]
        }
      ).lines
    const before = await list()
    expect(before.map(({ url, outcome, state }) => [url, outcome, state]).toSorted()).toEqual([
      [at('/answers/410'), 'refused', 'failed'],
      [at('/ok'), 'accepted', 'sent'],
    ])
    const [ok, gone] = [at('/ok'), at('/answers/410')].map((url) => before.find((one) => one.url === url))
    const again = { commandId: 'once-more-0001' }
    const first = await signedIn('post', `/api/sends/${ok?.sendId}/call-again`).send(again)
    const second = await signedIn('post', `/api/sends/${ok?.sendId}/call-again`).send(again)
    expect([first.body, second.status]).toEqual([{ outcome: 'accepted', answer: '204 No Content' }, 200])
    expect(
      receiver
        .calls()
        .filter(({ path }) => path === '/ok')
        .map(({ isSigned, before: times }) => [isSigned, times]),
    ).toEqual([
      [true, 1],
      [true, 0],
    ])
    expect((await list())[0]).toMatchObject({ url: at('/ok'), personName: 'Eda', isLast: true })
    const refused = await signedIn('post', `/api/sends/${gone?.sendId}/call-again`).send({
      commandId: 'once-more-0002',
    })
    expect(refused.status).toBe(409)
    expect(
      (await signedIn('post', '/api/sends/sd_none/call-again').send({ commandId: 'once-more-0003' })).status,
    ).toBe(404)
    await receiver.close()
  })

  test('signed with something else are refused by the receiver, and its page shows them harmless', async () => {
    const receiver = await listenForCalls('the right secret')
    const body = JSON.stringify({ id: '<script>alert(1)</script>' })
    const post = (secret: string) =>
      fetch(`http://127.0.0.1:${receiver.port}/x`, {
        method: 'POST',
        body,
        headers: { 'Vorfreude-Signature': `sha256=${signatureOf(body, secret)}` },
      })
    expect((await post('another')).status).toBe(401)
    expect((await post('the right secret')).status).toBe(204)
    const page = await (await fetch(`http://127.0.0.1:${receiver.port}/`)).text()
    expect(page).toContain('not signed with this secret')
    expect(page).not.toContain('<script>')
    await receiver.close()
  })
})
