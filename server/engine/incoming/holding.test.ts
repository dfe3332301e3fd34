import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { stopRule } from '#core/model/sequence.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../../db/clientStore.ts'
import { readClientFacts } from '../../db/livingStore.ts'
import { incomingOfClient } from '../../db/incomingStore.ts'
import { handOver } from '../../testing/handOver.ts'
import { mailOf } from '../../testing/mails.ts'
import { addBookedClient, addLive, asItStands, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* A sequence that waits for a person once its client has answered, and does not end. */

let running: RunningApplication
let clientId: string

const step = (id: string, timing: Parameters<typeof exampleStep>[0]['timing'], needsApproval = false) =>
  exampleStep({ id, purpose: 'follow-up', letterId: 'lt_starter-confirmation', timing, needsApproval })
const nextDay = { kind: 'after previous', amount: 1, unit: 'days', atTime: null } as const

beforeEach(async () => {
  running = await openExample()
  const { application, commands, pump } = running
  const steps = [
    step('st_first', { kind: 'at once' }),
    step('st_second', nextDay, true),
    step('st_third', nextDay),
  ]
  addLive(application, 'sq_ask', steps, { on: 'booking confirmed' }, [{ on: 'answered', does: 'holds' }])
  const bookingId = addBookedClient(application, commands, 'enno', 'enno@brackwater.example')
  clientId = readBooking(application.store.statements, bookingId)?.clientId ?? ''
  await pump.advance(application.clock.now() + hourMs)
})
afterEach(() => running.end())

function facts() {
  const { store, settings, clock } = running.application
  const found = readClientFacts(store.statements, clientId, 'everything', settings.required(), clock.now())
  if (!found) throw new Error('The client is gone')
  return found
}
const sendOf = (stepId: string) => facts().sends.find((one) => one.stepId === stepId)
const stateOf = (stepId: string) => sendOf(stepId)?.state
const runOf = () => facts().runs.find(({ sequenceId }) => sequenceId === 'sq_ask')
const later = (ms = 2 * dayMs) => running.pump.advance(running.application.clock.now() + ms)

function decide(stepId: string, decision: 'approve') {
  const { id = '' } = sendOf(stepId) ?? {}
  const made = running.commands.decideSend(call('decideSend'), asItStands(running.application, id), decision)
  if (!made.ok) throw new Error(made.problem.sentence)
}

async function answers() {
  const mail = mailOf({ inReplyTo: sendOf('st_first')?.messageId ?? '' })
  expect(await handOver(running.listener?.port ?? 0, mail)).toMatch(/^250/)
  await running.incoming.settled()
}

const goesOn = () => running.commands.resumeSequence(call('resumeSequence'), clientId, 'sq_ask')

describe('a sequence held by an answer', () => {
  test('asks before each message, also those that are planned later, and says why', async () => {
    decide('st_second', 'approve')
    expect(stateOf('st_second')).toBe('approved')
    await answers()
    const [mail] = incomingOfClient(running.application.store.statements, clientId, 5)
    expect(mail?.followed).toEqual(['“sq_ask” waits for a person: each of its messages asks first.'])
    expect(runOf()).toMatchObject({ state: 'running', held: { reason: 'The client answered.' } })
    expect(sendOf('st_second')).toMatchObject({
      state: 'waiting',
      reason: { sentence: 'The client answered. A person says whether it still goes.' },
    })
    decide('st_second', 'approve')
    await later(dayMs)
    expect(stateOf('st_second')).toBe('sent')
    await later()
    expect(stateOf('st_third')).toBe('waiting')
  })

  test('goes on as it was when a person says so, and only then', async () => {
    expect(goesOn()).toMatchObject({ ok: false, problem: { code: 'not found' } })
    await answers()
    expect(goesOn().ok).toBe(true)
    expect(runOf()?.held).toBeNull()
    expect(stateOf('st_second')).toBe('waiting')
    decide('st_second', 'approve')
    await later(dayMs)
    expect(stateOf('st_third')).toBe('ready')
    await later()
    expect(stateOf('st_third')).toBe('sent')
    expect(goesOn().ok).toBe(false)
  })

  test('is held once, however often the client writes, and ends when a person stops it', async () => {
    await answers()
    const { held } = runOf() ?? {}
    await later(hourMs)
    await answers()
    expect(runOf()?.held).toEqual(held)
    expect(running.commands.stopSequence(call('stopSequence'), clientId, 'sq_ask').ok).toBe(true)
    expect(runOf()?.state).toBe('stopped')
    expect(stateOf('st_second')).toBe('cancelled')
  })

  test('that has nothing left to send is no news', async () => {
    decide('st_second', 'approve')
    await later(dayMs)
    await later()
    expect(stateOf('st_third')).toBe('sent')
    await answers()
    const [mail] = incomingOfClient(running.application.store.statements, clientId, 5)
    expect(mail?.followed).toEqual(['It counts as an answer. Nothing was waiting for one.'])
    const kinds = running.application.store.statements
      .all('eventsOfClient', { clientId, afterId: null, limit: 200 })
      .map(({ kind }) => kind)
    expect(kinds).not.toContain('run held')
  })

  test('what is over cannot wait', () => {
    expect(stopRule.safeParse({ on: 'event over', does: 'holds' }).success).toBe(false)
    expect(stopRule.parse({ on: 'answered' }).does).toBe('ends')
  })
})
