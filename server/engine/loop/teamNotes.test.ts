import { afterEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { addBookedClient, asItStands, call, openExample } from '../../testing/seed.ts'
import type { RunningOffice } from '../runningOffice.ts'

let running: RunningOffice | null = null
afterEach(async () => {
  await running?.end()
  running = null
})

const team = 'ada@kiteworks.example'
const startsAt = Date.UTC(2026, 4, 14, 5, 40)
const nextMorning = Date.UTC(2026, 4, 15, 5, 30)

const subjects = async ({ postOffice }: RunningOffice) => {
  const mails = await Promise.all((postOffice?.mailOf(team) ?? []).map(({ source }) => simpleParser(source)))
  return mails.map(({ subject }) => subject).reverse()
}

/** The example business with one client whom nothing can reach. */
async function withTrouble(): Promise<RunningOffice> {
  running = await openExample()
  await running.pump.advance(startsAt)
  addBookedClient(running.office, running.commands, 'Oona', null)
  await running.pump.advance(startsAt + minuteMs)
  return running
}

describe('the morning note', () => {
  test('comes at its time where something needs somebody, once', async () => {
    const office = await withTrouble()
    await office.pump.advance(nextMorning - 1)
    expect(await subjects(office)).toEqual([])
    await office.pump.advance(nextMorning)
    expect(await subjects(office)).toEqual(['This morning: 2 went wrong'])
    await office.pump.advance(nextMorning + hourMs)
    expect(await subjects(office)).toHaveLength(1)
  })

  test('is not sent where nothing needs anybody', async () => {
    running = await openExample()
    await running.pump.advance(startsAt)
    addBookedClient(running.office, running.commands, 'Oona', 'oona@siltanen.example')
    await running.pump.advance(nextMorning + hourMs)
    expect(await subjects(running)).toEqual([])
  })

  test('can be switched off, and set to another time', async () => {
    const office = await withTrouble()
    const me = { ...call('setNoteWishes'), personId: 'pe_ada' }
    office.commands.setNoteWishes(me, { morningAt: null, isAtOnceOn: true })
    await office.pump.advance(nextMorning + hourMs)
    expect(await subjects(office)).toEqual([])
    const again = { ...call('setNoteWishes'), personId: 'pe_ada' }
    office.commands.setNoteWishes(again, { morningAt: '09:15', isAtOnceOn: true })
    await office.pump.advance(nextMorning + 3 * hourMs)
    const [mail] = office.postOffice?.mailOf(team) ?? []
    expect(mail?.receivedAt).toBe(nextMorning + 105 * minuteMs)
  })

  test('a task due that day is in it', async () => {
    running = await openExample()
    const office = running
    await office.pump.advance(startsAt)
    const booking = addBookedClient(office.office, office.commands, 'Oona', 'oona@siltanen.example')
    const clientId = office.office.store.statements.one('readBooking', { id: booking })?.['clientId']
    const task = { title: 'Call about the date', dueOn: '2026-05-15', personId: null }
    office.commands.addTask(call('addTask'), String(clientId), task)
    await office.pump.advance(nextMorning)
    expect(await subjects(office)).toEqual(['This morning: 1 thing to do'])
  })
})

describe('the note at once', () => {
  /** A reminder held back for approval: its last chance is 20:00 the evening before the lesson. */
  async function waiting() {
    running = await openExample()
    await running.pump.advance(startsAt)
    addBookedClient(running.office, running.commands, 'Oona', 'oona@siltanen.example', 2)
    await running.pump.advance(startsAt + minuteMs)
    const [row] = running.office.store.statements.all('listByTime', {
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
    const held = asItStands(running.office, String(row?.['id']))
    running.commands.decideSend(call('decideSend'), held, 'hold back')
    return running
  }
  const ofLastChance = async (office: RunningOffice) =>
    (await subjects(office)).filter((subject) => subject?.startsWith('Last chance'))

  test('comes two hours before the last chance, once', async () => {
    const office = await waiting()
    const due = Number(office.office.store.statements.one('nextLastChance')?.['at']) - 1 - 2 * hourMs
    await office.pump.advance(due - 1)
    expect(await ofLastChance(office)).toEqual([])
    await office.pump.advance(due)
    expect(await ofLastChance(office)).toHaveLength(1)
    await office.pump.advance(due + hourMs)
    expect(await ofLastChance(office)).toHaveLength(1)
  })

  test('does not come for what has been decided, nor where it is switched off', async () => {
    const office = await waiting()
    const due = Number(office.office.store.statements.one('nextLastChance')?.['at']) - 1 - 2 * hourMs
    const me = { ...call('setNoteWishes'), personId: 'pe_ada' }
    office.commands.setNoteWishes(me, { morningAt: null, isAtOnceOn: false })
    await office.pump.advance(due + minuteMs)
    expect(await subjects(office)).toEqual([])
  })
})
