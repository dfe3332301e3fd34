import { afterEach, describe, expect, test } from '@jest/globals'
import { startRule } from '#core/model/sequence.ts'
import { exampleStep, exampleSteps } from '#core/rehearsal/exampleBusiness.ts'
import { readSend } from '../db/sendStore.ts'
import { addSequence } from '../db/settingsStore.ts'
import { addBookedClient, call, openExample, testFolder } from '../testing/seed.ts'
import { planAllAnew, previewInclusion } from './sequenceCommands.ts'
import type { RunningOffice } from './runningOffice.ts'

let running: RunningOffice | null = null

afterEach(async () => {
  await running?.end()
  running = null
})

async function open(folder?: string) {
  running = await openExample(folder)
  return running
}

const sendsOf = ({ office }: RunningOffice, stepId: string) =>
  office.store.statements
    .all('clientsWithRunningRuns', { sequenceId: null })
    .flatMap(({ id }) => office.store.statements.all('sendsOfClient', { clientId: String(id) }))
    .map(({ id }) => readSend(office.store.statements, String(id)))
    .filter((send) => send?.stepId === stepId)

const laterEvening = exampleSteps.map((step) =>
  step.timing.kind === 'calendar' ? { ...step, timing: { ...step.timing, atTime: '19:00' } } : step,
)
const draft = { start: startRule.parse({ on: 'booking confirmed' }), steps: laterEvening, stops: [] }

describe('a new version', () => {
  test.each([
    ['new ones only', false, ['16:00']],
    ['running ones too', true, ['17:00']],
  ])('for %s', async (_, movesRunning, expected) => {
    const of = await open()
    addBookedClient(of.office, of.commands, 'Oona', 'oona@siltanen.example')
    const changed = of.commands.changeSequence(call('changeSequence'), 'sq_1', draft, movesRunning)
    expect(changed).toMatchObject({ ok: true })
    const times = sendsOf(of, 'st_evening').map((send) =>
      new Date(send?.dueAt ?? 0).toISOString().slice(11, 16),
    )
    expect(times).toEqual(expected)
    expect(of.office.settings.required().sequences[0]?.currentVersion).toBe(2)
  })

  test('at fault is refused, and nothing changes', async () => {
    const of = await open()
    const twice = { ...draft, steps: [...laterEvening, ...laterEvening] }
    expect(of.commands.changeSequence(call('changeSequence'), 'sq_1', twice, true)).toMatchObject({
      ok: false,
      problem: { sentence: 'Two steps have the same id: st_confirm.' },
    })
    const noLetter = {
      ...draft,
      steps: [
        exampleStep({ id: 'st_x', purpose: 'reminder', letterId: 'lt_none', timing: { kind: 'at once' } }),
      ],
    }
    expect(of.commands.changeSequence(call('changeSequence'), 'sq_1', noLetter, true)).toMatchObject({
      ok: false,
      problem: { sentence: 'The letter lt_none of the step st_x is not there.' },
    })
    expect(of.office.settings.required().sequences[0]?.currentVersion).toBe(1)
  })
})

describe('those who were there already', () => {
  test('are shown first, and what was shown is what happens', async () => {
    const of = await open()
    addBookedClient(of.office, of.commands, 'Oona', 'oona@siltanen.example')
    addBookedClient(of.office, of.commands, 'Jules', 'jules@okonjo.example', 9)
    const { store, settings } = of.office
    addSequence(
      store.statements,
      { id: 'sq_2', name: 'New', state: 'draft', liveSince: null, currentVersion: 1 },
      { sequenceId: 'sq_2', version: 1, ...draft },
    )
    settings.forget()
    const shown = previewInclusion(of.office, 'sq_2')
    expect(shown.map(({ clientName, changes }) => [clientName, changes.map(({ kind }) => kind)])).toEqual([
      ['Oona', ['added', 'added']],
      ['Jules', ['added', 'added']],
    ])
    expect(of.commands.includeExisting(call('includeExisting'), 'sq_2')).toMatchObject({ ok: false })
    expect(of.commands.switchSequence(call('switchSequence'), 'sq_2', true)).toMatchObject({
      ok: true,
      value: { sends: 0 },
    })
    expect(of.commands.includeExisting(call('includeExisting'), 'sq_2')).toMatchObject({
      ok: true,
      value: { sends: 4 },
    })
    expect(previewInclusion(of.office, 'sq_2')).toEqual([])
  })
})

describe('a variation for a service', () => {
  test('is at work on running runs at once, and is kept', async () => {
    const of = await open()
    addBookedClient(of.office, of.commands, 'Oona', 'oona@siltanen.example')
    const variation = {
      id: 'va_1',
      sequenceId: 'sq_1',
      stepId: 'st_evening',
      scope: { of: 'service' as const, serviceId: 'sv_lesson' },
      letterId: null,
      timing: null,
      recipients: null,
      needsApproval: true,
      isOff: null,
      timingSetAt: 0,
    }
    expect(of.commands.vary(call('vary'), variation)).toMatchObject({ ok: true, value: { sends: 1 } })
    expect(sendsOf(of, 'st_evening')).toMatchObject([{ state: 'waiting' }])
    expect(of.office.settings.required().variations).toMatchObject([{ needsApproval: true }])
  })
})

describe('other data about zones', () => {
  test('plans the future anew at the next start; the same data plans nothing', async () => {
    const folder = testFolder()
    const first = await open(folder)
    addBookedClient(first.office, first.commands, 'Oona', 'oona@siltanen.example')
    await first.begin()
    const [right] = sendsOf(first, 'st_evening')
    const { statements } = first.office.store
    const id = String(right?.id)
    // As if the plan had been made with data that had another offset.
    const wrong = (right?.dueAt ?? 0) + 3_600_000
    statements.run('putOff', { id, dueAt: wrong, lineJson: JSON.stringify(right?.trace[0]) })
    await first.begin()
    expect(readSend(statements, id)?.dueAt).toBe(wrong)
    statements.run('writeMeta', { key: 'time data', value: '1999a' })
    await first.begin()
    expect(readSend(statements, id)).toEqual(right)
    const { version } = first.office.settings.required().zones
    expect(statements.one('readMeta', { key: 'time data' })?.['value']).toBe(version)
    expect(planAllAnew(first.office)).toBe(0)
  })
})
