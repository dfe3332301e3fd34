import { afterEach, beforeEach, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import { dayMs } from '#core/time/calendar.ts'
import { readMessage, sourcesOfClient } from '../../db/messageStore.ts'
import { createApp } from '../../http/app.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import { addEda, signInEda } from '../../testing/signIn.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* E-mails are kept as they went for some months; what they said, when and why, stays. */

let running: RunningApplication
let app: Express
let cookie = ''
let clientId = ''
let faults: unknown[] = []

beforeEach(async () => {
  faults = []
  running = await openExample({ onFault: (fault) => void faults.push(fault) })
  addEda(running.application)
  app = createApp(running, pino({ level: 'silent' }))
  cookie = (await signInEda(app)).cookie
  const bookingId = addBookedClient(running.application, running.commands, 'Oona', 'oona@mail.example')
  clientId = String(statements().one('readBooking', { id: bookingId })?.['clientId'])
  await running.begin()
  await running.pump.advance(running.application.clock.now() + 6 * dayMs)
})
afterEach(async () => {
  await running.end()
  expect(faults).toEqual([])
})

const statements = () => running.application.store.statements
const gone = () =>
  statements()
    .all('sendsOfClient', { clientId })
    .filter(({ state }) => state === 'sent')
    .map(({ id }) => String(id))
const get = (path: string) => request(app).get(path).set('Cookie', cookie)

async function until(holds: () => boolean) {
  for (let times = 0; times < 500 && !holds(); times += 1)
    await new Promise((resolve) => setTimeout(resolve, 10))
  expect(holds()).toBe(true)
}

test('they are kept packed, and come out as they went', async () => {
  const [id = ''] = gone()
  const messageId = String(statements().one('readSend', { id })?.['messageId'])
  const mails = running.postOffice?.mailOf('oona@mail.example') ?? []
  const mail = mails.find((one) => one.messageId === messageId)
  const source = readMessage(statements(), id)?.source
  expect(source?.toString()).toContain('oona@mail.example')
  // What arrives has the same body below the lines servers add on the way.
  const body = (text: string) => text.slice(text.indexOf('\r\n\r\n'))
  expect(body(String(source))).toBe(body(String(mail?.source)))
  const row = statements().one('readMessage', { sendId: id })
  expect((row?.['source'] as Buffer).length).toBeLessThan((source?.length ?? 0) / 2)
  const file = await get(`/api/sends/${id}/message.eml`).responseType('blob')
  expect(file.status).toBe(200)
  expect(String(file.body)).toBe(String(source))
})

test('one written before they were packed is read all the same, and packed beside the work', async () => {
  const [id = ''] = gone()
  const raw = readMessage(statements(), id)?.source ?? Buffer.alloc(0)
  const database = new Sqlite(running.application.store.file)
  database.prepare('UPDATE messages SET source = ?, is_packed = 0 WHERE send_id = ?').run(raw, id)
  database.close()
  expect(readMessage(statements(), id)?.source).toEqual(raw)
  running.commands.setSourcesKept(call('setSourcesKept'), 30)
  await until(() => statements().one('readMessage', { sendId: id })?.['isPacked'] === 1)
  expect(readMessage(statements(), id)?.source).toEqual(raw)
})

test('what has come of age is let go of: its text stays, its file is gone, and no other', async () => {
  const [first = '', ...others] = gone()
  expect(others.length).toBeGreaterThan(0)
  const before = (await get(`/api/sends/${first}`)).body as { text: string; subject: string }
  expect(before).toMatchObject({ isSourceKept: true })
  const late = addBookedClient(running.application, running.commands, 'Late', 'late@mail.example', 70)
  const lateClient = String(statements().one('readBooking', { id: late })?.['clientId'])
  await running.pump.advance(running.application.clock.now() + 70 * dayMs)
  const kept = sourcesOfClient(statements(), lateClient).length
  expect(kept).toBeGreaterThan(0)

  const asked = (await get('/api/sources-kept?months=2')).body as { months: number; older: number }
  expect(asked.months).toBe(24)
  // The confirmation of the later booking is as old as the earlier one's messages.
  expect(asked.older).toBeGreaterThanOrEqual(gone().length)
  running.commands.setSourcesKept(call('setSourcesKept'), 2)
  await until(() => readMessage(statements(), others.at(-1) ?? '')?.source === null)

  const after = (await get(`/api/sends/${first}`)).body as object
  expect(after).toMatchObject({ subject: before.subject, text: before.text, isSourceKept: false })
  const file = await get(`/api/sends/${first}/message.eml`)
  expect(file.status).toBe(404)
  expect((file.body as { detail: string }).detail).toBe(
    'This e-mail is kept no longer as it went; its text is.',
  )
  expect((await get(`/api/clients/${clientId}/messages.mbox`)).status).toBe(200)
  expect(sourcesOfClient(statements(), clientId)).toEqual([])
  const stillKept = sourcesOfClient(statements(), lateClient)
  expect(stillKept.length).toBeGreaterThan(0)
  expect(stillKept.every(({ at }) => at > running.application.clock.now() - 62 * dayMs)).toBe(true)
  expect((await get('/api/sources-kept?months=2')).body).toMatchObject({ months: 2, older: 0 })
})

test('thrown at, it is said, and done the next day', async () => {
  const [id = ''] = gone()
  const { statements: real } = running.application.store
  const all = real.all.bind(real)
  real.all = (name, ...given) => {
    if (name === 'sourcesBetween') throw new Error('thrown at it')
    return all(name, ...given)
  }
  running.commands.setSourcesKept(call('setSourcesKept'), 1)
  await running.pump.advance(running.application.clock.now() + 40 * dayMs)
  await until(() => faults.length > 0)
  expect(readMessage(statements(), id)?.source).not.toBeNull()
  real.all = all
  faults = []
  await running.pump.advance(running.application.clock.now() + 2 * dayMs)
  await until(() => readMessage(statements(), id)?.source === null)
})

test('kept for ever, nothing goes', async () => {
  running.commands.setSourcesKept(call('setSourcesKept'), null)
  await running.pump.advance(running.application.clock.now() + 1500 * dayMs)
  const [id = ''] = gone()
  expect(readMessage(statements(), id)?.source).not.toBeNull()
})

test('an age that is none is refused with a sentence', async () => {
  const signedIn = await signInEda(app)
  for (const [months, said] of [
    [0, 'At least 1 month.'],
    [601, 'At most 600 months'],
    [1.5, 'whole months'],
  ] as const) {
    const answer = await request(app)
      .put('/api/sources-kept')
      .set('Cookie', signedIn.cookie)
      .set('X-CSRF-Token', signedIn.csrf)
      .send({ commandId: `age-${months}-of-sources`.replace('.', '-'), months })
    expect(answer.status).toBe(422)
    expect((answer.body as { detail: string }).detail).toContain(said)
  }
})
