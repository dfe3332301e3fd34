import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { startRule } from '#core/model/sequence.ts'
import { plainStep, type PlainStep } from '#core/model/step.ts'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { readClient, readTasks } from '../../db/clientStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { addSequence } from '../../db/settingsStore.ts'
import { callWeb, signatureOf } from '../../mail/webCall.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

let running: RunningApplication | null = null
let receiver: Server | null = null

afterEach(async () => {
  await running?.end()
  receiver?.close()
  running = receiver = null
})

const step = (id: string, part: object): PlainStep =>
  plainStep.parse({ id: `st_${id}`, timing: { kind: 'at once' }, ...part })

/** The example application with one more sequence on confirmed bookings. */
async function withSteps(steps: PlainStep[]): Promise<RunningApplication> {
  running = await openExample()
  const { store, settings } = running.application
  addSequence(
    store.statements,
    { id: 'sq_2', name: 'Actions', state: 'live', liveSince: 0, currentVersion: 1 },
    { sequenceId: 'sq_2', version: 1, start: startRule.parse({ on: 'booking confirmed' }), steps, stops: [] },
  )
  settings.forget()
  return running
}

async function booked(of: RunningApplication, name = 'Oona') {
  addBookedClient(of.application, of.commands, name, `${name.toLowerCase()}@siltanen.example`)
  await of.pump.advance(of.application.clock.now())
  const row = of.application.store.statements
    .all('findClients', { words: name.toLowerCase(), most: 100 })
    .find((client) => client['name'] === name)
  const clientId = String(row?.['id'])
  const sends = of.application.store.statements
    .all('sendsOfClient', { clientId })
    .map(({ id }) => readSend(of.application.store.statements, String(id)))
  const stateOf = (id: string) => sends.find((one) => one?.stepId === `st_${id}`)
  return { clientId, stateOf }
}

describe('steps that are no mail', () => {
  test('are done in the transaction of their claim, with their history', async () => {
    const of = await withSteps([
      step('task', { kind: 'task', title: 'Check the harness', dueInDays: 2 }),
      step('tag', { kind: 'tag', tag: 'booked' }),
      step('stage', { kind: 'stage', stage: 'offer' }),
    ])
    const { clientId, stateOf } = await booked(of)
    expect(readTasks(of.application.store.statements, clientId)).toMatchObject([
      { title: 'Check the harness', dueOn: '2026-05-16', doneAt: null },
    ])
    expect(readClient(of.application.store.statements, clientId)?.tags).toEqual(['booked'])
    expect(stateOf('tag')).toMatchObject({ state: 'sent', address: null, letterId: null })
    expect(stateOf('stage')).toMatchObject({
      state: 'failed',
      reason: { sentence: 'There is no enquiry whose stage could change.' },
    })
    const history = of.application.store.statements
      .all('eventsOfClient', { clientId, afterId: null, limit: 1000 })
      .map(({ sentence }) => sentence)
    expect(history).toContain('“Add the tag “booked””: Done.')
  })

  test('a text message leaves through the gateway, as plain text', async () => {
    const of = await withSteps([
      step('text', {
        kind: 'text message',
        purpose: 'reminder',
        words: [{ kind: 'text', text: 'See you at the beach' }],
        recipients: [{ to: 'primary contact' }],
      }),
      step('note', {
        kind: 'note to staff',
        about: 'A new booking',
        words: [{ kind: 'text', text: 'Look at it' }],
      }),
    ])
    const { stateOf } = await booked(of)
    expect(stateOf('text')).toMatchObject({ state: 'blocked', reason: { code: 'no address' } })
    const [note] = of.postOffice?.mailOf('hello@kiteworks.example') ?? []
    const parsed = await simpleParser(note?.source ?? '')
    expect(parsed.subject).toBe('A new booking')
    expect(parsed.text).toContain('Look at it')
  })
})

describe('a web call', () => {
  const received: { body: string; signature: string }[] = []

  async function listening(status: number): Promise<string> {
    received.length = 0
    receiver = createServer((request, response) => {
      let body = ''
      request.on('data', (part: Buffer) => (body += part.toString()))
      request.on('end', () => {
        received.push({ body, signature: String(request.headers['vorfreude-signature']) })
        response.writeHead(status).end()
      })
    })
    const server = receiver
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    return `http://127.0.0.1:${(server.address() as AddressInfo).port}/booked`
  }

  test('is signed as RFC 4231 has it (test case 2)', () => {
    expect(signatureOf('what do ya want for nothing?', 'Jefe')).toBe(
      '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
    )
  })

  test('reaches its address once, with ids and a signature its receiver can check', async () => {
    const of = await withSteps([step('call', { kind: 'web call', url: await listening(204) })])
    const { stateOf, clientId } = await booked(of)
    expect(stateOf('call')).toMatchObject({ state: 'sent' })
    expect(received).toHaveLength(1)
    const [one] = received
    expect(JSON.parse(one?.body ?? '')).toMatchObject({ clientId, stepId: 'st_call' })
    expect(one?.signature).toBe(`sha256=${signatureOf(one?.body ?? '', of.application.store.keys.webCalls)}`)
  })

  test('refused it has failed; not answered it is tried again later', async () => {
    const of = await withSteps([step('call', { kind: 'web call', url: await listening(410) })])
    expect((await booked(of)).stateOf('call')).toMatchObject({ state: 'failed', reason: { code: 'refused' } })
    receiver?.close()
    const inHere = { secret: 'x', allowsOwnNetwork: true }
    const again = await callWeb(await listening(503), '{}', inHere)
    expect(again).toEqual({ kind: 'later', answer: '503 Service Unavailable' })
    expect(await callWeb('http://127.0.0.1:9/', '{}', inHere)).toMatchObject({ kind: 'later' })
  })
})

describe('the allowance of the mail account', () => {
  test('holds messages back until the account takes more, service messages first, and says so', async () => {
    const of = await withSteps([
      step('news', {
        kind: 'mail',
        purpose: 'promotional',
        letterId: 'lt_starter-reminder',
        timing: {
          kind: 'elapsed',
          amount: 30,
          unit: 'minutes',
          direction: 'after',
          anchor: { of: 'run started' },
        },
      }),
    ])
    const { statements } = of.application.store
    statements.run('setAllowance', {
      allowanceJson: JSON.stringify({ perHour: 2, perDay: null, perMonth: null }),
    })
    of.application.settings.forget()
    const names = ['Oona', 'Jules', 'Anouk']
    for (const name of names)
      addBookedClient(of.application, of.commands, name, `${name.toLowerCase()}@mail.example`)
    const now = of.application.clock.now()
    await of.pump.advance(now)
    const sent = () =>
      names.flatMap((name) => of.postOffice?.mailOf(`${name.toLowerCase()}@mail.example`) ?? [])
    expect(sent()).toHaveLength(2)
    const nextHour = now - (now % hourMs) + hourMs
    const waiting = statements.all('dueMessages', { until: nextHour, through: null })
    expect(waiting[0]).toMatchObject({ dueAt: nextHour, purpose: 'confirmation' })
    const held = readSend(statements, String(waiting[0]?.['id']))
    expect(held?.trace.at(-1)).toMatchObject({
      rule: 'allowance',
      sentence: 'The mail account takes no more messages before Thu 14 May 2026, 08:00.',
    })
    await of.pump.advance(nextHour + 30 * minuteMs)
    expect(sent()).toHaveLength(3)
  })
})

describe('a paused sequence', () => {
  test('keeps what is due where it is; lifted, that is missed and listed', async () => {
    const of = await withSteps([step('task', { kind: 'task', title: 'x' })])
    expect(of.commands.switchSequence(call('switchSequence'), 'sq_1', false)).toMatchObject({ ok: true })
    const { stateOf } = await booked(of)
    expect(stateOf('confirm')).toMatchObject({ state: 'ready' })
    expect(stateOf('task')).toMatchObject({ state: 'sent' })
    const on = of.commands.switchSequence(call('switchSequence'), 'sq_1', true)
    expect(on).toMatchObject({ ok: true, value: { sends: 1 } })
    expect(of.commands.switchSequence(call('switchSequence'), 'sq_1', true)).toMatchObject({
      ok: false,
      problem: { sentence: 'This sequence is live already.' },
    })
  })
})
