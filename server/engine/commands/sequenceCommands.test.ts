import { afterEach, describe, expect, test } from '@jest/globals'
import { startRule } from '#core/model/sequence.ts'
import { field, words } from '#core/letters/authoring.ts'
import { exampleStep, exampleSteps } from '#core/rehearsal/exampleBusiness.ts'
import { putLetter } from '../../db/letterStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { addSequence } from '../../db/settingsStore.ts'
import { addBookedClient, call, openExample, testFolder } from '../../testing/seed.ts'
import { sequenceView } from '../../sequences/lines.ts'
import { differencesOf } from '../../sequences/differences.ts'
import { planAllAnew } from './sequenceCommands.ts'
import type { RolloutAsk } from '../rollouts/rollouts.ts'
import type { RunningApplication } from '../runningApplication.ts'

let running: RunningApplication | null = null

afterEach(async () => {
  await running?.end()
  running = null
})

async function open(folder?: string) {
  running = await openExample({ folder })
  return running
}

const sendsOf = ({ application }: RunningApplication, stepId: string) =>
  application.store.statements
    .all('clientsWithRunningRuns', { sequenceId: null })
    .flatMap(({ id }) => application.store.statements.all('sendsOfClient', { clientId: String(id) }))
    .map(({ id }) => readSend(application.store.statements, String(id)))
    .filter((send) => send?.stepId === stepId)

const laterEvening = exampleSteps.map((step) =>
  step.timing.kind === 'calendar' ? { ...step, timing: { ...step.timing, atTime: '19:00' } } : step,
)
const design = {
  name: 'Before a lesson',
  start: startRule.parse({ on: 'booking confirmed' }),
  steps: laterEvening,
  stops: [],
}
const forNobody = { movesRunning: false, includesExisting: false }

describe('a design put into effect', () => {
  test.each([
    ['new ones only', false, ['16:00']],
    ['running ones too', true, ['17:00']],
  ])('for %s', async (_, movesRunning, expected) => {
    const of = await open()
    addBookedClient(of.application, of.commands, 'Oona', 'oona@siltanen.example')
    const ask = { sequenceId: 'sq_1', design, rollout: { ...forNobody, movesRunning } }
    expect(of.commands.putIntoEffect(call('putIntoEffect'), ask, null)).toMatchObject({ ok: true })
    const times = sendsOf(of, 'st_evening').map((send) =>
      new Date(send?.dueAt ?? 0).toISOString().slice(11, 16),
    )
    expect(times).toEqual(expected)
    expect(of.application.settings.required().sequences[0]?.currentVersion).toBe(2)
  })

  test.each([
    ['Two steps have the same id: st_confirm.', [...laterEvening, ...laterEvening]],
    ['A sequence needs a step.', []],
    [
      'The letter lt_none of the step st_x is not there.',
      [exampleStep({ id: 'st_x', purpose: 'reminder', letterId: 'lt_none', timing: { kind: 'at once' } })],
    ],
  ])('at fault is refused (%s), and nothing changes', async (sentence, steps) => {
    const of = await open()
    const ask = { sequenceId: 'sq_1', design: { ...design, steps }, rollout: forNobody }
    expect(of.commands.putIntoEffect(call('putIntoEffect'), ask, null)).toMatchObject({
      ok: false,
      problem: { sentence },
    })
    expect(of.application.settings.required().sequences[0]?.currentVersion).toBe(1)
  })
})

/** A thread starts slowly on a busy machine. */
const threadMs = 60_000

async function differenceOf(of: RunningApplication, ask: RolloutAsk) {
  const differences = differencesOf(of.application)
  const id = differences.start(ask)
  for (let tries = 0; tries < 1000; tries += 1) {
    const found = differences.read(id)
    if (found?.problem !== null && found) throw new Error(found.problem)
    if (found?.result) {
      await differences.endAll()
      return found.result
    }
    await new Promise((done) => setTimeout(done, 50))
  }
  throw new Error('It did not come to an end')
}

describe('those who were there already', () => {
  const including = { sequenceId: 'sq_2', design, rollout: { ...forNobody, includesExisting: true } }

  async function withDraft() {
    const of = await open()
    addBookedClient(of.application, of.commands, 'Oona', 'oona@siltanen.example')
    addBookedClient(of.application, of.commands, 'Jules', 'jules@okonjo.example', 9)
    const sequence = { id: 'sq_2', name: 'New', state: 'draft' as const, liveSince: null, currentVersion: 1 }
    const { start, stops } = design
    const version = { sequenceId: 'sq_2', version: 1, start, steps: [], stops }
    addSequence(of.application.store.statements, sequence, version)
    of.application.settings.forget()
    return of
  }

  test(
    'are shown first, and what was shown is what happens',
    async () => {
      const of = await withDraft()
      const shown = await differenceOf(of, including)
      expect(shown.lines.map(({ clientName, kind }) => [clientName, kind])).toEqual([
        ['Oona', 'added'],
        ['Oona', 'added'],
        ['Jules', 'added'],
        ['Jules', 'added'],
      ])
      expect(shown).toMatchObject({ clients: 2, lookedAt: 2, isCut: false })
      expect(of.commands.switchSequence(call('switchSequence'), 'sq_2', true)).toMatchObject({ ok: false })
      const put = of.commands.putIntoEffect(call('putIntoEffect'), including, shown.announcementId)
      expect(put).toMatchObject({ ok: true, value: { sends: 4 } })
      expect((await differenceOf(of, including)).lines).toEqual([])
    },
    threadMs,
  )

  test(
    'somebody who came meanwhile: it is refused, and shown anew',
    async () => {
      const of = await withDraft()
      const shown = await differenceOf(of, including)
      addBookedClient(of.application, of.commands, 'Ida', 'ida@mossgrave.example', 7)
      const put = () => of.commands.putIntoEffect(call('putIntoEffect'), including, shown.announcementId)
      expect(put()).toMatchObject({ ok: false, problem: { code: 'changed meanwhile' } })
      expect(of.application.settings.required().sequences.find(({ id }) => id === 'sq_2')?.state).toBe(
        'draft',
      )
      expect((await differenceOf(of, including)).clients).toBe(3)
    },
    threadMs,
  )
})

test(
  'many running subjects: progress is told, and everything else goes on meanwhile',
  async () => {
    const of = await open()
    const count = process.env['VORFREUDE_FULL'] === 'yes' ? 2000 : 150
    of.application.store.transaction(() => {
      for (let index = 0; index < count; index += 1) {
        addBookedClient(of.application, of.commands, `Client ${index}`, `c${index}@many.example`, 5)
      }
    })
    const differences = differencesOf(of.application)
    const ask = { sequenceId: 'sq_1', design, rollout: { ...forNobody, movesRunning: true } }
    const id = differences.start(ask)
    const seen: number[] = []
    let answered = 0
    for (;;) {
      const found = differences.read(id)
      if (found?.result) {
        expect(found.result).toMatchObject({ clients: count, lookedAt: count })
        expect(
          of.commands.putIntoEffect(call('putIntoEffect'), ask, found.result.announcementId),
        ).toMatchObject({
          ok: true,
          value: { sends: count },
        })
        break
      }
      if (found) seen.push(found.done)
      answered += of.application.store.statements.all('allServices').length
      await new Promise((done) => setTimeout(done, 4))
    }
    expect(seen.some((done) => done > 0 && done < count)).toBe(true)
    expect(answered).toBeGreaterThan(1)
    await differences.endAll()
  },
  threadMs,
)

test(
  'what letters link to is there when a change is worked out: none of them is said to go no more',
  async () => {
    const of = await open()
    const { store, settings } = of.application
    const letter = settings.required().letters.find(({ id }) => id === 'lt_starter-reminder')
    if (!letter) throw new Error('There is no such letter')
    const linked = {
      id: 'link',
      kind: 'text' as const,
      paragraphs: [words`Here: ${field('link.booking')}`],
    }
    putLetter(store.statements, { ...letter, sections: [...letter.sections, linked] }, null)
    settings.forget()
    addBookedClient(of.application, of.commands, 'Oona', 'oona@siltanen.example')
    const ask = { sequenceId: 'sq_1', design, rollout: { ...forNobody, movesRunning: true } }
    const { lines, announcementId } = await differenceOf(of, ask)
    expect(lines.map(({ kind }) => kind)).toEqual(['moved'])
    expect(of.commands.putIntoEffect(call('putIntoEffect'), ask, announcementId).ok).toBe(true)
  },
  threadMs,
)

describe('a design that is being written', () => {
  test('is kept, is not in effect, and is not written over by a second tab', async () => {
    const of = await open()
    const { commands } = of
    const renamed = { ...design, name: 'Another name' }
    expect(commands.saveDesign(call('saveDesign'), 'sq_1', 0, renamed)).toMatchObject({
      ok: true,
      value: { revision: 1 },
    })
    expect(of.application.settings.required().sequences[0]?.name).toBe('Before a lesson')
    expect(commands.saveDesign(call('saveDesign'), 'sq_1', 0, design)).toMatchObject({
      ok: false,
      problem: { code: 'changed meanwhile' },
    })
    // Changed back to what is in effect, there is nothing to keep.
    const { start, steps, stops } = of.application.settings.required().sequenceVersions[0] ?? design
    const back = { name: 'Before a lesson', start, steps, stops }
    expect(commands.saveDesign(call('saveDesign'), 'sq_1', 1, back)).toMatchObject({ value: { revision: 0 } })
    expect(commands.saveDesign(call('saveDesign'), 'sq_1', 0, renamed)).toMatchObject({
      value: { revision: 1 },
    })
    const ask = { sequenceId: 'sq_1', design: renamed, rollout: forNobody }
    expect(commands.putIntoEffect(call('putIntoEffect'), ask, null)).toMatchObject({ ok: true })
    expect(of.application.settings.required().sequences[0]?.name).toBe('Another name')
    expect(of.application.store.statements.one('readDesign', { sequenceId: 'sq_1' })).toBeUndefined()
  })

  test('a sequence begun and never used can be taken away, one that ran cannot', async () => {
    const of = await open()
    addBookedClient(of.application, of.commands, 'Oona', 'oona@siltanen.example')
    const added = of.commands.addSequence(call('addSequence'), { ...design, steps: [] })
    if (!added.ok) throw new Error(added.problem.sentence)
    expect(of.commands.removeSequence(call('removeSequence'), added.value.id)).toMatchObject({ ok: true })
    expect(of.application.settings.required().sequences).toHaveLength(1)
    expect(of.commands.removeSequence(call('removeSequence'), 'sq_1')).toMatchObject({
      ok: false,
      problem: { sentence: 'This sequence has run: its history stays. Pause it instead.' },
    })
  })
})

describe('a variation for a service', () => {
  test('is at work on running runs at once, and is kept', async () => {
    const of = await open()
    addBookedClient(of.application, of.commands, 'Oona', 'oona@siltanen.example')
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
    expect(of.application.settings.required().variations).toMatchObject([{ needsApproval: true }])
  })
})

describe('other data about zones', () => {
  test('plans the future anew at the next start; the same data plans nothing', async () => {
    const folder = testFolder()
    const first = await open(folder)
    addBookedClient(first.application, first.commands, 'Oona', 'oona@siltanen.example')
    await first.begin()
    const [right] = sendsOf(first, 'st_evening')
    const { statements } = first.application.store
    const id = String(right?.id)
    // As if the plan had been made with data that had another offset.
    const wrong = (right?.dueAt ?? 0) + 3_600_000
    statements.run('putOff', { id, dueAt: wrong, lineJson: JSON.stringify(right?.trace[0]) })
    await first.begin()
    expect(readSend(statements, id)?.dueAt).toBe(wrong)
    statements.run('writeMeta', { key: 'time data', value: '1999a' })
    await first.begin()
    expect(readSend(statements, id)).toEqual(right)
    const { version } = first.application.settings.required().zones
    expect(statements.one('readMeta', { key: 'time data' })?.['value']).toBe(version)
    expect(planAllAnew(first.application)).toBe(0)
  })
})

test('an example comes with the letters of its steps, to be read first; those that are there are taken', async () => {
  const of = await open()
  const { commands, application } = of
  const letters = () => application.settings.required().letters
  const birthday = () => letters().filter(({ name }) => name === 'Happy birthday')
  const { statements } = application.store
  statements.run('removeLetter', { id: 'lt_starter-birthday' })
  application.settings.forget()
  expect(birthday()).toEqual([])
  expect(commands.addExample(call('addExample'), 'A birthday').ok).toBe(true)
  expect(birthday()).toMatchObject([{ id: 'lt_starter-birthday', isStarter: true }])
  expect(commands.addExample(call('addExample'), 'A birthday').ok).toBe(true)
  expect(birthday()).toHaveLength(1)
  expect(commands.addExample(call('addExample'), 'No such')).toMatchObject({ ok: false })
  const begun = application.settings.required().sequences.filter(({ name }) => name === 'A birthday')
  expect(begun.map(({ id }) => sequenceView(of, id)?.version.steps)).toMatchObject([
    [{ letterId: 'lt_starter-birthday' }],
    [{ letterId: 'lt_starter-birthday' }],
  ])
})
