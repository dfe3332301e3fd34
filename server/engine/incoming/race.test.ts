import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { exampleService, exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { dayMs } from '#core/time/calendar.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { freePort } from '../../testing/freePort.ts'
import { handOver } from '../../testing/handOver.ts'
import { mailOf } from '../../testing/mails.ts'
import { seedFolder, signInAt, startServer, within } from '../../testing/ownProcess.ts'
import { addLive, clientInput, testFolder } from '../../testing/seed.ts'
import { startTakingServer } from '../../testing/takingServer.ts'

/*
 * An answer that comes in the very moment in which the follow-up is due: to a server in a process of its own, as it is
 * started from a terminal, by real SMTP in both directions.
 */

const turns = process.env['VORFREUDE_FULL'] === 'yes' ? 200 : 25
/** What has left before an answer was stored may take so long to be seen at the other end, in milliseconds. */
const transitMs = 250

/** When the first byte of the words of a message came, by where it went. */
async function startClock() {
  const begunAt = new Map<string, number>()
  const server = await startTakingServer({
    onData(stream, { envelope }, done) {
      const [to] = envelope.rcptTo
      stream.once('data', () => begunAt.set(to?.address ?? '', performance.now()))
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

async function book(ask: Ask, name: string, address: string) {
  const client = await ask('POST', 'clients', { commandId: randomUUID(), client: clientInput(name, address) })
  const on = new Date(Date.now() + 9 * dayMs).toISOString().slice(0, 10)
  const booking = {
    clientId: (client.body as { id: string }).id,
    serviceId: exampleService.id,
    startLocal: `${on}T19:00`,
    endLocal: `${on}T21:00`,
    partySize: 1,
    status: 'confirmed',
    personInChargeId: null,
  }
  const made = await ask('POST', 'bookings', { commandId: randomUUID(), booking })
  expect([client.status, made.status]).toEqual([200, 200])
}

test(`in ${turns} turns no follow-up begins to leave after the answer was stored`, async () => {
  const { begunAt, server: taking } = await startClock()
  const folder = testFolder()
  const incomingPort = await freePort()
  const server = await startAsking(folder, taking.port, incomingPort)
  const ask = await signInAt(server.address)
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const stateOf = database.prepare<[string], string>(
    "SELECT state FROM sends WHERE step_id = 'st_ask' AND address = ?",
  )
  const chance = chanceFrom(20260514)
  const outcomes = { sent: 0, stopped: 0 }
  for (let turn = 0; turn < turns; turn += 1) {
    const address = `client${turn}@kite-${turn}.net`
    await book(ask, `Client ${turn}`, address)
    await new Promise((resolve) => setTimeout(resolve, chance() * 40))
    const answer = mailOf({ from: `<${address}>`, subject: 'Already done', messageId: `<${address}>` })
    expect(await handOver(incomingPort, answer, { from: address })).toMatch(/^250/)
    const storedAt = performance.now()
    const state = () => stateOf.pluck().get(address)
    expect(await within(60_000, () => state() === 'sent' || state() === 'cancelled')).not.toBeNull()
    const begun = begunAt.get(address)
    outcomes[state() === 'sent' ? 'sent' : 'stopped'] += 1
    if (state() === 'cancelled') expect([turn, begun]).toEqual([turn, undefined])
    else expect([turn, (begun ?? Infinity) <= storedAt + transitMs]).toEqual([turn, true])
  }
  // Both happen: some had left before the answer came, and others were stopped.
  expect(outcomes.sent + outcomes.stopped).toBe(turns)
  expect(outcomes.stopped).toBeGreaterThan(0)
  database.close()
  server.child.kill('SIGKILL')
  await server.ended
  taking.close()
}, 900_000)
