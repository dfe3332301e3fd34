import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import pino from 'pino'
import request from 'supertest'
import type { Announcement, Consequence } from '#core/api/announcements.ts'
import type { Send } from '#core/model/send.ts'
import { startRule } from '#core/model/sequence.ts'
import type { StartEvent } from '#core/model/startEvent.ts'
import { step as stepOf } from '#core/model/step.ts'
import { messageName } from '#core/planning/difference.ts'
import { dayMs, minuteMs } from '#core/time/calendar.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { factsOfClient } from '../db/clientStore.ts'
import { addSequence, addPerson } from '../db/settingsStore.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { chanceFrom } from '../testing/chance.ts'
import { eda, testFolder, writeExampleBusiness } from '../testing/seed.ts'
import { signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'

/*
 * Foresight: random acts through the HTTP API, each asked about before it is done. What was announced, what is planned
 * then, and what arrives agree in every line; and an announcement that the world has overtaken is refused.
 */

const acts = Number(process.env['VORFREUDE_ACTS'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 5000 : 300))
const actsEach = 12

let running: RunningApplication
let app: ReturnType<typeof createApp>
let cookie = ''
let csrf = ''
let count = 0

const chance = chanceFrom(Number(process.env['VORFREUDE_SEED'] ?? 20260514))
const upTo = (most: number) => Math.floor(chance() * most)
const oneOf = <Item>(items: readonly Item[]): Item => {
  const item = items[upTo(items.length)]
  if (item === undefined) throw new Error('nothing to choose from')
  return item
}

const letterId = 'lt_starter-reminder'
const mail = (id: string, purpose: string, timing: object, part: object = {}) =>
  stepOf.parse({ kind: 'mail', id: `st_${id}`, letterId, purpose, timing, ...part })
const before = (amount: number, atTime: string) => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})
const next = (amount: number) => ({ kind: 'after previous', amount, unit: 'days', atTime: null })
const atOnce = { kind: 'at once' }

const sequences: readonly (readonly [string, StartEvent, object[]])[] = [
  [
    'booked',
    'booking confirmed',
    [
      mail('booked', 'confirmation', atOnce),
      mail('wear', 'preparation', before(3, '18:00'), { needsApproval: true }),
      mail('eve', 'reminder', before(1, '18:00')),
      mail('offer', 'promotional', next(2)),
      mail('thanks', 'follow-up', next(3)),
    ],
  ],
  ['asked', 'booking requested', [mail('asked', 'confirmation', atOnce)]],
  ['moved', 'booking moved', [mail('moved', 'change', atOnce)]],
  ['off', 'booking cancelled', [mail('off', 'cancellation', atOnce), mail('again', 'promotional', next(1))]],
  ['vip', 'tag added', [mail('vip', 'confirmation', atOnce), mail('vip2', 'follow-up', next(2))]],
]

beforeAll(async () => {
  running = await openApplication({
    folder: testFolder(),
    isDemo: true,
    smtpUrl: null,
    clockStartsAt: Date.UTC(2026, 4, 14, 5, 40),
    onFault: (fault) => {
      throw fault
    },
  })
  const { store, settings } = running.application
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addPerson(store.statements, eda, null)
    // Morning notes look through all that waits, which in these lives is nobody's and grows.
    const wishes = JSON.stringify({ morningAt: null, isAtOnceOn: false })
    store.statements.run('setNoteWishes', { personId: eda.id, notesJson: wishes })
    for (const [id, on, steps] of sequences) {
      const sequenceId = `sq_${id}`
      const start = startRule.parse({ on, again: { kind: 'every time', gap: null } })
      addSequence(
        store.statements,
        { id: sequenceId, name: id, state: 'live', liveSince: 0, currentVersion: 1 },
        { sequenceId, version: 1, start, steps: steps.map((one) => stepOf.parse(one)), stops: [] },
      )
    }
  })
  settings.forget()
  app = createApp(running, pino({ level: 'silent' }))
  ;({ cookie, csrf } = await signInEda(app))
})

afterAll(() => running.end())

interface Asked {
  readonly method: 'post' | 'put'
  readonly path: string
  readonly body: object
}

async function call({ method, path, body }: Asked, part: object = {}) {
  const commandId = `command-${String((count += 1)).padStart(8, '0')}`
  return request(app)
    [method](path)
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .send({ commandId, ...body, ...part })
}

const ask = async (asked: Asked) => call(asked, { onlyAsks: true })

/** With which status an act that was only asked about would be refused; null: it would be done. */
const refusedWith = ({ status, body }: { status: number; body: unknown }): number | null =>
  status === 200 ? ((body as { status?: number }).status ?? null) : status

const facts = (clientId: string) => {
  const found = factsOfClient(running.application.store.statements, clientId)
  if (!found) throw new Error('no client')
  return found
}
const now = () => running.application.clock.now()
const advance = (to: number) => running.pump.advance(to)

const goingStates: readonly Send['state'][] = ['expected', 'waiting', 'approved', 'ready']

/** How each planned message goes: what a line that is not announced must leave alone. Held back, none does. */
function standing({ sends, client }: ReturnType<typeof facts>): ReadonlyMap<string, string> {
  if (client.isHeldBack) return new Map()
  const all = sends.filter(({ state }) => goingStates.includes(state))
  return new Map(
    all.map((send) => [messageName(send), JSON.stringify([send.dueAt, send.address, send.state])]),
  )
}

function localAt(at: number, time: string): string {
  return `${new Date(at).toISOString().slice(0, 10)}T${time}`
}

const timesAhead = () => {
  const at = now() + (1 + upTo(9)) * dayMs
  const hour = 9 + upTo(9)
  const from = String(hour).padStart(2, '0')
  return {
    startLocal: localAt(at, `${from}:${oneOf(['00', '10', '30'])}`),
    endLocal: localAt(at, `${from}:50`),
  }
}

async function newClient(name: string): Promise<string> {
  const client = {
    name,
    zone: null,
    language: 'en',
    tags: [],
    takesPromotional: true,
    isActive: true,
    contacts: [
      { id: null, firstName: name, lastName: '', email: `${name}@mail.example`, phone: '', isPrimary: true },
    ],
    namedDates: [],
  }
  const answer = await call({ method: 'post', path: '/api/clients', body: { client } })
  expect(answer.status).toBe(200)
  return (answer.body as { id: string }).id
}

function clientChanged(clientId: string): Asked {
  const { client } = facts(clientId)
  const { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive, revision } = client
  const present = { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive }
  const part = oneOf([
    () => ({ isActive: !isActive }),
    () => ({ takesPromotional: !takesPromotional }),
    () => ({ tags: tags.includes('vip') ? [] : ['vip'] }),
    () => ({ contacts: contacts.map((one) => ({ ...one, email: `new${(count += 1)}@mail.example` })) }),
    () => ({
      contacts: contacts.map((one) => ({ ...one, email: one.email === null ? 'b@mail.example' : null })),
    }),
  ])()
  return {
    method: 'put',
    path: `/api/clients/${clientId}`,
    body: { revision, client: { ...present, ...part } },
  }
}

/** A random act that is possible at least in principle; null: there is nothing to do it to. */
function someAct(clientId: string): Asked | null {
  const { bookings, sends, client } = facts(clientId)
  const booking = bookings.at(-1)
  const booked = (name: string, body: object = {}): Asked | null =>
    booking
      ? {
          method: 'post',
          path: `/api/bookings/${booking.id}/${name}`,
          body: { revision: booking.revision, ...body },
        }
      : null
  const open = sends.filter(({ state }) =>
    ['waiting', 'approved', 'ready', 'missed', 'stale', 'blocked'].includes(state),
  )
  const message = (name: string, body: object): Asked | null =>
    open.length === 0 ? null : { method: 'post', path: `/api/sends/${oneOf(open).id}/${name}`, body }
  const service = { serviceId: exampleService.id, partySize: 1, personInChargeId: null, clientId }
  return oneOf([
    (): Asked => ({
      method: 'post',
      path: '/api/bookings',
      body: { booking: { ...service, ...timesAhead(), status: oneOf(['requested', 'confirmed']) } },
    }),
    () => booked('move', { times: timesAhead() }),
    () => booked('move', { times: timesAhead() }),
    () => booked('cancel'),
    () => booked('confirm'),
    () => booked('settle'),
    () => booked(oneOf(['miss', 'complete'])),
    () => clientChanged(clientId),
    () => clientChanged(clientId),
    (): Asked => ({
      method: 'post',
      path: `/api/clients/${clientId}/hold-back`,
      body: { isHeldBack: !client.isHeldBack },
    }),
    (): Asked => ({
      method: 'post',
      path: `/api/clients/${clientId}/stop-sequence`,
      body: { sequenceId: oneOf(sequences.map(([id]) => `sq_${id}`)) },
    }),
    () => message('decision', { decision: oneOf(['approve', 'skip', 'hold back', 'send now']) }),
    () => message('postpone', { toLocal: localAt(now() + (1 + upTo(3)) * dayMs, '11:00') }),
  ])()
}

const shown = (line: Consequence) => `${line.kind} ${line.name} ${String(line.afterAt)} ${line.reason ?? ''}`

/** Whether a message stands or went as a line said. */
function agrees(line: Consequence, sends: readonly Send[], actedAt: number): boolean {
  const own = sends.filter((send) => messageName(send) === line.name)
  const going = own.filter(
    (send) => goingStates.includes(send.state) || (send.state === 'sent' && (send.sentAt ?? 0) >= actedAt),
  )
  if (line.kind === 'dropped')
    return going.every(({ state, reason }) => state === 'expected' && reason !== null)
  if (line.kind === 'held back') return own.some(({ state }) => goingStates.includes(state))
  if (line.kind === 'not going') return own.some(({ state }) => !['sent'].includes(state))
  const isThen = ({ sentAt, dueAt, wantedAt }: Send) =>
    line.afterAt === null || (sentAt ?? dueAt ?? wantedAt) === line.afterAt
  return going.some(
    (send) => isThen(send) && send.address === line.address && (!line.waits || send.state === 'waiting'),
  )
}

const isCrowded = (name: string, sends: readonly Send[]) =>
  sends.some((send) => messageName(send) === name && send.trace.some(({ rule }) => rule === 'crowding'))

/** Asks, does, and compares: what was announced is planned, and nothing else has changed. */
async function foreseen(clientId: string, asked: Asked): Promise<number> {
  const announced = await ask(asked)
  if (refusedWith(announced) !== null) {
    // Refused before it is done, refused when it is done.
    expect((await call(asked)).status).toBe(refusedWith(announced))
    return 0
  }
  const { announcementId, consequences } = announced.body as Announcement
  const actedAt = now()
  const earlier = standing(facts(clientId))
  const done = await call(asked, { announcementId })
  expect([asked.path, done.status, (done.body as { detail?: string }).detail]).toEqual([
    asked.path,
    200,
    undefined,
  ])
  await advance(actedAt)
  const settledAt = actedAt + 2 * minuteMs
  const isSettling = facts(clientId).bookings.some(({ settling }) => settling !== null)
  const isTagging = asked.path.endsWith(clientId)
  if (isSettling || isTagging) await advance(settledAt)
  const { sends } = facts(clientId)
  // A run that ends and one that begins can have messages of one name: then one of them goes.
  const isBegunAnew = ({ name, kind }: Consequence) =>
    kind === 'dropped' && consequences.some((other) => other.name === name && other.kind === 'added')
  for (const line of consequences.filter((one) => !isBegunAnew(one))) {
    expect([asked.path, JSON.stringify(asked.body), shown(line), agrees(line, sends, actedAt)]).toEqual([
      asked.path,
      JSON.stringify(asked.body),
      shown(line),
      true,
    ])
  }
  // A step behind one that has yet to go is announced without a moment; whom it crowds shows once it has one.
  const hasUntimed = consequences.some(({ kind, afterAt }) => kind === 'added' && afterAt === null)
  const named = new Set(consequences.map(({ name }) => name))
  const after = standing(facts(clientId))
  for (const [name, was] of earlier) {
    const [dueAt] = JSON.parse(was) as [number | null]
    if (named.has(name) || (dueAt !== null && dueAt <= now())) continue
    if (hasUntimed && isCrowded(name, sends)) continue
    expect([asked.path, JSON.stringify(asked.body), name, after.get(name)]).toEqual([
      asked.path,
      JSON.stringify(asked.body),
      name,
      was,
    ])
  }
  return consequences.length
}

describe('foresight', () => {
  test('what is announced before an act is planned then, and arrives', async () => {
    let compared = 0
    for (let done = 0; done < acts;) {
      const clientId = await newClient(`c${done}`)
      for (let turn = 0; turn < actsEach && done < acts; turn += 1) {
        const asked = someAct(clientId)
        if (!asked) continue
        compared += await foreseen(clientId, asked)
        done += 1
        await advance(now() + oneOf([0, minuteMs, 10 * minuteMs, 300 * minuteMs, dayMs, 2 * dayMs]))
      }
      const { sends } = facts(clientId)
      // What is left of this life would only take time while the next ones are lived.
      await call({ method: 'post', path: `/api/clients/${clientId}/hold-back`, body: { isHeldBack: true } })
      const inMailbox = running.postOffice
      for (const send of sends.filter(({ state, address }) => state === 'sent' && address !== null)) {
        const mails = inMailbox?.mailOf(send.address ?? '') ?? []
        expect([
          messageName(send),
          mails.filter(({ messageId }) => messageId === send.messageId).length,
        ]).toEqual([messageName(send), 1])
      }
    }
    expect(compared).toBeGreaterThan(acts / 2)
  }, 4_000_000)

  test('what the world has overtaken is refused, and shown anew', async () => {
    let overtaken = 0
    let refused = 0
    for (let round = 0; round < acts; round += 1) {
      const clientId = await newClient(`w${round}`)
      const first = someAct(clientId)
      if (first) await call(first)
      await advance(now())
      const asked = someAct(clientId)
      if (!asked) continue
      const shownBefore = await ask(asked)
      if (refusedWith(shownBefore) !== null) continue
      // Another window.
      const other = someAct(clientId)
      if (other) await call(other)
      await advance(now())
      const fresh = await ask(asked)
      const isSame = JSON.stringify(plain(shownBefore.body)) === JSON.stringify(plain(fresh.body))
      const done = await call(asked, { announcementId: (shownBefore.body as Announcement).announcementId })
      if (refusedWith(fresh) !== null) {
        expect(done.status).not.toBe(200)
        continue
      }
      overtaken += isSame ? 0 : 1
      refused += done.status === 200 ? 0 : 1
      const told = [asked.path, JSON.stringify(plain(shownBefore.body)), JSON.stringify(plain(fresh.body))]
      if (!isSame) expect([...told, done.status]).toEqual([...told, 409])
    }
    expect(overtaken).toBeGreaterThan(5)
    expect(refused).toBeGreaterThanOrEqual(overtaken)
  }, 1_200_000)

  test('held back is what is only being made, a booking or a contact', async () => {
    const clientId = await newClient('held')
    const booking = {
      serviceId: exampleService.id,
      partySize: 1,
      personInChargeId: null,
      clientId,
      ...timesAhead(),
      status: 'confirmed',
    }
    const asked: Asked = { method: 'post', path: '/api/bookings', body: { booking } }
    const { announcementId, consequences } = (await ask(asked)).body as Announcement
    const confirmation = consequences.find(({ purpose }) => purpose === 'confirmation')
    const done = await call(asked, { announcementId, holdBack: [confirmation?.name] })
    expect(done.status).toBe(200)
    await advance(now())
    const held = facts(clientId).sends.find((send) => messageName(send) === confirmation?.name)
    expect(held).toMatchObject({ state: 'waiting', reason: { code: 'held back' } })
    // Acted on once, the same announcement counts no more.
    expect((await call(asked, { announcementId })).status).toBe(409)
  })
})

/** What of an announcement a person sees: all but its id. */
const plain = (body: unknown) => {
  const { consequences } = body as Partial<Announcement>
  // What is only being made has another id each time it is asked about.
  return (
    consequences?.map(({ name, ...line }) => ({ ...line, sendIds: null, step: name.split('|')[2] })) ?? body
  )
}
