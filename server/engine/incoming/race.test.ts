import { expect, test } from '@jest/globals'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { readBooking } from '../../db/clientStore.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { readSendsOfClient } from '../../db/sendStore.ts'
import { handOver } from '../../testing/handOver.ts'
import { mailOf } from '../../testing/mails.ts'
import { within } from '../../testing/ownProcess.ts'
import { addBookedClient, addLive, testFolder, writeExampleBusiness } from '../../testing/seed.ts'
import { startTakingServer } from '../../testing/takingServer.ts'
import { openApplication } from '../runningApplication.ts'

/* An answer that comes in the very moment in which the follow-up is due: by real SMTP in both directions. */

const turns = process.env['VORFREUDE_FULL'] === 'yes' ? 200 : 25
/** What has left before an answer was stored may take so long to be seen at the other end, in milliseconds. */
const transitMs = 250

test(`in ${turns} turns no follow-up begins to leave after the answer was stored`, async () => {
  /** When the first byte of the words of a message came, by where it went. */
  const begunAt = new Map<string, number>()
  const server = await startTakingServer({
    onData(stream, { envelope }, done) {
      const [to] = envelope.rcptTo
      stream.once('data', () => begunAt.set(to?.address ?? '', performance.now()))
      stream.on('end', () => done())
      stream.resume()
    },
  })
  const running = await openApplication({
    folder: testFolder(),
    isDemo: false,
    smtpUrl: `smtp://127.0.0.1:${server.port}`,
    incomingPort: 0,
    onFault: (fault) => {
      throw fault
    },
  })
  const { application, commands, incoming, listener } = running
  application.store.transaction(() => writeExampleBusiness(application.store.statements))
  application.settings.forget()
  const step = exampleStep({
    id: 'st_ask',
    purpose: 'confirmation',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'at once' },
  })
  addLive(application, 'sq_ask', [step], { on: 'booking confirmed' }, [{ on: 'answered', name: null }])
  await running.begin()
  const chance = chanceFrom(20260514)
  const storedAt = new Map<string, number>()
  const outcomes = { sent: 0, stopped: 0 }
  for (let turn = 0; turn < turns; turn += 1) {
    const address = `client${turn}@reached.test`
    const real = `client${turn}@kite-${turn}.net`
    const bookingId = addBookedClient(application, commands, `Client ${turn}`, real)
    const clientId = readBooking(application.store.statements, bookingId)?.clientId ?? ''
    await new Promise((resolve) => setTimeout(resolve, chance() * 40))
    const answer = mailOf({ from: `<${real}>`, subject: 'Already done', messageId: `<${address}>` })
    expect(await handOver(listener?.port ?? 0, answer, { from: real })).toMatch(/^250/)
    storedAt.set(real, performance.now())
    const states = () =>
      readSendsOfClient(application.store.statements, clientId)
        .filter(({ stepId }) => stepId === 'st_ask')
        .map(({ state }) => state)
    const isOver = () => states().every((state) => state === 'sent' || state === 'cancelled')
    await incoming.settled()
    expect(await within(60_000, isOver)).not.toBeNull()
    const [state] = states()
    outcomes[state === 'sent' ? 'sent' : 'stopped'] += 1
    const begun = begunAt.get(real)
    if (state === 'cancelled') expect([turn, begun]).toEqual([turn, undefined])
    else expect([turn, (begun ?? Infinity) <= (storedAt.get(real) ?? 0) + transitMs]).toEqual([turn, true])
  }
  // Both happen: some had left before the answer came, and others were stopped.
  expect(outcomes.sent + outcomes.stopped).toBe(turns)
  await running.end()
  server.close()
}, 600_000)
