import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { incomingOfClient } from '../../db/incomingStore.ts'
import { readSendsOfClient } from '../../db/sendStore.ts'
import { addAskedClient } from '../../testing/asked.ts'
import { mailOf } from '../../testing/mails.ts'
import { openExample } from '../../testing/seed.ts'
import { handIn } from '../incoming/handIn.ts'
import type { RunningApplication } from '../runningApplication.ts'
import type { Script } from './pump.ts'

/* What made-up clients do by themselves as demo time passes. */

let running: RunningApplication
let clientId: string
let faults: unknown[]

beforeEach(async () => {
  faults = []
  running = await openExample({ onFault: (fault) => void faults.push(fault) })
  clientId = await addAskedClient(running)
})
afterEach(() => running.end())

const statements = () => running.application.store.statements
const sendOf = (stepId: string) =>
  readSendsOfClient(statements(), clientId).find((one) => one.stepId === stepId)
const now = () => running.application.clock.now()
const later = (ms: number) => running.pump.advance(now() + ms)

/** One thing at a moment from now. */
const onceAfter = (ms: number, play: () => Promise<void>): Script => {
  const at = now() + ms
  return { nextAfter: (moment) => (moment < at ? { at, play } : null) }
}

async function answers() {
  const source = mailOf({ inReplyTo: sendOf('st_first')?.messageId ?? '' })
  await handIn(running, { from: 'enno@brackwater.example', to: 'hello@kiteworks.example', source })
}

describe('a script', () => {
  test('plays at its moment, before what is due after it', async () => {
    const at = now() + 20 * hourMs
    running.pump.plays(onceAfter(20 * hourMs, answers))
    await later(3 * dayMs)
    expect(incomingOfClient(statements(), clientId, 5)).toMatchObject([{ at, what: { kind: 'answer' } }])
    expect(sendOf('st_later')?.state).toBe('cancelled')
    expect(faults).toEqual([])
  })

  test('that comes too late changes nothing of what has gone', async () => {
    running.pump.plays(onceAfter(30 * hourMs, answers))
    await later(3 * dayMs)
    expect(sendOf('st_later')?.state).toBe('sent')
    expect(incomingOfClient(statements(), clientId, 5)).toHaveLength(1)
  })

  test('plays nothing before the clock comes past it, and its fault holds up nothing', async () => {
    running.pump.plays(onceAfter(20 * hourMs, () => Promise.reject(new Error('It does not play.'))))
    await later(19 * hourMs)
    expect(faults).toEqual([])
    await later(3 * dayMs)
    expect(faults).toMatchObject([{ message: 'It does not play.' }])
    expect(sendOf('st_later')?.state).toBe('sent')
  })
})
