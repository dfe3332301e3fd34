import { afterEach, expect, test } from '@jest/globals'
import { randomUUID } from 'node:crypto'
import pino from 'pino'
import request from 'supertest'
import { businessInput, type SettingsChange } from '#core/engine/commands/settingsCommands.ts'
import { startRule } from '#core/model/sequence.ts'
import { variation } from '#core/model/variation.ts'
import { exampleSteps } from '#core/rehearsal/exampleBusiness.ts'
import { readSend } from '../../db/sendStore.ts'
import { createApp } from '../../http/app.ts'
import { addEda, signInEda } from '../../testing/signIn.ts'
import { differencesOf } from '../../sequences/differences.ts'
import { sequenceView } from '../../sequences/lines.ts'
import { addBookedClient, asItStands, call, openExample, testFolder } from '../../testing/seed.ts'
import type { DesignAsk, RolloutAsk } from './rollouts.ts'
import { rolloutOf as rolloutProgress } from './progress.ts'
import { inStepsFrom, stepRollout } from './rolloutSteps.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* A design for many goes into effect client by client, beside everything else, and is held to what was shown. */

const count = inStepsFrom + 70
/** A thread starts slowly on a busy machine, and so many are booked first. */
const patient = 120_000

let running: RunningApplication | null = null
afterEach(async () => {
  await running?.end()
  running = null
})

const steps = exampleSteps.map((step) =>
  step.timing.kind === 'calendar' ? { ...step, timing: { ...step.timing, atTime: '19:00' } } : step,
)
const ask: DesignAsk = {
  sequenceId: 'sq_1',
  design: { name: 'Before a lesson', start: startRule.parse({ on: 'booking confirmed' }), steps, stops: [] },
  rollout: { movesRunning: true, includesExisting: false },
}

async function withMany(folder = testFolder()): Promise<RunningApplication> {
  running = await openExample({ folder })
  const of = running
  of.application.store.transaction(() => {
    for (let index = 0; index < count; index += 1) {
      addBookedClient(of.application, of.commands, `Client ${index}`, `c${index}@many.example`, 5)
    }
  })
  return of
}

async function shownFor({ application }: RunningApplication, what: RolloutAsk = ask) {
  const differences = differencesOf(application)
  const id = differences.start(what)
  for (;;) {
    const found = differences.read(id)
    if (found?.problem) throw new Error(found.problem)
    if (found?.result) {
      await differences.endAll()
      return found.result
    }
    await new Promise((done) => setTimeout(done, 20))
  }
}

function eveningsOf({ application: { store } }: RunningApplication) {
  const sends = store.statements
    .all('overdueSends', { until: Number.MAX_SAFE_INTEGER, sequenceId: 'sq_1' })
    .flatMap(({ id }) => readSend(store.statements, String(id)) ?? [])
    .filter(({ stepId }) => stepId === 'st_evening')
  return sends.map(({ clientId, dueAt }) => ({
    clientId,
    at: new Date(dueAt ?? 0).toISOString().slice(11, 16),
  }))
}
const at = (of: RunningApplication, time: string) => eveningsOf(of).filter((one) => one.at === time).length
const put = (of: RunningApplication, announcementId: string | null) =>
  of.commands.putIntoEffect(call('putIntoEffect'), ask, announcementId)
const rolloutOf = (of: RunningApplication) => sequenceView(of, 'sq_1')?.rollout

test(
  'all of it as it was shown, in steps, and new ones have it at once',
  async () => {
    const of = await withMany()
    const shown = await shownFor(of)
    expect(put(of, shown.announcementId)).toMatchObject({ ok: true, value: { sends: count } })
    expect(of.application.settings.required().sequences[0]?.currentVersion).toBe(2)
    expect(rolloutOf(of)).toMatchObject({ total: count, ahead: count, isUnderWay: true })
    addBookedClient(of.application, of.commands, 'New', 'new@many.example', 5)
    expect(at(of, '17:00')).toBe(1)
    expect(put(of, null)).toMatchObject({ ok: false, problem: { code: 'not allowed now' } })
    await of.pump.advance(of.application.clock.now())
    expect(at(of, '17:00')).toBe(count + 1)
    expect(at(of, '16:00')).toBe(0)
    expect(rolloutOf(of)).toBeNull()
    // The same once more does nothing.
    expect(put(of, null)).toMatchObject({ ok: true })
    await of.pump.advance(of.application.clock.now())
    expect(eveningsOf(of)).toHaveLength(count + 1)
  },
  patient,
)

test(
  'for whom something else would happen by now, nothing does, and they are named',
  async () => {
    const of = await withMany()
    const shown = await shownFor(of)
    const [one] = of.application.store.statements
      .all('overdueSends', { until: Number.MAX_SAFE_INTEGER, sequenceId: 'sq_1' })
      .flatMap(({ id }) => readSend(of.application.store.statements, String(id)) ?? [])
      .filter(({ stepId }) => stepId === 'st_evening')
    if (!one) throw new Error('no message')
    expect(
      of.commands.decideSend(call('decideSend'), asItStands(of.application, one.id), 'hold back').ok,
    ).toBe(true)
    expect(put(of, shown.announcementId).ok).toBe(true)
    await of.pump.advance(of.application.clock.now())
    expect(at(of, '17:00')).toBe(count - 1)
    expect(rolloutOf(of)).toMatchObject({ isUnderWay: false, others: [{ id: one.clientId }] })
    expect(readSend(of.application.store.statements, one.id)).toMatchObject({
      state: 'waiting',
      sequenceVersion: 1,
    })
  },
  patient,
)

test(
  'stopped, who is still ahead keeps the version before, until it is taken up again',
  async () => {
    const of = await withMany()
    expect(put(of, null).ok).toBe(true)
    stepRollout(of.application, (fault) => {
      throw fault
    })
    const done = count - (rolloutOf(of)?.ahead ?? 0)
    expect(done).toBeGreaterThan(0)
    expect(done).toBeLessThan(count)
    expect(of.commands.stopRollout(call('stopRollout'), 'sq_1').ok).toBe(true)
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '17:00'), at(of, '16:00')]).toEqual([done, count - done])
    expect(rolloutOf(of)).toMatchObject({ isUnderWay: false, isStopped: true, ahead: count - done })
    expect(of.commands.takeUpRollout(call('takeUpRollout'), 'sq_1').ok).toBe(true)
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '17:00'), at(of, '16:00')]).toEqual([count, 0])
    expect(rolloutOf(of)).toBeNull()
    expect(of.commands.takeUpRollout(call('takeUpRollout'), 'sq_1')).toMatchObject({ ok: false })
  },
  patient,
)

test(
  'ended in between, the program goes on with the next one when it is started again',
  async () => {
    const folder = testFolder()
    const of = await withMany(folder)
    expect(put(of, null).ok).toBe(true)
    stepRollout(of.application, (fault) => {
      throw fault
    })
    const done = count - (rolloutOf(of)?.ahead ?? 0)
    await of.end()
    running = await openExample({ folder, onFault: () => undefined })
    expect(at(running, '17:00')).toBe(done)
    await running.pump.advance(running.application.clock.now())
    expect(at(running, '17:00')).toBe(count)
    expect(rolloutOf(running)).toBeNull()
  },
  patient,
)

test(
  'over HTTP: shown for a part of them beforehand, and put into effect as it was shown',
  async () => {
    const of = await withMany()
    addEda(of.application)
    const app = createApp(of, pino({ level: 'silent' }))
    const { cookie, csrf } = await signInEda(app)
    const post = async (path: string, body: object) => {
      const answer = await request(app)
        .post(`/api/sequences/sq_1/${path}`)
        .set('Cookie', cookie)
        .set('X-CSRF-Token', csrf)
        .send({ commandId: randomUUID(), ...body })
      expect(answer.status).toBe(200)
      return answer.body as Record<string, unknown>
    }
    const asked = await post('back-to-approval', { stepId: 'st_evening', onlyAsks: true })
    expect((asked['consequences'] as { waits: boolean }[]).filter(({ waits }) => waits)).toHaveLength(count)
    expect(rolloutOf(of)).toBeNull()
    const { announcementId } = await shownFor(of)
    const { design, rollout } = ask
    await post('effect', { design, rollout, announcementId })
    await of.pump.settled()
    await of.pump.advance(of.application.clock.now())
    expect(at(of, '17:00')).toBe(count)
  },
  patient,
)

test(
  'what was stopped is not taken up once something newer is in effect',
  async () => {
    const of = await withMany()
    expect(put(of, null).ok).toBe(true)
    expect(of.commands.stopRollout(call('stopRollout'), 'sq_1').ok).toBe(true)
    const { design } = ask
    const renamed = {
      ...ask,
      design: { ...design, name: 'Newer' },
      rollout: { movesRunning: false, includesExisting: false },
    }
    expect(of.commands.putIntoEffect(call('putIntoEffect'), renamed, null).ok).toBe(true)
    expect(rolloutOf(of)).toBeNull()
    expect(of.commands.takeUpRollout(call('takeUpRollout'), 'sq_1')).toMatchObject({ ok: false })
  },
  patient,
)

test(
  'what differs for a service comes to those it is at work for in steps, and to new ones at once',
  async () => {
    const of = await withMany()
    const clientId = eveningsOf(of)[0]?.clientId ?? ''
    const serviceId = of.application.sliceOf(clientId, 'everything')?.facts.bookings[0]?.serviceId ?? ''
    const [evening] = steps.filter(({ id }) => id === 'st_evening')
    const timing = evening && { timing: evening.timing, lead: null }
    const differs = variation.parse({
      id: 'va_later',
      sequenceId: 'sq_1',
      stepId: 'st_evening',
      scope: { of: 'service', serviceId },
      timing,
      timingSetAt: 0,
    })
    expect(of.commands.vary(call('vary'), differs).ok).toBe(true)
    expect(rolloutOf(of)).toMatchObject({ total: count, isUnderWay: true })
    addBookedClient(of.application, of.commands, 'New', 'new@many.example', 5)
    expect([at(of, '17:00'), at(of, '16:00')]).toEqual([1, count])
    // Nothing else of the sequence overtakes it.
    expect(of.commands.removeVariation(call('removeVariation'), 'va_later')).toMatchObject({
      ok: false,
      problem: { code: 'not allowed now' },
    })
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '17:00'), at(of, '16:00')]).toEqual([count + 1, 0])
    expect(rolloutOf(of)).toBeNull()
    expect(of.commands.removeVariation(call('removeVariation'), 'va_later').ok).toBe(true)
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '17:00'), at(of, '16:00')]).toEqual([0, count + 1])
  },
  patient,
)

/** Messages only from eleven to five in the afternoon. */
const shortHours = (of: RunningApplication): SettingsChange => {
  const { business } = of.application.settings.required()
  const weekly = Array.from({ length: 7 }, () => [{ from: '11:00', to: '17:00' }])
  const changed = { ...business, sendingHours: { ...business.sendingHours, weekly } }
  return { of: 'business', revision: business.revision, business: businessInput.strip().parse(changed) }
}

test(
  'changed sending hours go into effect for everybody as it was shown, in steps, and hold for new ones at once',
  async () => {
    const of = await withMany()
    const change = shortHours(of)
    const shown = await shownFor(of, { sequenceId: null, change })
    expect(shown.counts).toContainEqual(expect.objectContaining({ kind: 'moved', count }))
    expect(of.commands.changeSettings(call('changeSettings'), change, shown.announcementId)).toMatchObject({
      ok: true,
      value: { sends: shown.lines.length },
    })
    expect(rolloutProgress(of.application, null)).toMatchObject({ total: count, isUnderWay: true })
    addBookedClient(of.application, of.commands, 'New', 'new@many.example', 5)
    expect([at(of, '15:00'), at(of, '16:00')]).toEqual([1, count])
    // Nothing else overtakes it, neither settings nor a design.
    const next = { ...change, revision: 2 }
    for (const result of [of.commands.changeSettings(call('changeSettings'), next, null), put(of, null)]) {
      expect(result).toMatchObject({ ok: false, problem: { code: 'not allowed now' } })
    }
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '15:00'), at(of, '16:00')]).toEqual([count + 1, 0])
    expect(rolloutProgress(of.application, null)).toBeNull()
    // Decided on a revision that is no more.
    expect(of.commands.changeSettings(call('changeSettings'), change, null)).toMatchObject({
      ok: false,
      problem: { code: 'changed meanwhile' },
    })
  },
  patient,
)

test(
  'for somebody who changed meanwhile, changed settings count all the same, and that is said',
  async () => {
    const of = await withMany()
    const change = shortHours(of)
    const shown = await shownFor(of, { sequenceId: null, change })
    const [first] = eveningsOf(of)
    of.commands.changeSettings(call('changeSettings'), change, shown.announcementId)
    const slice = of.application.sliceOf(first?.clientId ?? '', 'everything')
    const [booking] = slice?.facts.bookings ?? []
    of.commands.cancelBooking(call('cancelBooking'), booking?.id ?? '', booking?.revision ?? 0)
    await of.pump.advance(of.application.clock.now())
    expect([at(of, '15:00'), at(of, '16:00')]).toEqual([count - 1, 0])
    expect(rolloutProgress(of.application, null)?.others.map(({ id }) => id)).toEqual([first?.clientId])
  },
  patient,
)
