import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request, { type Response } from 'supertest'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { letStarterGoLive, testFolder } from '../testing/seed.ts'
import { createApp } from './app.ts'

const setUpInput = {
  businessName: 'Kiteworks',
  zone: 'Europe/Berlin',
  senderAddress: 'hello@kiteworks.example',
  postalAddress: 'Dune Road 1, 00000 Sandby',
  phone: '',
  personName: 'Ada Windermeer',
  personEmail: 'ada@kiteworks.example',
  password: 'a long enough one',
  service: { name: 'Kite lesson', place: 'South beach', durationMinutes: 120, seats: 4 },
}

let running: RunningApplication
let app: ReturnType<typeof createApp>
let cookie = ''
let csrf = ''
let serviceId = ''
let clientId = ''
let commands = 0
/** What pages of clients answered while there was no business. */
let beforeSetUp: readonly Response[] = []

const commandId = () => `command-${String((commands += 1)).padStart(6, '0')}`

beforeAll(async () => {
  running = await openApplication({
    folder: testFolder(),
    isDemo: true,
    smtpUrl: null,
    onFault: (fault) => {
      throw fault
    },
  })
  app = createApp(running, pino({ level: 'silent' }))
  beforeSetUp = await Promise.all(
    ['/book', '/book/sv_1', '/choose/x', '/yours/x', '/all/x', '/pay/x', '/feed/x/bookings.ics'].map((path) =>
      request(app).get(path),
    ),
  )
  const answer = await request(app)
    .post('/api/first-run')
    .send({ ...setUpInput, word: running.firstRunWord })
  expect(answer.status).toBe(200)
  cookie = answer.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
  csrf = (answer.body as { csrfToken: string }).csrfToken
  letStarterGoLive(running.application)
  // Only acts after the sequence went live start it, and the demo's clock stands.
  await running.pump.advance(running.application.clock.now() + 60_000)
  serviceId = ((await get('/api/settings')).body as { services: { id: string }[] }).services[0]?.id ?? ''
  clientId = ((await post('/api/clients', { client: clientOf() })).body as { id: string }).id
})

afterAll(() => running.end())

const get = (path: string) => request(app).get(path).set('Cookie', cookie)
const post = (path: string, body: object) =>
  request(app)
    .post(path)
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .send({ commandId: commandId(), ...body })

function clientOf(part: object = {}) {
  return {
    name: 'Oona Siltanen',
    zone: null,
    language: 'en',
    tags: [],
    takesPromotional: false,
    isActive: true,
    contacts: [
      {
        id: null,
        firstName: 'Oona',
        lastName: 'Siltanen',
        email: 'oona@siltanen.example',
        phone: '',
        isPrimary: true,
      },
    ],
    namedDates: [],
    ...part,
  }
}

const bookingOf = (part: object = {}) => ({
  clientId,
  serviceId,
  startLocal: '2026-06-16T19:00',
  endLocal: '2026-06-16T21:00',
  partySize: 2,
  status: 'confirmed',
  personInChargeId: null,
  ...part,
})

interface ProblemBody {
  readonly code: string
  readonly detail: string
  readonly errors?: readonly { readonly path: string; readonly detail: string }[]
}

function problem(response: Response, status: number): ProblemBody {
  expect(response.headers['content-type']).toMatch('application/problem+json')
  expect(response.status).toBe(status)
  const body = response.body as ProblemBody
  expect(body.detail).not.toMatch(/at .*\.ts/)
  return body
}

describe('bad input gets a clear answer', () => {
  test('end before start', async () => {
    const answer = await post('/api/bookings', { booking: bookingOf({ endLocal: '2026-06-16T18:00' }) })
    expect(problem(answer, 422).errors).toContainEqual({
      path: 'booking.endLocal',
      detail: 'The end must be after the start.',
    })
  })

  test('a day that does not exist', async () => {
    const answer = await post('/api/bookings', { booking: bookingOf({ startLocal: '2026-02-30T19:00' }) })
    expect(problem(answer, 422).detail).toMatch('no such day')
  })

  test('an unknown zone', async () => {
    const answer = await post('/api/clients', { client: clientOf({ zone: 'Middle-earth/Shire' }) })
    expect(problem(answer, 422).errors?.[0]).toEqual({
      path: 'zone',
      detail: 'There is no time zone named Middle-earth/Shire. One looks like Europe/Berlin.',
    })
  })

  test('a malformed address', async () => {
    const [contact] = clientOf().contacts
    const answer = await post('/api/clients', {
      client: clientOf({ contacts: [{ ...contact, email: 'oona at home' }] }),
    })
    expect(problem(answer, 422).errors?.[0]?.path).toBe('client.contacts.0.email')
  })

  test('a name with a line break', async () => {
    const answer = await post('/api/clients', { client: clientOf({ name: 'A\r\nBcc: x' }) })
    expect(problem(answer, 422).detail).toMatch('Line breaks')
  })

  test('more people than seats at that time, counted over all bookings', async () => {
    expect((await post('/api/bookings', { booking: bookingOf({ partySize: 3 }) })).status).toBe(200)
    const answer = await post('/api/bookings', {
      booking: bookingOf({ startLocal: '2026-06-16T20:00', endLocal: '2026-06-16T22:00' }),
    })
    const { code, errors } = problem(answer, 409)
    expect(code).toBe('no seats left')
    expect(errors?.[0]?.detail).toBe('Kite lesson has only 1 of 4 seats left at that time.')
  })

  test('cancelling a cancelled booking; nothing is half changed', async () => {
    const made = await post('/api/bookings', {
      booking: bookingOf({ startLocal: '2026-07-01T10:00', endLocal: '2026-07-01T12:00' }),
    })
    const { id } = made.body as { id: string }
    expect((await post(`/api/bookings/${id}/cancel`, { revision: 1 })).status).toBe(200)
    const before = (await get(`/api/bookings/${id}`)).body as unknown
    const answer = await post(`/api/bookings/${id}/cancel`, { revision: 2 })
    expect(problem(answer, 409).detail).toBe('A booking that is cancelled cannot be cancelled.')
    expect((await get(`/api/bookings/${id}`)).body).toEqual(before)
  })

  test('an old revision', async () => {
    const made = await post('/api/bookings', {
      booking: bookingOf({ startLocal: '2026-07-03T10:00', endLocal: '2026-07-03T12:00' }),
    })
    const { id } = made.body as { id: string }
    expect(problem(await post(`/api/bookings/${id}/cancel`, { revision: 5 }), 409).code).toBe(
      'changed meanwhile',
    )
  })

  test.each([
    ['/api/bookings/bk_none', 'There is no such booking.'],
    ['/api/clients/cl_none', 'There is no such client.'],
    ['/api/sends/sd_none', 'There is no such message.'],
    ['/api/mail/99999', 'There is no such message in the post office.'],
    ['/api/mail/99/html', 'This message has no HTML part.'],
    ['/api/mail/x/html', 'There is nothing at /api/mail/x/html. id: A message has a number.'],
  ])('an id that does not exist: %s', async (path, detail) => {
    expect(problem(await get(path), 404).detail).toBe(detail)
  })

  test.each(['2026-99-99', '0000-00-00', '31.02.2026', '1.1.99999', '%', '\\'])(
    'something to find that looks like a date or a pattern and is none: %s',
    async (text) => {
      const answer = await get(`/api/find?text=${encodeURIComponent(text)}`)
      expect([answer.status, Object.keys(answer.body as object)]).toEqual([200, ['found']])
    },
  )

  test('an announcement whose name is as long as a page', async () => {
    const answer = await post('/api/sequences/sq_1/effect', {
      announcementId: 'x'.repeat(2000),
      design: { name: 'Before a lesson', start: { on: 'booking confirmed' }, steps: [], stops: [] },
      rollout: { movesRunning: false, includesExisting: false },
    })
    expect(problem(answer, 422).errors?.[0]?.path).toBe('announcementId')
  })

  test('JSON that is not JSON', async () => {
    const answer = await request(app)
      .post('/api/bookings')
      .set('Cookie', cookie)
      .set('X-CSRF-Token', csrf)
      .set('Content-Type', 'application/json')
      .send('{"booking": ')
    expect(problem(answer, 400).detail).toBe('The body is not JSON.')
  })

  test('a body over the limit', async () => {
    const answer = await post('/api/clients', { client: clientOf({ name: 'x'.repeat(1_100_000) }) })
    expect(problem(answer, 413).code).toBe('too large')
  })

  test('an unknown route, an unknown method, an unknown field', async () => {
    expect(problem(await get('/api/nowhere'), 404).detail).toBe('There is nothing at GET /api/nowhere.')
    expect(problem(await request(app).patch('/api/clients').set('Cookie', cookie), 404).code).toBe(
      'not found',
    )
    expect(problem(await post('/api/clients', { client: clientOf(), extra: 1 }), 422).detail).toMatch('extra')
  })

  test('bad dates and states in the address', async () => {
    expect(problem(await get('/api/sends?from=soon&to=2026-06-01&states=ready'), 422).errors?.[0]?.path).toBe(
      'from',
    )
    expect(problem(await get('/api/sends?from=2026-05-01&to=2026-06-01&states=lost'), 422).code).toBe(
      'invalid',
    )
  })

  test('a clock that is to go backwards or too far', async () => {
    const back = await post('/api/clock/move', {
      to: 'date',
      local: '2026-01-01T08:00',
      commandId: undefined,
    })
    expect(problem(back, 422).detail).toBe('The clock only moves forward.')
    const far = await post('/api/clock/move', { to: 'date', local: '2036-01-01T08:00', commandId: undefined })
    expect(problem(far, 422).detail).toBe('Not more than 400 days at once.')
  })
})

describe('who may', () => {
  test('nobody without a session', async () => {
    expect(problem(await request(app).get('/api/clients'), 401).detail).toBe('Sign in first.')
    expect(problem(await request(app).get('/api/changes'), 401).code).toBe('not signed in')
    expect(problem(await request(app).get('/api/mail/1/html'), 401).code).toBe('not signed in')
  })

  test('no change without the token of the session', async () => {
    const answer = await request(app).post('/api/clock/stop').set('Cookie', cookie).send({})
    expect(problem(answer, 403).code).toBe('forbidden')
  })

  test('with address and password; the cookie is kept from scripts and other sites', async () => {
    const answer = await request(app)
      .post('/api/session')
      .send({ email: 'ADA@kiteworks.example', password: setUpInput.password })
    expect(answer.status).toBe(200)
    expect(answer.headers['set-cookie']?.[0]).toMatch(/HttpOnly; SameSite=Strict/)
    expect((answer.body as { person: { name: string } }).person.name).toBe('Ada Windermeer')
  })

  test('sign out ends the session', async () => {
    const inn = await request(app)
      .post('/api/session')
      .send({ email: setUpInput.personEmail, password: setUpInput.password })
    const own = inn.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
    const { csrfToken } = inn.body as { csrfToken: string }
    await request(app).delete('/api/session').set('Cookie', own).set('X-CSRF-Token', csrfToken).send({})
    expect((await request(app).get('/api/clients').set('Cookie', own)).status).toBe(401)
  })

  test('a second set-up is refused', async () => {
    expect(
      problem(
        await request(app)
          .post('/api/first-run')
          .send({ ...setUpInput, word: running.firstRunWord }),
        409,
      ).detail,
    ).toMatch('already')
  })

  test('after ten wrong passwords nobody for a minute', async () => {
    const guess = () =>
      request(app).post('/api/session').send({ email: setUpInput.personEmail, password: 'wrong one' })
    const codes = []
    for (let index = 0; index < 12; index += 1) codes.push((await guess()).status)
    expect(codes[0]).toBe(401)
    expect(codes.at(-1)).toBe(429)
  })
})

describe('a beginning', () => {
  test('before there is a business the pages of clients say that they are not open yet', () => {
    for (const { status, text } of beforeSetUp) {
      expect([status, text.includes('Nothing can be booked here yet.')]).toEqual([503, true])
    }
    expect(beforeSetUp).toHaveLength(7)
  })

  const missing = async () =>
    ((await get('/api/beginning')).body as { steps: { step: string; isDone: boolean }[] }).steps
      .filter(({ isDone }) => !isDone)
      .map(({ step }) => step)

  test('a rehearsal goes to the owner’s own address, message by message, and is noted', async () => {
    expect(await missing()).toContain('rehearsal')
    const answer = await post('/api/rehearsal', {})
    expect(answer.status).toBe(200)
    const { address, messages } = answer.body as { address: string; messages: { subject: string }[] }
    expect(address).toBe(setUpInput.personEmail)
    expect(messages).toHaveLength(2)
    const mailbox = await get(`/api/mailboxes/${encodeURIComponent(address)}`)
    const taken = (mailbox.body as { messages: { subject: string }[] }).messages.map(({ subject }) => subject)
    for (const { subject } of messages) {
      expect(subject).toMatch(/^Rehearsal, for /)
      expect(taken).toContain(subject)
    }
    expect(await missing()).not.toContain('rehearsal')
  })

  test('nobody has booked by it, and no client has been added', async () => {
    const names = ((await get('/api/clients')).body as { lines: { name: string }[] }).lines
    expect(names.map(({ name }) => name)).not.toContain(setUpInput.personName)
    expect(running.application.store.statements.one('countClients')?.['count']).toBe(names.length)
  })
})

describe('what it says of itself', () => {
  test('every command records who gave it', async () => {
    const answer = await get(`/api/clients/${clientId}/history`)
    const history = (answer.body as { lines: { kind: string; personName: string }[] }).lines
    expect(history.find(({ kind }) => kind === 'client added')?.personName).toBe('Ada Windermeer')
  })

  test('an OpenAPI document with every endpoint', async () => {
    const answer = await get('/api/openapi.json')
    const { paths } = answer.body as { paths: Record<string, Record<string, unknown>> }
    expect(Object.keys(paths)).toContain('/api/bookings/{id}/move')
    expect(paths['/api/bookings']).toHaveProperty('post.requestBody')
    // Whatever is referred to stands in it.
    const { components } = answer.body as { components: { schemas: Record<string, unknown> } }
    const referred = [...answer.text.matchAll(/"\$ref":"([^"]*)"/g)].map(([, to = '']) => to)
    const places = Object.keys(components.schemas).map((name) => `#/components/schemas/${name}`)
    expect(new Set(referred)).toEqual(new Set(places))
    expect(places.length).toBeGreaterThan(0)
  })

  test('the HTML of a message may run and load nothing', async () => {
    await post('/api/bookings', {
      booking: bookingOf({ startLocal: '2026-08-01T10:00', endLocal: '2026-08-01T12:00' }),
    })
    await running.pump.settled()
    await running.pump.advance(running.application.clock.now())
    const mailbox = await get('/api/mailboxes/oona%40siltanen.example')
    const id = (mailbox.body as { messages: { id: number }[] }).messages[0]?.id
    const html = await get(`/api/mail/${id}/html`)
    expect(html.headers['content-security-policy']).toMatch(/^sandbox; default-src 'none'/)
    expect(html.text).toContain('Hello Oona,')
  })
})
