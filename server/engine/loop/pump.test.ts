import { afterAll, beforeAll, expect, jest, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { mostClaims, noProgress } from '#core/engine/following/noProgress.ts'
import type { Send } from '#core/model/send.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { factsOfClient } from '../../db/clientStore.ts'
import { openRealHouse } from '../../testing/realHouse.ts'
import { addBookedClient, call, clientInput, openExample, testFolder } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

let running: RunningApplication
beforeAll(async () => {
  running = await openExample()
})
afterAll(() => running.end())

const now = () => running.application.clock.now()

function clientOf(bookingId: string) {
  const { statements } = running.application.store
  const clientId = String(statements.one('readBooking', { id: bookingId })?.['clientId'])
  const facts = factsOfClient(statements, clientId)
  if (!facts) throw new Error('no client')
  return facts
}

test('a client made inactive, the booking cancelled, and two minutes on: handling ends, and nothing goes', async () => {
  const { commands, application, pump } = running
  const bookingId = addBookedClient(application, commands, 'Inga', 'inga@mail.example')
  await pump.advance(now())
  const { client, bookings } = clientOf(bookingId)
  const input = { ...clientInput('Inga', 'inga@mail.example'), isActive: false }
  const contacts = input.contacts.map((one) => ({ ...one, id: client.contacts[0]?.id ?? null }))
  const changed = commands.changeClient(call('changeClient'), client.id, client.revision, {
    ...input,
    contacts,
  })
  expect(changed.ok).toBe(true)
  const cancelled = commands.cancelBooking(call('cancelBooking'), bookingId, bookings[0]?.revision ?? 0)
  expect(cancelled.ok).toBe(true)
  await pump.advance(now() + 2 * minuteMs)
  const { sends } = clientOf(bookingId)
  const isTried = ({ attempts }: Send) => attempts > 1
  expect(sends.filter(isTried)).toEqual([])
  expect(sends.filter(({ state }) => state === 'sent')).toHaveLength(1)
  expect(sends.map(({ state }) => state)).not.toContain('failed')
})

test('what comes up again and again is put aside with its reason, and the others go', async () => {
  const { commands, application, pump } = running
  const stuck = addBookedClient(application, commands, 'Runa', 'runa@mail.example')
  const other = addBookedClient(application, commands, 'Yorick', 'yorick@mail.example')
  const [first] = clientOf(stuck).sends
  const database = new Sqlite(application.store.file)
  database.prepare('UPDATE sends SET attempts = ? WHERE id = ?').run(mostClaims, first?.id)
  database.close()
  await pump.advance(now() + 60 * minuteMs)
  expect(clientOf(stuck).sends.find(({ id }) => id === first?.id)).toMatchObject({
    state: 'failed',
    reason: noProgress,
  })
  expect(clientOf(other).sends.map(({ state }) => state)).toContain('sent')
})

test('real time is told to the pages by the minute, however often it is looked for what is due', async () => {
  const house = await openRealHouse(testFolder(), [])
  const { changes, clock } = house.application
  const minute = Math.ceil(Date.now() / minuteMs) * minuteMs
  const machine = jest.spyOn(Date, 'now').mockReturnValue(minute)
  const published = jest.spyOn(changes, 'publish')
  const timesTold = () => published.mock.calls.filter(([topics]) => topics.includes('clock')).length
  for (let look = 0; look < 3; look += 1) await house.pump.advance(clock.now())
  expect(timesTold()).toBe(1)
  machine.mockReturnValue(minute + minuteMs)
  await house.pump.advance(clock.now())
  expect(timesTold()).toBe(2)
  machine.mockRestore()
  await house.end()
})
