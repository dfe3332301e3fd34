import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Express } from 'express'
import { dayMs } from '#core/time/calendar.ts'
import { lastChanceOf } from '#core/planning/lastChance.ts'
import { readSend } from '../db/sendStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { callOf } from '../engine/application.ts'
import { addBookedClient, asItStands, call, clientInput, openExample } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'

/* Lists are given part by part: all of it, nothing twice, in its order, however it is cut. */

interface Line {
  readonly id: string
  readonly name?: string
  readonly [part: string]: unknown
}
interface Part {
  readonly lines: readonly Line[]
  readonly next: string | null
}

let running: RunningApplication
let app: Express
let cookie = ''

const names = ['Åse Brackwater', 'åge Tarn', 'Zoë Kestrelwood', 'anna Quill', 'Bo Quill', 'Bo Quill']

beforeAll(async () => {
  running = await openExample()
  const { application, commands, pump } = running
  addEda(application)
  app = createApp(running, pino({ level: 'silent' }))
  cookie = (await signInEda(app)).cookie
  names.forEach((name, index) =>
    addBookedClient(application, commands, name, `${index}@mail.example`, 3 + index),
  )
  commands.addClient(call('addClient'), { ...clientInput('Without', null), tags: ['Früh'] })
  await pump.advance(application.clock.now())
  for (const send of waitable()) {
    commands.decideSend(callOf('decideSend', `hold-${send}`), asItStands(application, send), 'hold back')
  }
})
afterAll(() => running.end())

const waitable = () =>
  running.application.store.statements
    .all('overdueSends', { until: Number.MAX_SAFE_INTEGER, sequenceId: null })
    .map(({ id }) => String(id))

async function part(path: string, query: Record<string, string | number> = {}): Promise<Part> {
  const answer = await request(app).get(path).query(query).set('Cookie', cookie)
  expect(answer.status).toBe(200)
  return answer.body as Part
}

/** All lines of a list that is asked for in parts of a size. */
async function allOf(
  path: string,
  limit: number,
  query: Record<string, string> = {},
): Promise<readonly Line[]> {
  const lines: Line[] = []
  for (let after: string | null = ''; after !== null;) {
    const { lines: more, next }: Part = await part(path, {
      ...query,
      limit,
      ...(after === '' ? {} : { after }),
    })
    expect(more.length).toBeLessThanOrEqual(limit)
    lines.push(...more)
    after = next
  }
  return lines
}

const idsOf = (lines: readonly Line[]) => lines.map(({ id }) => id)

describe.each([
  ['clients', '/api/clients'],
  ['what waits', '/api/desk/decide'],
  ['what went out today', '/api/desk/messages/went-out'],
  ['what is in trouble', '/api/desk/messages/trouble'],
  ['what is to do', '/api/desk/to-do'],
])('%s', (_, path) => {
  test('is the same in parts of one, of two and all at once', async () => {
    const whole = await part(path, { limit: 200 })
    expect(whole.next).toBeNull()
    for (const limit of [1, 2]) expect(await allOf(path, limit)).toEqual(whole.lines)
    expect(new Set(idsOf(whole.lines)).size).toBe(whole.lines.length)
  })
})

describe.each(['bookings', 'sends', 'history'])('the %s of a client', (list) => {
  test('are the same in parts of one, of two and all at once, and nobody else’s', async () => {
    const [first, other] = await allOf('/api/clients', 2)
    const of = (id: string | undefined) => `/api/clients/${id ?? ''}/${list}`
    const whole = await part(of(first?.id), { limit: 200 })
    expect(whole.lines.length).toBeGreaterThan(0)
    for (const limit of [1, 2]) expect(await allOf(of(first?.id), limit)).toEqual(whole.lines)
    const others = idsOf((await part(of(other?.id), { limit: 200 })).lines)
    expect(idsOf(whole.lines).filter((id) => others.includes(id))).toEqual([])
  })
})

test('what is of a client stands there with the newest first', async () => {
  const [first] = await allOf('/api/clients', 2)
  for (const [list, moment] of [
    ['bookings', 'startAt'],
    ['sends', 'shownAt'],
    ['history', 'at'],
  ] as const) {
    const moments = (await allOf(`/api/clients/${first?.id ?? ''}/${list}`, 2)).map((line) =>
      Number(line[moment]),
    )
    expect(moments).toEqual(moments.toSorted((one, later) => later - one))
  }
})

test('the counts of the Desk are those of its lists', async () => {
  const { counts } = (await request(app).get('/api/desk').set('Cookie', cookie)).body as {
    counts: Record<string, number>
  }
  expect(counts['decide']).toBe((await allOf('/api/desk/decide', 200)).length)
  expect(counts['decide']).toBeGreaterThanOrEqual(names.length)
  expect(counts['went-out']).toBe((await allOf('/api/desk/messages/went-out', 200)).length)
})

describe('what waits', () => {
  test('begins with what has the least time left, and what can wait for ever comes last', async () => {
    const chances = (await allOf('/api/desk/decide', 3)).map(({ lastChanceAt }) => lastChanceAt ?? Infinity)
    expect(chances).toEqual(chances.toSorted((one, other) => Number(one) - Number(other)))
    expect(chances[0]).not.toBe(Infinity)
  })

  test('has the last chance that the engine would give it', async () => {
    for (const { id, lastChanceAt } of await allOf('/api/desk/decide', 200)) {
      const send = readSend(running.application.store.statements, id)
      const slice = send && running.application.sliceOf(send.clientId, 'everything')
      expect(lastChanceAt).toBe(send && slice && lastChanceOf(send, slice))
    }
  })

  test('one beyond what was fetched is found by its id; one decided is none of them', async () => {
    const [first, second] = await allOf('/api/desk/decide', 200)
    if (!first || !second) throw new Error('nothing waits')
    expect(await part('/api/desk/decide', { id: second.id })).toEqual({ lines: [second], next: null })
    const decided = running.commands.decideSend(
      call('decideSend'),
      asItStands(running.application, first.id),
      'skip',
    )
    expect(decided.ok).toBe(true)
    expect((await part('/api/desk/decide', { id: first.id })).lines).toEqual([])
    // Where a list had got to is known by what is decided meanwhile, too.
    expect(idsOf((await part('/api/desk/decide', { after: first.id, limit: 1 })).lines)).toEqual([second.id])
  })
})

describe('clients', () => {
  const found = async (query: Record<string, string>) =>
    (await allOf('/api/clients', 2, query)).map(({ name }) => name)

  test('are found by any part of name, address and tag, in any case, with accents or without', async () => {
    expect(await found({ words: 'ZOE' })).toEqual(['Zoë Kestrelwood'])
    expect(await found({ words: 'zoë kest' })).toEqual(['Zoë Kestrelwood'])
    expect(await found({ words: 'quill' })).toEqual(['anna Quill', 'Bo Quill', 'Bo Quill'])
    expect(await found({ words: '3@mail.example' })).toEqual(['anna Quill'])
    expect(await found({ words: 'fruh' })).toEqual(['Without'])
    expect(await found({ words: '%' })).toEqual([])
  })

  test('with a booking ahead, or without an address', async () => {
    expect(await found({ which: 'no-address' })).toEqual(['Without'])
    expect(await found({ which: 'booked' })).toHaveLength(names.length)
    expect(await found({ which: 'booked', words: 'without' })).toEqual([])
  })

  test('a part begins nowhere where there is nobody of that id', async () => {
    expect((await part('/api/clients', { after: 'cl_nobody' })).lines).toEqual([])
  })

  test('a changed name, address or tag is found at once', async () => {
    const [client] = await allOf('/api/clients', 1, { words: 'anna' })
    const here = running.application.sliceOf(String(client?.id), 'everything')?.facts.client
    const asked = clientInput('Ånna Quill', 'anna@quill.example')
    const contacts = asked.contacts.map((one) => ({ ...one, id: here?.contacts[0]?.id ?? null }))
    const input = { ...asked, contacts, tags: ['night'] }
    expect(running.commands.changeClient(call('changeClient'), String(client?.id), 1, input).ok).toBe(true)
    expect(await found({ words: 'anna@quill' })).toEqual(['Ånna Quill'])
    expect(await found({ words: '3@mail.example' })).toEqual([])
  })
})

test('trouble of one moment stands in the order in which it was made, in parts as well', async () => {
  // What waits goes stale in time.
  await running.pump.advance(running.application.clock.now() + 30 * dayMs)
  const path = '/api/desk/messages/trouble'
  const { lines } = await part(path, { limit: 200 })
  expect(lines.length).toBeGreaterThan(4)
  for (const limit of [1, 2, 3]) expect(await allOf(path, limit)).toEqual(lines)
  const inOrder = lines.toSorted(
    (one, other) => Number(other['stateSince']) - Number(one['stateSince']) || (one.id < other.id ? -1 : 1),
  )
  expect(idsOf(lines)).toEqual(idsOf(inOrder))
})
