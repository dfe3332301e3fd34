import { readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import type { Endpoint } from '#core/api/endpoint.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { clientPageEndpoints, fileEndpoints } from '#core/api/fileEndpoints.ts'
import { dayMs } from '#core/time/calendar.ts'
import { openStore } from '../db/database.ts'
import { addPerson } from '../db/settingsStore.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { KeyFileError } from '../mail/keys.ts'
import { isOwnNetwork, lookUpOutside } from '../mail/ownNetwork.ts'
import { idOfToken, signedToken } from '../mail/signedLinks.ts'
import { callWeb } from '../mail/webCall.ts'
import { hashPassword } from '../session/password.ts'
import { addBookedClient, eda, openExample, testFolder, writeExampleBusiness } from '../testing/seed.ts'
import { createApp } from './app.ts'

/* Who gets in, by which door, and how far. */

const publicUrl = 'https://kiteworks.example'
const password = 'Blåbær på tur 7'
const helper = { ...eda, id: 'pe_helper', email: 'helper@kiteworks.example', role: 'helper' } as const
const onlooker = { ...eda, id: 'pe_looks', email: 'looks@kiteworks.example', role: 'onlooker' } as const
const quiet = pino({ level: 'silent' })

let running: RunningApplication
let app: Express
beforeAll(async () => {
  running = await openApplication({
    folder: testFolder(),
    isDemo: true,
    smtpUrl: null,
    publicUrl: () => publicUrl,
    onFault: (fault) => {
      throw fault
    },
  })
  const { store, settings } = running.application
  const hash = await hashPassword(password)
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addPerson(store.statements, eda, hash)
    addPerson(store.statements, helper, hash)
    addPerson(store.statements, onlooker, hash)
  })
  settings.forget()
})
afterAll(() => running.end())
// Attempts are counted by the application: each test has its own.
afterEach(() => void (app = createApp(running, quiet)))
beforeAll(() => void (app = createApp(running, quiet)))

interface SignedIn {
  readonly cookie: string
  readonly csrf: string
  readonly setCookie: string
}

async function signIn(email: string, host = '127.0.0.1', word = password): Promise<SignedIn> {
  const answer = await request(app).post('/api/session').set('Host', host).send({ email, password: word })
  expect(answer.status).toBe(200)
  const setCookie = answer.headers['set-cookie']?.[0] ?? ''
  return {
    setCookie,
    cookie: setCookie.split(';')[0] ?? '',
    csrf: (answer.body as { csrfToken: string }).csrfToken,
  }
}

const ask = ({ cookie, csrf }: SignedIn, method: Endpoint['method'], path: string, body: object = {}) =>
  request(app)
    [method.toLowerCase() as 'get' | 'post' | 'put' | 'delete'](path)
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .send(method === 'GET' ? undefined : body)

describe('who may ask what', () => {
  /** Every endpoint stands here; a new one has to be given its place. */
  const ofOwner = [
    'acts',
    'addFurtherAccount',
    'addIncomingMailbox',
    'backups',
    'beginning',
    'callSecret',
    'changeFurtherAccount',
    'changeIncomingMailbox',
    'changeSettings',
    'compareSent',
    'endSecondFactorOf',
    'findMailAccount',
    'invite',
    'putIntoEffect',
    'removeMailAccount',
    'removeOwnStatus',
    'removeSequence',
    'removeService',
    'domainRecords',
    'safety',
    'removeFurtherAccount',
    'removeIncomingMailbox',
    'setAllowance',
    'setDailyCap',
    'setMailAccount',
    'setMarkedAnswers',
    'setNoticing',
    'setOnlyTo',
    'setPublicUrl',
    'setSending',
    'setSourcesKept',
    'stopRollout',
    'switchSequence',
    'takeBackup',
    'takeUpRollout',
    'trustClock',
    'rehearse',
    'tryIncomingMailbox',
    'tryMailAccount',
    'waysBack',
    'waysIn',
    'waysOut',
    'addPipeline',
    'addDocument',
    'changeDocument',
    'removeDocument',
    'addForm',
    'changeForm',
    'removeForm',
    'addMove',
    'changeMove',
    'removeMove',
    'changePipeline',
    'removePipeline',
  ]
  const ofAnybody = ['firstRun', 'forgotten', 'lookAtWayIn', 'session', 'signIn', 'signInToDemo', 'takeWayIn']
  /** Looked at, or about the own way in. */
  const ofSignedIn = [
    'alike',
    'apiKeys',
    'audience',
    'beginSecondFactor',
    'booking',
    'bookings',
    'bookingsOfClient',
    'businessSettings',
    'calendarFeeds',
    'changePassword',
    'client',
    'clientImports',
    'clientName',
    'clients',
    'confirmSecondFactor',
    'desk',
    'deskIncoming',
    'deskMessages',
    'deskTasks',
    'deskWaiting',
    'difference',
    'doublesOfClient',
    'endApiKey',
    'endDifference',
    'endSecondFactor',
    'endSession',
    'find',
    'forecast',
    'heldBackBySequence',
    'historyOfClient',
    'incoming',
    'incomingOfClient',
    'letter',
    'letterCandidates',
    'letterFacts',
    'letters',
    'load',
    'mail',
    'mailbox',
    'makeApiKey',
    'noteWishes',
    'overview',
    'previewSequence',
    'previewSubjects',
    'ribbon',
    'secondFactor',
    'send',
    'sendDays',
    'sendPreview',
    'sends',
    'sendsOfClient',
    'sentMail',
    'sequence',
    'sequences',
    'sessions',
    'setNoteWishes',
    'settings',
    'signOut',
    'sourcesKept',
    'startDifference',
    'timetable',
    'trust',
    'usesOfOwnStatus',
    'usesOfService',
    'webCalls',
    'whyNot',
    'pipeline',
    'move',
    'form',
    'document',
    'movesOffered',
    'endedEnquiries',
    'enquiriesDue',
    'enquiry',
    'enquiriesOfClient',
  ]
  const ofTeam = [
    'reactAsClient',
    'actOnBookings',
    'actOnIncoming',
    'actOnSends',
    'addClient',
    'addExample',
    'addFile',
    'addInvoice',
    'addLetter',
    'addOwnWord',
    'addSequence',
    'addTask',
    'archiveLetter',
    'askAboutBooking',
    'askAboutClient',
    'askAboutSends',
    'backToApproval',
    'bringIn',
    'bringInClients',
    'callAgain',
    'cancelBooking',
    'changeBooking',
    'changeClient',
    'changeTask',
    'chooseIncomingClient',
    'completeBooking',
    'confirmBooking',
    'countAsAnswer',
    'decideSend',
    'dropDesign',
    'dropLetterDraft',
    'finishIncoming',
    'finishTask',
    'followAsClient',
    'giveOwnStatus',
    'handIncomingOn',
    'holdBackClient',
    'letterEffect',
    'lookAtBookingTable',
    'lookAtCalendar',
    'lookAtTable',
    'lookForMail',
    'makeBooking',
    'mendAddress',
    'mergeClients',
    'missBooking',
    'moveBooking',
    'moveClock',
    'noteOnBooking',
    'noticeClient',
    'notePayment',
    'openTable',
    'passageEffect',
    'postponeSend',
    'publishLetter',
    'putPassage',
    'readLetterFile',
    'readMails',
    'readSequenceFile',
    'removeLetter',
    'removePassage',
    'removeVariation',
    'renewCalendarFeed',
    'saveDesign',
    'saveLetterDraft',
    'sendAnswerAgain',
    'sendByLetter',
    'sendTestCopy',
    'settleBooking',
    'startSettingsDifference',
    'stopClock',
    'stopSequence',
    'resumeSequence',
    'tableProgress',
    'takeClientsBack',
    'takeMergeBack',
    'tryAccount',
    'unblockAddress',
    'vary',
    'voidInvoice',
    'writeAnswer',
    'writeNote',
    'writeOwnWords',
    'writePersonalLine',
    'addEnquiry',
    'moveEnquiries',
    'changeEnquiry',
    'moveEnquiry',
    'pressMove',
    'previewForm',
    'decideDifferences',
    'takeMoveBack',
    'bookEnquiry',
    'tickLine',
    'untickLine',
    'tellAgain',
    'setEvening',
    'noteOnEnquiry',
  ]
  const table = [
    ...ofOwner.map((name) => [name, 'owner']),
    ...ofAnybody.map((name) => [name, 'anybody']),
    ...ofSignedIn.map((name) => [name, 'signed in']),
    ...ofTeam.map((name) => [name, 'team']),
  ].sort()

  test('is decided for every endpoint', () => {
    const present = Object.entries(endpoints as Record<string, Endpoint>).map(([name, { access }]) => [
      name,
      access,
    ])
    expect(present.sort()).toEqual(table)
  })

  const pathOf = ({ path }: Pick<Endpoint, 'path'>) => path.replace(/:\w+/g, 'x')

  test('nobody who is not signed in gets at anything of the team', async () => {
    for (const [name, access] of table) {
      const endpoint = (endpoints as Record<string, Endpoint>)[name ?? '']
      if (!endpoint || access === 'anybody') continue
      const method = endpoint.method.toLowerCase() as 'get'
      expect([name, (await request(app)[method](pathOf(endpoint))).status]).toEqual([name, 401])
    }
    for (const one of Object.values(fileEndpoints)) {
      expect([one.path, (await request(app).get(pathOf(one))).status]).toEqual([one.path, 401])
    }
  })

  const sentenceOf = { helper: 'Only the owner can do this.', onlooker: 'You look only' } as const
  const refusedTo = {
    owner: [],
    helper: ofOwner,
    onlooker: [...ofOwner, ...ofTeam],
  } as const

  test.each([eda, helper, onlooker])(
    'every endpoint as $role: refused before anything is looked at where the table says so, and only there',
    async ({ email, role }) => {
      const own = await signIn(email)
      // What ends the session that asks comes last.
      const names = table.map(([name = '']) => name).filter((name) => name !== 'signOut')
      for (const name of names) {
        const endpoint = (endpoints as Record<string, Endpoint>)[name]
        if (!endpoint || endpoint.access === 'anybody') continue
        const answer = await ask(own, endpoint.method, pathOf(endpoint))
        const isRefused = (refusedTo[role] as readonly string[]).includes(name)
        expect([name, answer.status === 403]).toEqual([name, isRefused])
        if (!isRefused) continue
        const { detail } = answer.body as { detail: string }
        const said = endpoint.access === 'owner' ? sentenceOf.helper : sentenceOf[role as 'onlooker']
        expect([name, detail]).toEqual([name, expect.stringContaining(said)])
      }
    },
  )

  test('a person who only looks sees every page and every file', async () => {
    const own = await signIn(onlooker.email)
    // What never ends is asked for by the browser tests.
    for (const one of Object.values(fileEndpoints).filter(
      ({ type, access }) => type !== 'text/event-stream' && access === 'signed in',
    )) {
      expect([one.path, (await ask(own, 'GET', pathOf(one))).status]).not.toEqual([one.path, 403])
    }
  })

  test('the document describes every route there is', async () => {
    const own = await signIn(eda.email)
    const { paths } = (await ask(own, 'GET', '/api/openapi.json')).body as {
      paths: Record<string, Record<string, unknown>>
    }
    const described = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method} ${path}`),
    )
    const served = servedRoutes()
    const inBraces = (path: string) => path.replace(/\{\/\*\w+\}/g, '').replace(/:(\w+)/g, '{$1}')
    const missing = served
      // What answers for all that is nowhere, the pages of the interface, and what only counts attempts.
      .filter(({ path }) => !path.endsWith('{*path}'))
      .map(({ method, path }) => [method, inBraces(path)] as const)
      // A path that takes every method is described by those that are used.
      .filter(
        ([method, path]) => !(path === '/test' && path in paths) && !described.includes(`${method} ${path}`),
      )
    expect(missing).toEqual([])
    expect(served.length).toBeGreaterThan(80)
    expect(clientPageEndpoints.every(({ path }) => inBraces(path) in paths)).toBe(true)
  })

  test('no path is taken for the value in another', () => {
    const routes = servedRoutes().filter(({ path }) => !path.includes('*'))
    const takes = (path: string) => new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}$`)
    const first = (method: string, path: string) =>
      routes.find((one) => one.method === method && takes(one.path).test(path))?.path
    expect(routes.length).toBeGreaterThan(80)
    expect(routes.map(({ method, path }) => [path, first(method, path)])).toEqual(
      routes.map(({ path }) => [path, path]),
    )
  })

  /** Every route in the order they are tried. */
  function servedRoutes() {
    interface Layer {
      readonly route?: { readonly path: string | string[]; readonly methods: Record<string, boolean> }
    }
    const { stack } = (app as unknown as { router: { stack: Layer[] } }).router
    return stack.flatMap(({ route }) =>
      route
        ? [route.path]
            .flat()
            .flatMap((path) => Object.keys(route.methods).map((method) => ({ method, path })))
        : [],
    )
  }
})

describe('the name a request is for', () => {
  test.each([
    ['127.0.0.1:4321', 200],
    ['localhost:4321', 200],
    ['[::1]:4321', 200],
    ['kiteworks.example', 200],
    ['KITEWORKS.example', 200],
    ['kiteworks.example:8443', 403],
    ['evil.example', 403],
    ['127.0.0.1.evil.example', 403],
    ['kiteworks.example.evil.example', 403],
  ])('%s: %s', async (host, status) => {
    expect((await request(app).get('/api/session').set('Host', host)).status).toBe(status)
    expect((await request(app).get('/choose/x').set('Host', host)).status).toBe(status === 200 ? 404 : 403)
  })

  test('at the public address the cookie goes by https only; at home it need not', async () => {
    expect((await signIn(eda.email, 'kiteworks.example')).setCookie).toMatch(/Secure/)
    const atHome = (await signIn(eda.email)).setCookie
    expect(atHome).not.toMatch(/Secure/)
    expect(atHome).toMatch(/HttpOnly.*SameSite=Strict|SameSite=Strict.*HttpOnly/)
  })
})

describe('attempts to sign in', () => {
  const attempt = (email: string, from = '') =>
    request(app)
      .post('/api/session')
      .set('X-Forwarded-For', from)
      .send({ email, password: 'not this one at all' })

  test('are counted for each address, which nobody can claim to have', async () => {
    const statuses: number[] = []
    for (let index = 0; index < 12; index += 1) {
      statuses.push((await attempt(`somebody${index}@kiteworks.example`, `203.0.113.${index}`)).status)
    }
    expect(statuses.slice(0, 10).every((status) => status === 401)).toBe(true)
    expect(statuses.slice(10)).toEqual([429, 429])
  })

  test('behind a named proxy the address it speaks for counts, and each account on its own', async () => {
    app = createApp({ ...running, proxy: '127.0.0.1' }, quiet)
    const statuses: number[] = []
    for (let index = 0; index < 22; index += 1) {
      statuses.push((await attempt(eda.email.toUpperCase(), `203.0.113.${index}`)).status)
    }
    expect(statuses.slice(0, 20).every((status) => status === 401)).toBe(true)
    expect(statuses.slice(20)).toEqual([429, 429])
    expect((await attempt(helper.email, '203.0.113.99')).status).toBe(401)
  })
})

describe('sessions', () => {
  const sessionsOf = async (own: SignedIn) =>
    ((await ask(own, 'GET', '/api/sessions')).body as { sessions: { id: string; isThis: boolean }[] })
      .sessions

  test('can be listed, and each ended; nobody ends those of others', async () => {
    const one = await signIn(helper.email)
    const other = await signIn(helper.email)
    const others = (await sessionsOf(one)).filter(({ isThis }) => !isThis)
    expect(others.length).toBeGreaterThanOrEqual(1)
    const ofOwner = await signIn(eda.email)
    for (const { id } of others) {
      expect((await ask(ofOwner, 'DELETE', `/api/sessions/${id}`)).status).toBe(404)
      expect((await ask(one, 'DELETE', `/api/sessions/${id}`)).status).toBe(200)
    }
    expect((await ask(other, 'GET', '/api/overview')).status).toBe(401)
    expect(await sessionsOf(one)).toHaveLength(1)
  })

  test('end with the password they were begun by', async () => {
    const one = await signIn(helper.email)
    const other = await signIn(helper.email)
    const change = (present: string, next: string) =>
      ask(one, 'POST', '/api/session/password', { present, password: next })
    expect((await change('not this one at all', 'another long one')).status).toBe(422)
    expect((await change(password, 'short')).status).toBe(422)
    expect((await ask(other, 'GET', '/api/overview')).status).toBe(200)
    expect((await change(password, 'another long one')).status).toBe(200)
    expect((await ask(other, 'GET', '/api/overview')).status).toBe(401)
    expect((await ask(one, 'GET', '/api/overview')).status).toBe(200)
    await signIn(helper.email, '127.0.0.1', 'another long one')
  })

  test('signed out, its stream of changes ends', async () => {
    const own = await signIn(eda.email)
    const server = app.listen(0, '127.0.0.1')
    await new Promise((resolve) => server.once('listening', resolve))
    const address = server.address()
    const port = typeof address === 'object' && address ? address.port : 0
    const stream = await fetch(`http://127.0.0.1:${port}/api/changes`, { headers: { Cookie: own.cookie } })
    expect(stream.status).toBe(200)
    const heard = stream.text()
    expect((await ask(own, 'DELETE', '/api/session')).status).toBe(200)
    running.application.changes.publish(['sends'])
    expect(await heard).not.toContain('sends')
    server.close()
  })
})

describe('the links of messages', () => {
  test('are signed with a key that is not in the database, and not by what signs calls', () => {
    const { keys, file } = running.application.store
    expect(keys.links).not.toBe(keys.webCalls)
    expect(idOfToken('booking', signedToken('booking', 'bk_1', { links: keys.webCalls }), keys)).toBeNull()
    const kept = (JSON.parse(readFileSync(join(dirname(file), 'keys.json'), 'utf8')) as { key: string }).key
    for (const name of [file, `${file}-wal`]) {
      expect(readFileSync(name).includes(kept)).toBe(false)
      expect(readFileSync(name).includes(keys.links)).toBe(false)
    }
  })

  test('made before the key had a place of its own still lead somewhere; another key is noticed', async () => {
    const folder = testFolder()
    const first = openStore(folder)
    first.statements.run('writeMeta', { key: 'web call secret', value: 'former' })
    first.close()
    const keyFile = join(folder, 'keys.json')
    writeFileSync(`${keyFile}.away`, readFileSync(keyFile))
    await import('node:fs').then(({ rmSync }) => rmSync(keyFile))
    const second = openStore(folder)
    expect(second.keys).toMatchObject({ formerLinks: 'former', areOthers: true })
    expect(second.statements.one('readMeta', { key: 'web call secret' })).toBeUndefined()
    expect(idOfToken('booking', signedToken('booking', 'bk_1', { links: 'former' }), second.keys)).toBe(
      'bk_1',
    )
    second.close()
    expect(openStore(folder).keys.areOthers).toBe(false)
    const other = testFolder()
    openStore(other).close()
    writeFileSync(join(other, 'keys.json'), '{"key": "x"}')
    expect(() => openStore(other)).toThrow(KeyFileError)
  })

  test('are never kept by anybody in between, and a booking’s ends some time after it', async () => {
    const own = await openExample()
    const bookingId = addBookedClient(own.application, own.commands, 'Oona', 'oona@mail.example', 3)
    const house = createApp(own, quiet)
    const path = new URL(own.application.settings.required().clientLinks.booking(bookingId)).pathname
    const page = await request(house).get(path)
    expect([page.status, page.headers['cache-control']]).toEqual([200, 'no-store'])
    expect((await request(house).get(`${path}/appointment.ics`)).headers['cache-control']).toBe('no-store')
    await own.pump.advance(own.application.clock.now() + 200 * dayMs)
    const ended = await request(house).get(path)
    expect([ended.status, ended.text]).toEqual([404, expect.stringContaining('This link has ended.')])
    await own.end()
  })

  test('are asked for no more often than a person would', async () => {
    const statuses: number[] = []
    for (let index = 0; index < 62; index += 1) {
      statuses.push((await request(app).get(`/yours/x${index}`)).status)
    }
    expect(statuses.filter((status) => status === 429)).toHaveLength(2)
  })

  test('of a test copy lead to a page that says so, whatever is pressed there', async () => {
    for (const path of ['/test', '/test/cancel', '/test/appointment.ics']) {
      for (const method of ['get', 'post'] as const) {
        const answer = await request(app)[method](path)
        expect([path, answer.status, answer.text]).toEqual([
          path,
          200,
          expect.stringContaining('This was a test.'),
        ])
      }
    }
  })
})

describe('calls to web addresses', () => {
  const call = (url: string) => callWeb(url, '{}', { secret: 'x', allowsOwnNetwork: false })

  // IANA special-purpose address registries (RFC 6890); the last ones are public.
  test.each<[string, boolean]>([
    ['127.0.0.1', true],
    ['10.1.2.3', true],
    ['172.31.0.1', true],
    ['172.32.0.1', false],
    ['192.168.1.1', true],
    ['169.254.169.254', true],
    ['100.64.0.1', true],
    ['0.0.0.0', true],
    ['224.0.0.1', true],
    ['::1', true],
    ['::', true],
    ['fe80::1', true],
    ['fd00::1', true],
    ['::ffff:127.0.0.1', true],
    ['::ffff:8.8.8.8', false],
    ['nonsense', true],
    ['8.8.8.8', false],
    ['2001:4860:4860::8888', false],
  ])('%s is in the own network: %s', (address, isOwn) => {
    expect(isOwnNetwork(address)).toBe(isOwn)
  })

  test.each([
    'http://127.0.0.1:9/',
    'http://[::1]:9/',
    'http://0x7f000001:9/',
    'http://localhost:9/',
    'http://169.254.169.254/',
  ])('%s is not called', async (url) => {
    const outcome = await call(url)
    expect(outcome.kind).toBe('refused')
    expect(outcome.answer).toMatch(/lies in the network of this computer/)
  })

  test('a name that leads home is refused as it is looked up', async () => {
    const looked = await new Promise<Error | null>((resolve) =>
      lookUpOutside('localhost', {}, (fault) => resolve(fault)),
    )
    expect(looked?.message).toMatch(/network of this computer/)
  })
})
