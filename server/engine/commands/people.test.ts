import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { simpleParser } from 'mailparser'
import { isAtWork } from '#core/booking/freeTimes.ts'
import { plainPerson, type Person } from '#core/model/business.ts'
import { plainStep } from '#core/model/step.ts'
import { dayMs, hourMs, isoDateOf } from '#core/time/calendar.ts'
import { putBooking, readBooking, readTasks } from '../../db/clientStore.ts'
import { addPerson } from '../../db/settingsStore.ts'
import { addBookedClient, addLive, call, eda, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* People of the team who sign, are away, and leave: who gets and does what is theirs. */

const kit: Person = {
  ...plainPerson,
  id: 'pe_kit',
  name: 'Kit',
  email: 'kit@kiteworks.example',
  role: 'helper',
  isActive: true,
  revision: 1,
}
const twoDaysBefore = {
  timing: {
    kind: 'calendar',
    amount: 2,
    unit: 'days',
    direction: 'before',
    anchor: { of: 'booking start' },
    atTime: '09:00',
  },
}
const steps = [
  plainStep.parse({
    id: 'st_note',
    kind: 'note to staff',
    about: 'Harness',
    words: [{ kind: 'text', text: 'Check it.' }],
    recipients: [{ to: 'person in charge', letterId: null }],
    ...twoDaysBefore,
  }),
  plainStep.parse({ id: 'st_task', kind: 'task', title: 'Pack the kite', dueInDays: 1, ...twoDaysBefore }),
  plainStep.parse({
    id: 'st_mail',
    kind: 'mail',
    purpose: 'preparation',
    letterId: 'lt_starter-confirmation',
    sender: 'person in charge',
    ...twoDaysBefore,
  }),
]

let running: RunningApplication
beforeEach(async () => {
  running = await openExample()
  const { store } = running.application
  store.transaction(() => {
    addPerson(store.statements, kit, null)
    addPerson(store.statements, eda, null)
  })
  addLive(running.application, 'sq_crew', steps)
})
afterEach(() => running.end())

const now = () => running.application.clock.now()
const dateIn = (days: number) => isoDateOf(Math.floor(now() / dayMs) + days)

/** A booking in five days that is Kit's. */
function bookWithKit(): string {
  const { application, commands } = running
  const id = addBookedClient(application, commands, 'Oona', 'oona@siltanen.example')
  const booking = readBooking(application.store.statements, id)
  if (!booking) throw new Error('no booking')
  putBooking(application.store.statements, { ...booking, personInChargeId: kit.id })
  return id
}

function change(part: Partial<Person>) {
  const present = running.application.settings.required().people.find(({ id }) => id === kit.id) ?? kit
  const { id, revision, ...plain } = present
  const asked = { of: 'person', id, revision, person: { ...plain, ...part } } as const
  return running.commands.changeSettings(call('changeSettings'), asked, null)
}

const sentence = (result: ReturnType<typeof change>) => (result.ok ? '' : result.problem.sentence)

async function mailOf(address: string) {
  const all = running.postOffice?.mailOf(address) ?? []
  return Promise.all(all.map(({ source }) => simpleParser(source)))
}

describe('somebody who is away', () => {
  test('gets nothing then: notes and tasks are the stand-in’s, and so are answers to what goes in their name', async () => {
    const id = bookWithKit()
    const away = [{ from: dateIn(2), to: dateIn(4), standInId: eda.id }]
    expect(change({ away, replyTo: 'crew@kiteworks.example' }).ok).toBe(true)
    await running.pump.advance(now() + 4 * dayMs)
    expect((await mailOf('eda@kiteworks.example')).map(({ subject }) => subject)).toContain('Harness')
    expect((await mailOf('kit@kiteworks.example')).map(({ subject }) => subject)).not.toContain('Harness')
    const { clientId = '' } = readBooking(running.application.store.statements, id) ?? {}
    expect(readTasks(running.application.store.statements, clientId)).toMatchObject([{ personId: eda.id }])
    const told = (await mailOf('oona@siltanen.example')).find(({ from }) => from?.value[0]?.name === 'Kit')
    expect(told?.replyTo?.value[0]?.address).toBe('eda@kiteworks.example')
  })

  test('is back the day after: then it is theirs, and answers go where they want them', async () => {
    bookWithKit()
    const away = [{ from: dateIn(0), to: dateIn(1), standInId: eda.id }]
    expect(change({ away, replyTo: 'crew@kiteworks.example' }).ok).toBe(true)
    await running.pump.advance(now() + 4 * dayMs)
    expect((await mailOf('kit@kiteworks.example')).map(({ subject }) => subject)).toContain('Harness')
    const told = (await mailOf('oona@siltanen.example')).find(({ from }) => from?.value[0]?.name === 'Kit')
    expect(told?.replyTo?.value[0]?.address).toBe('crew@kiteworks.example')
  })

  test('cannot be booked on any day of it', () => {
    expect(change({ away: [{ from: dateIn(3), to: dateIn(4), standInId: null }] }).ok).toBe(true)
    const settings = running.application.settings.required()
    const noon = Math.floor(now() / dayMs) * dayMs + 10 * hourMs
    const isThere = (days: number) =>
      isAtWork(settings, kit.id, {
        startAt: noon + days * dayMs,
        endAt: noon + days * dayMs + 2 * hourMs,
      })
    expect([2, 3, 4, 5].map(isThere)).toEqual([true, false, false, true])
  })

  test('does not stand in for themselves, and times neither overlap nor end before they begin', () => {
    const one = { from: dateIn(3), to: dateIn(5), standInId: null }
    expect(sentence(change({ away: [{ ...one, standInId: kit.id }] }))).toBe(
      'Kit cannot stand in for themselves.',
    )
    expect(sentence(change({ away: [{ ...one, standInId: 'pe_nobody' }] }))).toMatch('has left the team')
    expect(sentence(change({ away: [one, { ...one, from: dateIn(5), to: dateIn(6) }] }))).toMatch('overlaps')
  })
})

describe('somebody who leaves', () => {
  test('hands on what is theirs: notes, mail in their name, tasks that are open', async () => {
    const id = bookWithKit()
    const { statements } = running.application.store
    const { clientId = '' } = readBooking(statements, id) ?? {}
    const task = { title: 'Call her', dueOn: dateIn(1), personId: kit.id }
    expect(running.commands.addTask(call('addTask'), clientId, task).ok).toBe(true)
    expect(sentence(change({ isActive: false, handedToId: kit.id }))).toBe(
      'Choose somebody else who is in the team.',
    )
    expect(change({ isActive: false, handedToId: eda.id }).ok).toBe(true)
    expect(readTasks(statements, clientId)).toMatchObject([{ title: 'Call her', personId: eda.id }])
    await running.pump.advance(now() + 4 * dayMs)
    expect((await mailOf('eda@kiteworks.example')).map(({ subject }) => subject)).toContain('Harness')
    expect(await mailOf('kit@kiteworks.example')).toEqual([])
    const senders = (await mailOf('oona@siltanen.example')).map(({ from }) => from?.value[0]?.name)
    expect(senders).toContain('Eda')
    expect(change({ isActive: true }).ok).toBe(true)
    const back = running.application.settings.required().people.find((one) => one.id === kit.id)
    expect(back).toMatchObject({ isActive: true, handedToId: null })
  })
})

test('a signature has the person’s own lines and picture, which goes along once', async () => {
  bookWithKit()
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  )
  const file = { name: 'signature.png', type: 'image/png', bytes: png } as const
  const stored = running.commands.addFile(call('addFile'), file)
  if (!stored.ok) throw new Error(stored.problem.sentence)
  const signature = { text: 'Kite pilot\n<b>by telephone 9 to 12</b>', pictureId: stored.value.id }
  expect(change({ signature }).ok).toBe(true)
  await running.pump.advance(now() + 4 * dayMs)
  const mail = (await mailOf('oona@siltanen.example')).find(({ from }) => from?.value[0]?.name === 'Kit')
  expect(mail?.text).toContain('Kit\nKite pilot\n<b>by telephone 9 to 12</b>\nKiteworks')
  expect(String(mail?.html)).toContain('&lt;b&gt;by telephone 9 to 12&lt;/b&gt;')
  expect(String(mail?.html)).toMatch(/<img src="[^"]+" alt="" width="100" height="100"/)
  expect(mail?.attachments.filter(({ contentType }) => contentType === 'image/png')).toHaveLength(1)
})
