import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { parse } from 'csv-parse/sync'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import type { ActLine } from '#core/api/actEndpoints.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { openActRecord } from '../record/actRecord.ts'
import { openRealHouse } from '../testing/realHouse.ts'
import { clientInput, eda, testFolder } from '../testing/seed.ts'
import { createApp } from './app.ts'

/* Who did what: written down with before and after, found again, given out, and never changed. */

const folder = testFolder()
const password = 'Blåbær på tur 7'
const looks = {
  ...eda,
  id: 'pe_looks',
  name: 'Lutz',
  email: 'lutz@kiteworks.example',
  role: 'onlooker',
} as const

let running: RunningApplication
let app: Express
beforeAll(async () => {
  running = await openRealHouse(folder, [
    [eda, password],
    [looks, password],
  ])
  app = createApp(running, pino({ level: 'silent' }))
})
afterAll(() => running.end())

async function signIn(email: string, word = password) {
  const answer = await request(app)
    .post('/api/session')
    .set('Host', '127.0.0.1')
    .send({ email, password: word })
  return {
    cookie: answer.headers['set-cookie']?.[0]?.split(';')[0] ?? '',
    csrf: String((answer.body as { csrfToken?: string }).csrfToken),
  }
}
type Own = Awaited<ReturnType<typeof signIn>>
const ask = ({ cookie, csrf }: Own, method: 'get' | 'post' | 'put', path: string, body?: object) =>
  request(app)
    [method](path)
    .set('Host', '127.0.0.1')
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .send(body)
let count = 0
const command = (body: object = {}) => ({ commandId: `act-command-${(count += 1)}`, ...body })
const acts = async (own: Own, query = '') =>
  ((await ask(own, 'get', `/api/acts${query}`)).body as { lines: ActLine[] }).lines

describe('the record of acts', () => {
  let own: Own
  let clientId = ''
  beforeAll(async () => {
    own = await signIn(eda.email)
  })

  test('has what was done, by whom, from where, and how it was before', async () => {
    const added = await ask(
      own,
      'post',
      '/api/clients',
      command({ client: clientInput('Zoltan', 'z@zoltan.example') }),
    )
    clientId = (added.body as { id: string }).id
    const renamed = { ...clientInput('Zoltan', 'zoltan@zoltan.example'), name: 'Zoltan the Younger' }
    await ask(own, 'put', `/api/clients/${clientId}`, command({ revision: 1, client: renamed }))
    const [changed, made, signedIn] = await acts(own)
    expect(changed).toMatchObject({
      personId: eda.id,
      personName: 'Eda',
      path: `/api/clients/${clientId}`,
    })
    expect(changed?.from).toContain('127.0.0.1')
    expect(changed?.things[0]).toMatchObject({ what: 'client', id: clientId, name: 'Zoltan the Younger' })
    expect(changed?.things[0]?.facts).toContainEqual({
      path: 'contacts.0.email',
      before: 'z@zoltan.example',
      after: 'zoltan@zoltan.example',
    })
    expect(made?.things[0]?.facts).toContainEqual({
      path: 'contacts.0.email',
      before: null,
      after: 'z@zoltan.example',
    })
    expect(signedIn?.sentence).toBe('Sign in with e-mail address and password')
    expect(Math.abs((changed?.at ?? 0) - Date.now())).toBeLessThan(60_000)
  })

  test('has no act that was refused, only asked about, or a draft; and each only once', async () => {
    const before = (await acts(own)).length
    await ask(
      own,
      'put',
      `/api/clients/${clientId}`,
      command({ revision: 99, client: clientInput('X', null) }),
    )
    await ask(
      own,
      'post',
      `/api/clients/${clientId}/hold-back`,
      command({ revision: 2, isHeldBack: true, onlyAsks: true }),
    )
    expect((await acts(own)).length).toBe(before)
    const note = command({ text: 'Calls back in May.' })
    const first = await ask(own, 'post', `/api/clients/${clientId}/notes`, note)
    const again = await ask(own, 'post', `/api/clients/${clientId}/notes`, note)
    expect([first.status, again.status, (await acts(own)).length]).toEqual([200, 200, before + 1])
  })

  test('has a booking from its making to its end, and what a person decided about a message', async () => {
    const { id: serviceId } = running.application.settings.required().services[0] ?? { id: '' }
    const booking = {
      clientId,
      serviceId,
      startLocal: '2037-06-16T19:00',
      endLocal: '2037-06-16T21:00',
      partySize: 2,
      status: 'confirmed',
      personInChargeId: null,
    }
    const made = await ask(own, 'post', '/api/bookings', command({ booking }))
    const { id } = made.body as { id: string }
    const { sends } = (await ask(own, 'get', `/api/bookings/${id}`)).body as {
      sends: { id: string; state: string; revision: number }[]
    }
    const send = sends.find(({ state }) => state === 'ready')
    const held = command({ revision: send?.revision, decision: 'hold back' })
    expect((await ask(own, 'post', `/api/sends/${send?.id ?? ''}/decision`, held)).status).toBe(200)
    const cancelled = await ask(own, 'post', `/api/bookings/${id}/cancel`, command({ revision: 1 }))
    expect(cancelled.status).toBe(200)
    const [end, decided, begin] = await acts(own)
    const factsOf = (act: ActLine | undefined, what: string) =>
      act?.things.find((one) => one.what === what)?.facts ?? []
    expect(factsOf(begin, 'booking')).toContainEqual({ path: 'partySize', before: null, after: '2' })
    expect(factsOf(decided, 'message')).toContainEqual({ path: 'isHeldBack', before: 'false', after: 'true' })
    expect(factsOf(end, 'booking')).toContainEqual({
      path: 'status',
      before: 'confirmed',
      after: 'cancelled',
    })
  })

  test('has who could not come in, and never a password', async () => {
    await signIn(eda.email, 'Sesamkringel am Morgen')
    await signIn('mallory@elsewhere.example', 'Sesamkringel am Abend')
    const [unknown, wrong] = await acts(own)
    expect([unknown?.sentence, unknown?.personId]).toEqual(['Signing in refused: no such address', null])
    expect([wrong?.sentence, wrong?.personId]).toEqual(['Signing in refused: wrong password', eda.id])
    for (const ending of ['', '-wal']) {
      expect(readFileSync(join(folder, `acts.db${ending}`)).includes('Sesamkringel')).toBe(false)
    }
  })

  test('has what somebody looked at who only looks, once for a look; of the others only what they did', async () => {
    const lutz = await signIn(looks.email)
    for (let again = 0; again < 3; again += 1) await ask(lutz, 'get', `/api/clients/${clientId}`)
    await ask(lutz, 'get', '/api/clients')
    await ask(own, 'get', `/api/clients/${clientId}`)
    const seen = (await acts(own)).filter(({ path }) => path === `/api/clients/${clientId}`)
    expect(seen.filter(({ personId }) => personId === looks.id)).toHaveLength(1)
    expect((await ask(lutz, 'get', '/api/acts')).status).toBe(403)
    expect((await ask(lutz, 'get', '/api/acts.csv')).status).toBe(403)
  })

  test('is found by words and person, part by part', async () => {
    expect((await acts(own, '?words=YOUNGER%20contacts.0.email')).length).toBe(1)
    expect(await acts(own, '?words=zoltan%20nothing-like-it')).toEqual([])
    expect((await acts(own, `?personId=${looks.id}`)).every(({ personId }) => personId === looks.id)).toBe(
      true,
    )
    const all = await acts(own)
    const firstPart = (await ask(own, 'get', '/api/acts?limit=2')).body as { lines: ActLine[]; next: string }
    const secondPart = (await ask(own, 'get', `/api/acts?limit=2&after=${firstPart.next}`)).body as {
      lines: ActLine[]
    }
    expect([...firstPart.lines, ...secondPart.lines]).toEqual(all.slice(0, 4))
  })

  test('goes out as a table that no spreadsheet takes for formulas', async () => {
    const evil = clientInput('=HYPERLINK("http://evil.example")', null)
    await ask(own, 'post', '/api/clients', command({ client: evil }))
    const { text } = await ask(own, 'get', '/api/acts.csv')
    const rows = parse(text, { bom: true })
    expect(rows[0]).toEqual(['at', 'person', 'from', 'act', 'thing', 'name', 'fact', 'before', 'after'])
    expect(rows.length).toBeGreaterThan(10)
    expect(rows.flat().filter((cell) => /^[=+@\t\r]/.test(cell))).toEqual([])
    expect(rows.flat().some((cell) => cell.startsWith("'=HYPERLINK"))).toBe(true)
  })

  test('is never changed, by nobody', () => {
    const database = new Sqlite(join(folder, 'acts.db'))
    expect(() => database.exec("UPDATE acts SET sentence = 'nothing'")).toThrow('never changed')
    expect(() => database.exec('DELETE FROM acts')).toThrow('never deleted')
    database.close()
  })

  test('that cannot be written costs the act nothing, and says so until it can', () => {
    const faults: unknown[] = []
    const other = testFolder()
    const record = openActRecord(other, (fault) => void faults.push(fault))
    const act = { at: 1, personId: null, personName: '', from: '', sentence: 's', path: '/', things: [] }
    record.add(act)
    const database = new Sqlite(join(other, 'acts.db'))
    database.exec('BEGIN IMMEDIATE')
    const slow = openActRecord(other, (fault) => void faults.push(fault))
    slow.add(act)
    expect(slow.trouble()).toContain('acts.db cannot be written to')
    expect(faults).toHaveLength(1)
    database.exec('ROLLBACK')
    slow.add(act)
    expect(slow.trouble()).toBeNull()
    database.close()
    slow.close()
    record.close()
  })
})
