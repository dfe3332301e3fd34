import { afterEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { addBookedClient, asItStands, call, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

let running: RunningApplication | null = null
afterEach(async () => {
  await running?.end()
  running = null
})

const team = 'ada@kiteworks.example'
const startsAt = Date.UTC(2026, 4, 14, 5, 40)
const nextMorning = Date.UTC(2026, 4, 15, 5, 30)

const subjects = async ({ postOffice }: RunningApplication) => {
  const mails = await Promise.all((postOffice?.mailOf(team) ?? []).map(({ source }) => simpleParser(source)))
  return mails.map(({ subject }) => subject).reverse()
}

/** The example business with one client whom nothing can reach. */
async function withTrouble(): Promise<RunningApplication> {
  running = await openExample()
  await running.pump.advance(startsAt)
  addBookedClient(running.application, running.commands, 'Oona', null)
  await running.pump.advance(startsAt + minuteMs)
  return running
}

describe('the morning note', () => {
  test('comes at its time where something needs somebody, once', async () => {
    const application = await withTrouble()
    await application.pump.advance(nextMorning - 1)
    expect(await subjects(application)).toEqual([])
    await application.pump.advance(nextMorning)
    expect(await subjects(application)).toEqual(['This morning: 2 went wrong'])
    await application.pump.advance(nextMorning + hourMs)
    expect(await subjects(application)).toHaveLength(1)
  })

  test('is not sent where nothing needs anybody', async () => {
    running = await openExample()
    await running.pump.advance(startsAt)
    addBookedClient(running.application, running.commands, 'Oona', 'oona@siltanen.example')
    await running.pump.advance(nextMorning + hourMs)
    expect(await subjects(running)).toEqual([])
  })

  test('can be switched off, and set to another time', async () => {
    const application = await withTrouble()
    const me = { ...call('setNoteWishes'), personId: 'pe_ada' }
    application.commands.setNoteWishes(me, { morningAt: null, isAtOnceOn: true })
    await application.pump.advance(nextMorning + hourMs)
    expect(await subjects(application)).toEqual([])
    const again = { ...call('setNoteWishes'), personId: 'pe_ada' }
    application.commands.setNoteWishes(again, { morningAt: '09:15', isAtOnceOn: true })
    await application.pump.advance(nextMorning + 3 * hourMs)
    const [mail] = application.postOffice?.mailOf(team) ?? []
    expect(mail?.receivedAt).toBe(nextMorning + 105 * minuteMs)
  })

  test('a task due that day is in it', async () => {
    running = await openExample()
    const application = running
    await application.pump.advance(startsAt)
    const booking = addBookedClient(
      application.application,
      application.commands,
      'Oona',
      'oona@siltanen.example',
    )
    const clientId = application.application.store.statements.one('readBooking', { id: booking })?.[
      'clientId'
    ]
    const task = { title: 'Call about the date', dueOn: '2026-05-15', personId: null }
    application.commands.addTask(call('addTask'), String(clientId), task)
    await application.pump.advance(nextMorning)
    expect(await subjects(application)).toEqual(['This morning: 1 thing to do'])
  })
})

describe('the note at once', () => {
  /** A reminder held back for approval: its last chance is 20:00 the evening before the lesson. */
  async function waiting() {
    running = await openExample()
    await running.pump.advance(startsAt)
    addBookedClient(running.application, running.commands, 'Oona', 'oona@siltanen.example', 2)
    await running.pump.advance(startsAt + minuteMs)
    const [row] = running.application.store.statements.all('listByTime', {
      from: 0,
      to: 1e15,
      clientId: null,
      serviceId: null,
      sequenceId: null,
      letterId: null,
      statesJson: '["ready"]',
      limit: 10,
      offset: 0,
    })
    const held = asItStands(running.application, String(row?.['id']))
    running.commands.decideSend(call('decideSend'), held, 'hold back')
    return running
  }
  const ofLastChance = async (application: RunningApplication) =>
    (await subjects(application)).filter((subject) => subject?.startsWith('Last chance'))

  test('comes two hours before the last chance, once', async () => {
    const application = await waiting()
    const due =
      Number(application.application.store.statements.one('nextLastChance')?.['at']) - 1 - 2 * hourMs
    await application.pump.advance(due - 1)
    expect(await ofLastChance(application)).toEqual([])
    await application.pump.advance(due)
    expect(await ofLastChance(application)).toHaveLength(1)
    await application.pump.advance(due + hourMs)
    expect(await ofLastChance(application)).toHaveLength(1)
  })

  test('does not come for what has been decided, nor where it is switched off', async () => {
    const application = await waiting()
    const due =
      Number(application.application.store.statements.one('nextLastChance')?.['at']) - 1 - 2 * hourMs
    const me = { ...call('setNoteWishes'), personId: 'pe_ada' }
    application.commands.setNoteWishes(me, { morningAt: null, isAtOnceOn: false })
    await application.pump.advance(due + minuteMs)
    expect(await subjects(application)).toEqual([])
  })
})
