import { join } from 'node:path'
import { expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { freePort } from '../../testing/freePort.ts'
import { handOver } from '../../testing/handOver.ts'
import { mailOf } from '../../testing/mails.ts'
import { newBooking, newClient } from '../../testing/overHttp.ts'
import { seedFolder, signInAt, startServer, wait, within } from '../../testing/ownProcess.ts'
import { addLive, testFolder } from '../../testing/seed.ts'
import { startTakingServer } from '../../testing/takingServer.ts'

/*
 * An answer that comes in the very moment in which the follow-up is due: to a server in a process of its own, as it is
 * started from a terminal, by real SMTP in both directions.
 */

const turns = process.env['VORFREUDE_FULL'] === 'yes' ? 200 : 25
/** What has left before an answer was stored may take so long to be seen at the other end, in milliseconds. */
const transitMs = 60
/** About the moment in which both are equally quick: so far to either side, and so much nearer each turn, in milliseconds. */
const spreadMs = 40
const stepMs = 25

/** When the first bytes of a message came, by its Message-ID. */
async function startClock() {
  const begunAt = new Map<string, number>()
  const server = await startTakingServer({
    authOptional: true,
    onData(stream, _session, done) {
      stream.once('data', (part: Buffer) => {
        const id = /^message-id:\s*(<[^>]+>)/im.exec(part.toString())?.[1]
        if (id !== undefined) begunAt.set(id, performance.now())
      })
      stream.on('end', () => done())
      stream.resume()
    },
  })
  return { begunAt, server }
}

/** A server whose follow-up goes at once after a booking, unless its client has answered. */
async function startAsking(folder: string, smtpPort: number, incomingPort: number) {
  const step = exampleStep({
    id: 'st_ask',
    purpose: 'confirmation',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'at once' },
  })
  await seedFolder(folder, [], (application) =>
    addLive(application, 'sq_ask', [step], { on: 'booking confirmed' }, [{ on: 'answered' }]),
  )
  return startServer(folder, {
    VORFREUDE_SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
    VORFREUDE_PUBLIC_URL: 'https://kiteworks.example',
    VORFREUDE_INCOMING_PORT: String(incomingPort),
  })
}

type Ask = Awaited<ReturnType<typeof signInAt>>

async function addClient(ask: Ask, name: string, address: string): Promise<string> {
  const made = await ask('POST', 'clients', newClient(name, address))
  expect(made.status).toBe(200)
  return (made.body as { id: string }).id
}

async function book(ask: Ask, clientId: string) {
  expect((await ask('POST', 'bookings', newBooking(clientId, Date.now()))).status).toBe(200)
}

interface Turn {
  readonly outcome: 'sent' | 'stopped' | 'too early'
  /** From the start of booking to the first byte of the follow-up, and of handing the answer over to its 250. */
  readonly leavingMs: number | null
  readonly storingMs: number
}

const middle = (numbers: readonly number[]) =>
  [...numbers].sort((one, other) => one - other)[Math.floor(numbers.length / 2)] ?? 0

interface Race {
  readonly ask: Ask
  readonly incomingPort: number
  readonly begunAt: ReadonlyMap<string, number>
  /** How the follow-up of a client stands in the database. */
  readonly followUp: (address: string) => { readonly state: string; readonly id: string } | undefined
}

/** Does something after some milliseconds; between which moments it was done. */
async function timed(afterMs: number, act: () => Promise<unknown>) {
  await wait(afterMs)
  const from = performance.now()
  await act()
  return { from, to: performance.now() }
}

/** A client is booked and answers, each after some milliseconds. */
async function play(
  { ask, incomingPort, begunAt, followUp }: Race,
  turn: number,
  [bookAfter, answerAfter]: readonly [number, number],
): Promise<Turn> {
  const address = `client${turn}@kite-${turn}.net`
  const clientId = await addClient(ask, `Client ${turn}`, address)
  const answer = mailOf({ from: `<${address}>`, subject: 'Already done', messageId: `<${address}>` })
  const [booked, stored] = await Promise.all([
    timed(bookAfter, () => book(ask, clientId)),
    timed(answerAfter, async () => {
      expect(await handOver(incomingPort, answer, { from: address })).toMatch(/^250/)
    }),
  ])
  const state = () => followUp(address)?.state ?? ''
  expect(await within(60_000, () => ['sent', 'cancelled'].includes(state()))).not.toBeNull()
  const begun = begunAt.get(followUp(address)?.id ?? '')
  const times = {
    leavingMs: begun === undefined ? null : begun - booked.from,
    storingMs: stored.to - stored.from,
  }
  // What was stored before there was a booking is no answer to what it started.
  if (stored.to < booked.to) return { outcome: 'too early', ...times }
  if (state() === 'cancelled') expect([turn, begun]).toEqual([turn, undefined])
  else expect([turn, (begun ?? Infinity) <= stored.to + transitMs]).toEqual([turn, true])
  return { outcome: state() === 'sent' ? 'sent' : 'stopped', ...times }
}

/** Plays all turns: first how long each takes by itself, then both about the same moment. */
async function playAll(race: Race) {
  const first: Turn[] = []
  for (let turn = 0; turn < 7; turn += 1) first.push(await play(race, turn, [0, 1500]))
  const leaving = middle(first.flatMap(({ leavingMs }) => leavingMs ?? []))
  const storing = middle(first.map(({ storingMs }) => storingMs))
  const chance = chanceFrom(20260514)
  const outcomes = { sent: 0, stopped: 0, 'too early': 0 }
  // From turn to turn it comes nearer to the moment at which both are equally quick.
  let even = storing - leaving
  for (let turn = 7; turn < 7 + turns; turn += 1) {
    const bookLater = even + spreadMs * (chance() - 0.5)
    const { outcome } = await play(race, turn, [Math.max(0, bookLater), Math.max(0, -bookLater)])
    outcomes[outcome] += 1
    even += outcome === 'sent' ? stepMs : -stepMs
  }
  return outcomes
}

test(`in ${turns} turns no follow-up begins to leave after the answer was stored`, async () => {
  const { begunAt, server: taking } = await startClock()
  const folder = testFolder()
  const incomingPort = await freePort()
  const server = await startAsking(folder, taking.port, incomingPort)
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const row = database.prepare<[string], { state: string; id: string }>(
    "SELECT state, message_id AS id FROM sends WHERE step_id = 'st_ask' AND address = ?",
  )
  const followUp = (address: string) => row.get(address)
  const outcomes = await playAll({ ask: await signInAt(server.address), incomingPort, begunAt, followUp })
  database.close()
  server.child.kill('SIGKILL')
  await server.ended
  taking.close()
  // Some had left before the answer came, and others were stopped.
  expect(outcomes.sent).toBeGreaterThan(0)
  expect(outcomes.stopped).toBeGreaterThan(0)
}, 900_000)
