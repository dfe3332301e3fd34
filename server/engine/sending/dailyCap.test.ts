import { afterEach, beforeEach, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { dayMs, minuteMs } from '#core/time/calendar.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'
import { dailyCapKey, readDailyCap } from './dailyCap.ts'

/* The brake: no day on which more leaves than somebody expected. */

let running: RunningApplication
beforeEach(async () => {
  running = await openExample()
})
afterEach(() => running.end())

const now = () => running.application.clock.now()
const isOn = () => running.application.settings.required().isSendingOn
const cap = () => readDailyCap(running.application.store.statements)
const setCap = (most: number | null) => running.commands.setDailyCap(call('setDailyCap'), most)
const switchOn = () => running.commands.setSending(call('setSending'), true)
const gone = () => Number(running.application.store.statements.one('sentSince', { from: 0 })?.count)
function book(count: number, of: string) {
  for (let index = 0; index < count; index += 1) {
    const name = `${of}${index}`
    addBookedClient(running.application, running.commands, name, `${name}@mail.example`)
  }
}

function told(): unknown {
  const database = new Sqlite(running.application.store.file, { readonly: true })
  const sentence = database
    .prepare("SELECT sentence FROM events WHERE kind = 'sending held back' ORDER BY rowid DESC")
    .pluck()
    .get()
  database.close()
  return sentence
}

test('with more due than may go in a day exactly so many go, and everything is held back by itself', async () => {
  expect(setCap(5).ok).toBe(true)
  book(12, 'a')
  await running.pump.advance(now() + 10 * minuteMs)
  expect([gone(), isOn()]).toEqual([5, false])
  expect(cap().reachedAt).not.toBeNull()
  expect(told()).toBe(
    'All sending was held back by itself: 5 messages went today, and no more may go in a day.',
  )
  // Another day changes nothing: a person has to look.
  await running.pump.advance(now() + dayMs)
  expect(gone()).toBe(5)
})

test('switched on by a person it counts anew, and what was due meanwhile is listed and does not go by itself', async () => {
  setCap(5)
  book(7, 'a')
  await running.pump.advance(now() + 10 * minuteMs)
  expect(switchOn()).toMatchObject({ ok: true, value: { isOn: true, missed: 2 } })
  expect(cap()).toMatchObject({ most: 5, reachedAt: null })
  book(4, 'b')
  await running.pump.advance(now() + 10 * minuteMs)
  expect([gone(), isOn()]).toEqual([9, true])
})

test('exactly as many as may go hold nothing back, and the next day begins at nothing', async () => {
  setCap(5)
  book(5, 'a')
  await running.pump.advance(now() + 10 * minuteMs)
  expect([gone(), isOn()]).toEqual([5, true])
  await running.pump.advance(now() + dayMs)
  book(5, 'b')
  await running.pump.advance(now() + 10 * minuteMs)
  expect([gone(), isOn()]).toEqual([10, true])
  setCap(null)
  book(20, 'c')
  await running.pump.advance(now() + 10 * minuteMs)
  expect([gone(), isOn()]).toEqual([30, true])
})

test('that cannot be read is as if there were none', () => {
  running.application.store.statements.run('writeMeta', { key: dailyCapKey, value: '{"most":"five"}' })
  expect(cap().most).toBeNull()
})
