import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import { diskTrouble } from '../engine/diskRoom.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { addBookedClient, call, openExample } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'

/* Whether the house is well, for programs that watch; and quiet mode, for an owner who only looks on. */

let running: RunningApplication
let app: Express
beforeAll(async () => {
  running = await openExample()
  addEda(running.application)
  app = createApp(running, pino({ level: 'silent' }))
})
afterAll(() => running.end())

const get = (path: string, host = '127.0.0.1') => request(app).get(path).set('Host', host)

describe('health', () => {
  test('is told at home, and to nobody at the public address', async () => {
    const told = await get('/healthz')
    expect([told.status, told.body]).toEqual([200, { status: 'ok', faults: [] }])
    const outside = new URL(running.publicUrl()).host
    if (!outside.startsWith('127.')) expect((await get('/healthz', outside)).status).toBe(404)
  })

  test('is 503 while nothing goes on', async () => {
    const stuck = createApp(
      { ...running, pump: { ...running.pump, stuckSince: () => 1 } },
      pino({ level: 'silent' }),
    )
    const told = await request(stuck).get('/healthz').set('Host', 'localhost')
    expect([told.status, told.body]).toEqual([503, { status: 'at fault', faults: ['stuck'] }])
  })

  test('is measured in the text format of Prometheus: each sample with its help and type, numbers alone', async () => {
    const { text, headers } = await get('/metrics')
    expect(headers['content-type']).toContain('text/plain')
    const lines = text.split('\n').filter((line) => line.startsWith('vorfreude_'))
    expect(lines).toContain('vorfreude_up 1')
    expect(lines).toContain('vorfreude_sending_on 1')
    expect(lines.some((line) => /^vorfreude_needs_a_person\{group="decide"\} \d+$/.test(line))).toBe(true)
    for (const line of lines) {
      expect(line).toMatch(/^[a-z_]+(\{[a-z]+="\w+"\})? [\d.e+-]+$/)
      expect(text).toContain(`# TYPE ${/^[a-z_]+/.exec(line)?.[0] ?? ''} gauge`)
    }
    expect(text).not.toMatch(/@|example/)
  })

  test('a disk is said to be nearly full before it is', () => {
    expect(diskTrouble('/data', 2_000_000_000)).toBeNull()
    expect(diskTrouble('/data', 123_456_789)).toContain('The disk of /data is nearly full: 123 MB are left.')
    expect(diskTrouble('/data', null)).toBeNull()
  })
})

describe('quiet mode', () => {
  const told = () =>
    ['own@mail.example', 'other@mail.example'].map(
      (address) => running.postOffice?.mailOf(address).length ?? 0,
    )

  test('lets messages reach the addresses alone that were named; the rest is missed, and goes only by a press', async () => {
    const { application, commands, pump } = running
    const own = await signInEda(app)
    const put = (body: object) =>
      request(app)
        .put('/api/sending/only-to')
        .set('Host', '127.0.0.1')
        .set('Cookie', own.cookie)
        .set('X-CSRF-Token', own.csrf)
        .send(body)
    expect((await put({ commandId: 'quiet-command-1', addresses: [] })).status).toBe(422)
    expect((await put({ commandId: 'quiet-command-2', addresses: ['no address'] })).status).toBe(422)
    const begun = await put({ commandId: 'quiet-command-3', addresses: ['OWN@mail.example'] })
    expect(begun.body).toEqual({ addresses: ['OWN@mail.example'] })
    addBookedClient(application, commands, 'Own', 'own@mail.example')
    addBookedClient(application, commands, 'Other', 'other@mail.example')
    await pump.advance(application.clock.now() + 3_600_000)
    expect(told()).toEqual([1, 0])
    const missed = application.store.statements.all('sendsToCome').length
    expect(missed).toBeGreaterThan(0)
    const trouble = await request(app)
      .get('/api/desk/messages/trouble')
      .set('Host', '127.0.0.1')
      .set('Cookie', own.cookie)
    expect(JSON.stringify(trouble.body)).toContain('It fell due in quiet mode')
    const frame = await request(app).get('/api/overview').set('Host', '127.0.0.1').set('Cookie', own.cookie)
    expect((frame.body as { sending: { onlyTo: string[] } }).sending.onlyTo).toEqual(['OWN@mail.example'])

    commands.setOnlyTo(call('setOnlyTo'), null)
    await pump.advance(application.clock.now() + 3_600_000)
    // What was held is not sent by itself.
    expect(told()).toEqual([1, 0])
    addBookedClient(application, commands, 'Later', 'other@mail.example', 6)
    await pump.advance(application.clock.now() + 3_600_000)
    expect(told()).toEqual([1, 1])
  })
})
