import { describe, expect, test } from '@jest/globals'
import type { Client } from '../../model/client.ts'
import type { Result } from '../../model/problem.ts'
import type { Send } from '../../model/send.ts'
import type { Task } from '../../model/task.ts'
import {
  at,
  exampleClient,
  examplePerson,
  exampleBookingInput,
  exampleSettings,
  exampleSteps,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { dayMs, hourMs } from '../../time/calendar.ts'
import { realZones } from '../../time/realZones.ts'
import { cancelBooking, makeBooking, moveBooking } from './bookingCommands.ts'
import { writeOwnWords, writePersonalLine } from './copyCommands.ts'
import type { Effect } from '../effects.ts'
import { decideMany } from './manySends.ts'
import { decideSend, postponeSend, putOffSend } from './sendCommands.ts'
import { addTask, changeTask, finishTask } from './taskCommands.ts'
import { mendAddress, sendByLetter } from './troubleCommands.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const now = moment('2026-05-14 07:40')
const waits = exampleSteps.map((step) => ({ ...step, needsApproval: true }))
const readBySomebody = (settings: ReturnType<typeof exampleSettings>) => ({
  ...settings,
  letters: settings.letters.map((one) => ({ ...one, isStarter: false })),
})

/** The example client with a booking on Saturday 16 May at 19:00. */
function booked(steps = exampleSteps, client: Partial<Client> = {}): World {
  const settings = readBySomebody(exampleSettings(realZones, steps))
  const world = createWorld(settings, { ...exampleClient, ...client }, now)
  world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
  return world
}

const sendOf = (world: World, stepId: string): Send => {
  const found = world.facts().sends.find((send) => send.stepId === stepId && send.state !== 'cancelled')
  if (!found) throw new Error(`no send of ${stepId}`)
  return found
}
const reminder = (world: World) => sendOf(world, 'st_evening')
const problemOf = (result: Result<readonly Effect[]>) => (result.ok ? null : result.problem.sentence)

/** Puts a send into a state as the outbox would. */
function put(world: World, send: Send, part: Partial<Send>) {
  world.carryOut({ ok: true, value: [{ kind: 'put send', send: { ...send, ...part } }] })
}

describe('what happens to an approved message', () => {
  const approvedWorld = () => {
    const world = booked(waits)
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'approve', world.context()))
    return world
  }

  test('cancelled a second ago by somebody else: the approval is refused and says why', () => {
    const world = booked(waits)
    const { id } = reminder(world)
    const [booking] = world.facts().bookings
    world.carryOut(cancelBooking(world.slice(), booking?.id ?? '', 1, world.context()))
    expect(problemOf(decideSend(world.slice(), id, 'approve', world.context()))).toBe(
      'This message is cancelled by now: “approve” is not possible.',
    )
  })

  test('approved twice by two people: the second hears that it is approved', () => {
    const world = approvedWorld()
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'approve', world.context()))
    expect(reminder(world).state).toBe('approved')
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox()).toHaveLength(1)
  })

  test('its booking moves: it waits again for its new time, and keeps its personal line', () => {
    const world = booked(waits)
    world.carryOut(writePersonalLine(world.slice(), reminder(world).id, 'Bring a hat.'))
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'approve', world.context()))
    const [booking] = world.facts().bookings
    const times = { startLocal: '2026-05-20T19:00', endLocal: '2026-05-20T21:00' }
    world.carryOut(moveBooking(world.slice(), booking?.id ?? '', 1, times, () => 0, world.context()))
    expect(reminder(world)).toMatchObject({
      state: 'waiting',
      dueAt: moment('2026-05-19 18:00'),
      decision: { personalLine: 'Bring a hat.' },
      reason: { sentence: 'Approved before the booking was moved: it goes at another time now.' },
    })
    expect(world.facts().sends.filter(({ state }) => state === 'approved')).toEqual([])
  })

  test('its letter is edited: it keeps the words that were approved', () => {
    const world = approvedWorld()
    world.changeSettings((settings) => ({
      ...settings,
      letters: settings.letters.map((one) => ({ ...one, subject: [{ kind: 'text', text: 'Edited since' }] })),
    }))
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().map(({ subject }) => subject)).toEqual(['Kite lesson: tomorrow at 19:00'])
  })

  test('not approved in time over a weekend: it is stale, never late', () => {
    const world = booked(waits)
    world.advance(moment('2026-05-17 12:00'))
    expect(reminder(world)).toMatchObject({ state: 'stale' })
    expect(world.outbox()).toEqual([])
  })
})

describe('words for one copy', () => {
  const own = {
    subject: [{ kind: 'text' as const, text: 'Only for you' }],
    sections: [
      {
        id: 's1',
        kind: 'text' as const,
        paragraphs: [
          [
            { kind: 'text' as const, text: 'We meet at ' },
            { kind: 'field' as const, field: 'booking.time' as const, ifMissing: { kind: 'hold' as const } },
          ],
        ],
      },
    ],
  }

  test('go with that copy, its fields filled in, and are counted as edited', () => {
    const world = booked(waits)
    world.carryOut(writeOwnWords(world.slice(), reminder(world).id, own))
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'approve', world.context()))
    expect(world.events().at(-1)).toMatchObject({ kind: 'message approved', name: 'edited' })
    expect(reminder(world).approvedFacts).toEqual({ 'booking.time': '19:00' })
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox()[0]).toMatchObject({ subject: 'Only for you', text: 'We meet at 19:00\n' })
  })

  test('are the letter’s again when they are taken back; a message that has gone keeps its own', () => {
    const world = booked(waits)
    const { id } = reminder(world)
    world.carryOut(writeOwnWords(world.slice(), id, own))
    world.carryOut(writeOwnWords(world.slice(), id, null))
    expect(reminder(world).decision.ownWords).toBeNull()
    world.carryOut(decideSend(world.slice(), id, 'send now', world.context()))
    world.advance(now + 1)
    expect(problemOf(writeOwnWords(world.slice(), id, own))).toBe(
      'This message is sent by now: its words stay as they are.',
    )
  })
})

describe('ways out of trouble', () => {
  const noAddress = exampleClient.contacts.map((one) => ({ ...one, email: null }))

  test('a mended address sends what was blocked past its time, and the rest at its time', () => {
    const world = booked(exampleSteps, { contacts: noAddress })
    world.advance(now + hourMs)
    expect(sendOf(world, 'st_confirm').state).toBe('blocked')
    const { id } = sendOf(world, 'st_confirm')
    world.carryOut(mendAddress(world.slice(), id, ' enno@brackwater.example ', world.context()))
    world.advance(now + hourMs)
    expect(world.outbox().map(({ to }) => to.address)).toEqual(['enno@brackwater.example'])
    expect(reminder(world)).toMatchObject({ state: 'ready', address: 'enno@brackwater.example' })
  })

  test.each([['nothing'], ['two@signs@example.com'], ['a@b\r\nBcc: c@d.example']])(
    'an address that is none is refused: %j',
    (address) => {
      const world = booked(exampleSteps, { contacts: noAddress })
      const result = mendAddress(world.slice(), reminder(world).id, address, world.context())
      expect(problemOf(result)).toBe('An address looks like name@place.example.')
    },
  )

  test('what came back goes once more to the mended address', () => {
    const world = booked()
    world.advance(now + hourMs)
    const confirmation = sendOf(world, 'st_confirm')
    put(world, confirmation, { state: 'bounced' })
    world.carryOut(mendAddress(world.slice(), confirmation.id, 'new@brackwater.example', world.context()))
    world.advance(now + 2 * hourMs)
    expect(world.outbox().map(({ to }) => to.address)).toEqual([
      'enno@brackwater.example',
      'new@brackwater.example',
    ])
  })

  test('a message that is on its way has nothing to mend', () => {
    const world = booked()
    const result = mendAddress(world.slice(), reminder(world).id, 'a@b.example', world.context())
    expect(problemOf(result)).toBe('This message is ready by now: there is nothing to mend.')
  })

  test('another letter goes in its place, even after the moment the first one was of use for', () => {
    const world = booked(waits)
    world.advance(moment('2026-05-17 12:00'))
    const { id } = reminder(world)
    expect(problemOf(decideSend(world.slice(), id, 'send now', world.context()))).toContain(
      'Its last useful moment has passed',
    )
    world.carryOut(sendByLetter(world.slice(), id, 'lt_starter-confirmation', world.context()))
    world.advance(world.now() + 1)
    expect(world.outbox().map(({ subject }) => subject)).toEqual([
      'Kite lesson on Saturday 16 May 2026, 19:00',
    ])
    expect(reminder(world)).toMatchObject({ state: 'sent', letterId: 'lt_starter-confirmation' })
  })

  test('approved and not taken: another letter goes with its own words, the same one with those approved', () => {
    for (const [letterId, expected] of [
      ['lt_starter-confirmation', 'Kite lesson on Saturday 16 May 2026, 19:00'],
      [null, 'Kite lesson: tomorrow at 19:00'],
    ] as const) {
      const world = booked(waits)
      world.carryOut(decideSend(world.slice(), reminder(world).id, 'approve', world.context()))
      put(world, reminder(world), { state: 'failed' })
      world.changeSettings((settings) => ({
        ...settings,
        letters: settings.letters.map((one) =>
          one.id === 'lt_starter-reminder' ? { ...one, subject: [{ kind: 'text', text: 'Edited' }] } : one,
        ),
      }))
      world.advance(moment('2026-05-15 18:30'))
      const { id } = reminder(world)
      world.carryOut(
        letterId === null
          ? decideSend(world.slice(), id, 'send now', world.context())
          : sendByLetter(world.slice(), id, letterId, world.context()),
      )
      world.advance(world.now() + 1)
      expect(world.outbox().at(-1)?.subject).toBe(expected)
    }
  })

  test.each([
    ['lt_none', 'There is no such letter.'],
    ['lt_unread', 'This letter has not been published yet.'],
    ['lt_advert', 'A promotional letter cannot stand in for one about a booking.'],
  ])('a letter that cannot: %s', (letterId, sentence) => {
    const world = booked(exampleSteps, { contacts: noAddress })
    world.changeSettings((settings) => {
      const [letter] = settings.letters
      if (!letter) throw new Error('no letter')
      const others = [
        { ...letter, id: 'lt_unread', isStarter: true },
        { ...letter, id: 'lt_advert', class: 'promotional' as const },
      ]
      return { ...settings, letters: [...settings.letters, ...others] }
    })
    expect(problemOf(sendByLetter(world.slice(), reminder(world).id, letterId, world.context()))).toBe(
      sentence,
    )
  })

  test('called instead, it counts as done; that is no way out for what is on its way', () => {
    const world = booked()
    expect(problemOf(decideSend(world.slice(), reminder(world).id, 'called', world.context()))).toContain(
      'ready',
    )
    put(world, reminder(world), { state: 'failed' })
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'called', world.context()))
    expect(reminder(world)).toMatchObject({
      state: 'skipped',
      reason: { sentence: 'A person called instead.' },
    })
  })

  test('sent now, planning anew leaves it alone', () => {
    const world = booked(waits)
    world.carryOut(decideSend(world.slice(), reminder(world).id, 'send now', world.context()))
    const other = sendOf(world, 'st_confirm').id
    world.carryOut(decideSend(world.slice(), other, 'skip', world.context()))
    expect(reminder(world)).toMatchObject({ state: 'ready', dueAt: now })
  })
})

describe('one thing with many messages', () => {
  test('is done where it can be; the others say why not', () => {
    const world = booked()
    const ids = world.facts().sends.map(({ id }) => id)
    put(world, sendOf(world, 'st_confirm'), { state: 'sent', sentAt: now })
    const held = decideMany(world.slice(), [...ids, 'sd_none'], { act: 'hold back' }, world.context())
    expect(held.refusals.map(({ problem }) => problem.sentence)).toEqual([
      'This message is sent by now: “hold back” is not possible.',
      'There is no such message.',
    ])
    world.carryOut({ ok: true, value: held.effects })
    expect(reminder(world).state).toBe('waiting')
    const released = decideMany(world.slice(), [reminder(world).id], { act: 'release' }, world.context())
    world.carryOut({ ok: true, value: released.effects })
    expect(reminder(world).state).toBe('approved')
  })

  test('moving keeps to the last useful moment', () => {
    const world = booked()
    const { id } = reminder(world)
    const to = moment('2026-05-15 20:00')
    const moved = decideMany(world.slice(), [id], { act: 'move', to }, world.context())
    world.carryOut({ ok: true, value: moved.effects })
    expect(reminder(world)).toMatchObject({ state: 'ready', dueAt: to })
    const late = decideMany(world.slice(), [id], { act: 'move', to: now + 9 * dayMs }, world.context())
    expect(late.refusals[0]?.problem.sentence).toBe('That is after its last useful moment.')
  })

  test('what goes by itself has nothing to be released from', () => {
    const world = booked()
    const result = decideMany(world.slice(), [reminder(world).id], { act: 'release' }, world.context())
    expect(result.refusals[0]?.problem.sentence).toBe('This message waits for nobody: it goes by itself.')
  })
})

describe('putting off', () => {
  test('is never to a moment before the one at which it goes by itself', () => {
    const world = booked(waits)
    const { id, dueAt } = reminder(world)
    expect(dueAt).toBe(moment('2026-05-15 18:00'))
    const to = (local: string) => putOffSend(world.slice(), id, moment(local), world.context())
    expect(problemOf(to('2026-05-15 17:00'))).toMatch('earlier than it goes by itself')
    expect(problemOf(to('2026-05-14 00:00'))).toMatch('still ahead')
    world.carryOut(to('2026-05-15 19:30'))
    expect(reminder(world).dueAt).toBe(moment('2026-05-15 19:30'))
    // Somebody who says “move” in Ahead means the moment that is chosen.
    const moved = decideMany(
      world.slice(),
      [id],
      { act: 'move', to: moment('2026-05-15 17:00') },
      world.context(),
    )
    expect(moved.refusals).toEqual([])
  })

  test('a moved booking voids it and asks again', () => {
    const world = booked(waits)
    world.carryOut(
      postponeSend(world.slice(), reminder(world).id, moment('2026-05-15 19:30'), world.context()),
    )
    expect(reminder(world).dueAt).toBe(moment('2026-05-15 19:30'))
    const [booking] = world.facts().bookings
    const times = { startLocal: '2026-05-20T19:00', endLocal: '2026-05-20T21:00' }
    world.carryOut(moveBooking(world.slice(), booking?.id ?? '', 1, times, () => 0, world.context()))
    expect(reminder(world)).toMatchObject({ state: 'waiting', dueAt: moment('2026-05-19 18:00') })
  })
})

describe('tasks', () => {
  const settings = exampleSettings(realZones)
  const context = { now, personId: 'pe_ada', newId: (prefix: string) => `${prefix}_1` }
  const task: Task = {
    id: 'tk_1',
    clientId: 'cl_1',
    subject: null,
    title: 'Call back',
    dueOn: '2026-05-10',
    personId: null,
    madeAt: now,
    doneAt: null,
  }
  const { title, dueOn, personId } = task
  const wordsOf = (result: Result<readonly Effect[]>) =>
    result.ok
      ? result.value.flatMap((effect) => (effect.kind === 'append event' ? [effect.event.sentence] : []))
      : [result.problem.sentence]

  test.each([
    ['a day that is past', { title, dueOn: '2026-05-13', personId }, 'Choose today or a later day.'],
    ['nobody of the team', { title, dueOn: '2026-05-14', personId: 'pe_none' }, 'There is no such person.'],
    ['today', { title, dueOn: '2026-05-14', personId }, 'Task for Thursday 14 May 2026: Call back.'],
  ])('set for %s', (_, input, sentence) => {
    expect(wordsOf(addTask(settings, { clientId: 'cl_1', subject: null }, input, context))).toEqual([
      sentence,
    ])
  })

  test('moved and handed on, it says both; a late one can be handed on as it is', () => {
    const input = { title, dueOn: '2026-05-20', personId: examplePerson.id }
    expect(wordsOf(changeTask(settings, task, input, context))).toEqual([
      'Task “Call back” moved from Sunday 10 May 2026 to Wednesday 20 May 2026, handed on to Ada Windermeer.',
    ])
    const handed = { title, dueOn, personId: examplePerson.id }
    expect(wordsOf(changeTask(settings, task, handed, context))).toEqual([
      'Task “Call back” handed on to Ada Windermeer.',
    ])
  })

  test('done twice is done once, and open again it is open', () => {
    const done = { ...task, doneAt: now }
    expect(finishTask(task, true, context)).toHaveLength(2)
    expect(finishTask(done, true, context)).toEqual([])
    expect(finishTask(done, false, context)[0]).toMatchObject({ task: { doneAt: null } })
    expect(wordsOf(changeTask(settings, done, { title, dueOn, personId }, context))).toEqual([
      'This task is done by now.',
    ])
  })
})
