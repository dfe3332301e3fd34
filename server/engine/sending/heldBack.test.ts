import { afterEach, expect, test } from '@jest/globals'
import { noAllowance } from '#core/model/allowance.ts'
import { hourMs } from '#core/time/calendar.ts'
import { readSend } from '../../db/sendStore.ts'
import { writeBusiness } from '../../db/settingsStore.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import { callOf } from '../application.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* Who is held back gets nothing, holds nobody else up, and takes nothing of what the mail account still takes. */

let running: RunningApplication | null = null
afterEach(async () => {
  await running?.end()
  running = null
})

function booked(of: RunningApplication, name: string): string {
  const bookingId = addBookedClient(of.application, of.commands, name, `${name.toLowerCase()}@mail.example`)
  return String(of.application.store.statements.one('readBooking', { id: bookingId })?.['clientId'])
}

function hold(of: RunningApplication, clientId: string) {
  expect(of.commands.holdBackClient(call('holdBackClient'), clientId, true).ok).toBe(true)
}

const sentTo = (of: RunningApplication, name: string) =>
  (of.postOffice?.mailOf(`${name.toLowerCase()}@mail.example`) ?? []).length

const rowsOf = ({ application: { store } }: RunningApplication, clientId: string) =>
  store.statements.all('sendsOfClient', { clientId })

function allow(of: RunningApplication, perHour: number) {
  const { store, settings } = of.application
  const { business } = settings.required()
  store.transaction(() =>
    writeBusiness(store.statements, { ...business, allowance: { ...noAllowance, perHour } }),
  )
  settings.forget()
}

test('what falls due for somebody held back is not claimed, and time goes on for everybody', async () => {
  running = await openExample()
  const of = running
  const held = booked(of, 'Held')
  booked(of, 'Free')
  hold(of, held)
  await of.pump.advance(of.application.clock.now() + 6 * 24 * hourMs)
  expect(rowsOf(of, held)).not.toHaveLength(0)
  expect(sentTo(of, 'Held')).toBe(0)
  expect(sentTo(of, 'Free')).toBeGreaterThan(1)
  // Not even for a moment: each claim would count as an attempt.
  expect(rowsOf(of, held).map(({ attempts }) => attempts)).toEqual(rowsOf(of, held).map(() => 0))
  expect(of.pump.nextMessageAt()).toBeNull()
  expect(of.pump.stuckSince()).toBeNull()
})

test('what is held back takes nothing of the allowance from others', async () => {
  running = await openExample()
  const of = running
  allow(of, 1)
  const held = booked(of, 'Held')
  hold(of, held)
  booked(of, 'Free')
  await of.pump.advance(of.application.clock.now())
  expect(sentTo(of, 'Free')).toBe(1)
})

test('what has gone counts against the allowance, whoever got it', async () => {
  running = await openExample()
  const of = running
  allow(of, 1)
  booked(of, 'First')
  await of.pump.advance(of.application.clock.now())
  expect(sentTo(of, 'First')).toBe(1)
  const second = booked(of, 'Second')
  await of.pump.advance(of.application.clock.now())
  expect(sentTo(of, 'Second')).toBe(0)
  const [waiting] = of.application.store.statements
    .all('sendsOfClient', { clientId: second })
    .flatMap(({ id }) => readSend(of.application.store.statements, String(id)) ?? [])
    .filter(({ trace }) => trace.some(({ rule }) => rule === 'allowance'))
  expect(waiting?.state).toBe('ready')
  await of.pump.advance(of.application.clock.now() + hourMs)
  expect(sentTo(of, 'Second')).toBe(1)
})

test('a command id belongs to who used it first', async () => {
  running = await openExample()
  const of = running
  const asked = (personId: string | null) =>
    of.commands.holdBackClient(callOf('holdBackClient', 'command-0001', personId), clientId, true)
  const clientId = booked(of, 'Oona')
  expect(asked('pe_ada').ok).toBe(true)
  expect(asked('pe_ada').ok).toBe(true)
  expect(asked(null)).toMatchObject({ ok: false, problem: { code: 'invalid', field: 'commandId' } })
})
