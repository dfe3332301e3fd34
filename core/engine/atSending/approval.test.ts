import { describe, expect, test } from '@jest/globals'
import type { Client } from '../../model/client.ts'
import {
  at,
  exampleBookingInput,
  exampleClient,
  exampleSettings,
  exampleSteps,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { realZones } from '../../time/realZones.ts'
import { cancelBooking, confirmBooking, makeBooking } from '../commands/bookingCommands.ts'
import { changeClient, type ClientInput } from '../commands/clientCommands.ts'
import { withPersonalLine } from '../../letters/personalLine.ts'
import type { Letter } from '../../model/letter.ts'
import type { Send } from '../../model/send.ts'
import { replan } from '../following/replan.ts'
import { wordsAt } from './checkAtSending.ts'
import { decideSend } from '../commands/sendCommands.ts'
import { writePersonalLine } from '../commands/copyCommands.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const settings = exampleSettings(
  realZones,
  exampleSteps.map((step) => ({ ...step, needsApproval: true })),
)

function inputOf(client: Client, firstName: string): ClientInput {
  const { name, zone, language, tags, takesPromotional, isActive, namedDates, contacts } = client
  const plain = { name, zone, language, tags, takesPromotional, isActive, namedDates }
  return { ...plain, contacts: contacts.map((contact) => ({ ...contact, firstName })) }
}

function approved(): World {
  const world = createWorld(settings, exampleClient, moment('2026-05-14 07:40'))
  world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
  for (const { id } of world.facts().sends)
    world.carryOut(decideSend(world.slice(), id, 'approve', world.context()))
  return world
}

const reminder = (world: World) => world.facts().sends.find(({ stepId }) => stepId === 'st_evening')

const rename = (world: World, firstName: string) => {
  const { client } = world.facts()
  world.carryOut(changeClient(world.slice(), client.revision, inputOf(client, firstName), world.context()))
}

describe('approval freezes the facts a message tells', () => {
  test('a changed one makes it wait again and is named', () => {
    const world = approved()
    expect(reminder(world)).toMatchObject({ state: 'approved' })
    expect(reminder(world)?.approvedFacts).toMatchObject({
      'contact.firstName': 'Enno',
      'booking.time': '19:00',
    })
    rename(world, 'Enna')
    expect(reminder(world)).toMatchObject({
      state: 'waiting',
      reason: {
        code: 'facts changed',
        sentence: 'Approved before this changed: First name was “Enno” and is “Enna”.',
      },
    })
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().map(({ subject }) => subject)).not.toContain('Kite lesson: tomorrow at 19:00')
  })

  test('approved once more it goes, with its time words as they are at sending', () => {
    const world = approved()
    rename(world, 'Enna')
    world.carryOut(decideSend(world.slice(), reminder(world)?.id ?? '', 'approve', world.context()))
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().at(-1)).toMatchObject({ subject: 'Kite lesson: tomorrow at 19:00' })
  })

  test('so does one that only a person had held back, and it goes on waiting', () => {
    const world = createWorld(
      exampleSettings(realZones, exampleSteps),
      exampleClient,
      moment('2026-05-14 07:40'),
    )
    world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
    const id = reminder(world)?.id ?? ''
    world.carryOut(decideSend(world.slice(), id, 'hold back', world.context()))
    world.carryOut(decideSend(world.slice(), id, 'approve', world.context()))
    expect(reminder(world)).toMatchObject({ state: 'approved' })
    rename(world, 'Enna')
    rename(world, 'Enne')
    expect(reminder(world)).toMatchObject({ state: 'waiting', reason: { code: 'facts changed' } })
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().map(({ subject }) => subject)).not.toContain('Kite lesson: tomorrow at 19:00')
  })

  test('approved by night it goes in the morning, also when the booking was cancelled and stands again', () => {
    const world = createWorld(settings, exampleClient, moment('2026-05-14 07:40'))
    world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
    world.advance(moment('2026-05-15 22:30'))
    world.carryOut(decideSend(world.slice(), reminder(world)?.id ?? '', 'approve', world.context()))
    const morning = { state: 'approved', dueAt: moment('2026-05-16 08:00') }
    expect(reminder(world)).toMatchObject(morning)
    for (const act of [cancelBooking, confirmBooking]) {
      const [booking] = world.facts().bookings
      world.carryOut(act(world.slice(), booking?.id ?? '', booking?.revision ?? 0, world.context()))
    }
    expect(reminder(world)).toMatchObject(morning)
    world.advance(moment('2026-05-16 07:59'))
    expect(reminder(world)).toMatchObject(morning)
  })

  test('what does not stand in the letter is no reason to ask again', () => {
    const world = approved()
    const { client } = world.facts()
    const input = { ...inputOf(client, 'Enno'), tags: ['family'] }
    world.carryOut(changeClient(world.slice(), client.revision, input, world.context()))
    expect(reminder(world)).toMatchObject({ state: 'approved' })
  })
})

describe('approval freezes the words of a letter', () => {
  const subject = (text: string): Letter['subject'] => [{ kind: 'text', text }]
  const id = (world: World) => reminder(world)?.id ?? ''
  const publish = (world: World, text: string) => {
    const letterId = reminder(world)?.letterId
    world.changeSettings((present) => ({
      ...present,
      letters: present.letters.map((one) => (one.id === letterId ? { ...one, subject: subject(text) } : one)),
    }))
    world.carryOut({ ok: true, value: replan(world.slice(), world.context()) })
  }

  test('a text published later does not change it, and it says so; who does not wait takes it', () => {
    const world = approved()
    publish(world, 'New words')
    expect(reminder(world)).toMatchObject({ state: 'approved', reason: { code: 'approved words' } })
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().at(-1)?.subject).toBe('Kite lesson: tomorrow at 19:00')
    expect(reminder(world)).toMatchObject({ state: 'sent', approvedWords: null })
  })

  test('nothing is said any more once the letter says again what was approved', () => {
    const world = approved()
    const letter = world.slice().settings.letters.find((one) => one.id === reminder(world)?.letterId)
    publish(world, 'New words')
    world.changeSettings((present) => ({
      ...present,
      letters: present.letters.map((one) => (letter && one.id === letter.id ? letter : one)),
    }))
    world.carryOut({ ok: true, value: replan(world.slice(), world.context()) })
    expect(reminder(world)).toMatchObject({ state: 'approved', reason: null })
  })

  test('held back and approved again it takes the new words', () => {
    const world = approved()
    publish(world, 'New words')
    for (const decision of ['hold back', 'approve'] as const)
      world.carryOut(decideSend(world.slice(), id(world), decision, world.context()))
    expect(reminder(world)).toMatchObject({ state: 'approved', reason: null })
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().at(-1)?.subject).toBe('New words')
  })

  test('a passage and the personal line are kept as they were read', () => {
    const passage = { id: 'ps_hat', name: 'Hat', translations: [], version: 1 }
    const saying = (text: string) => [{ ...passage, paragraphs: [[{ kind: 'text' as const, text }]] }]
    const world = createWorld(
      {
        ...settings,
        passages: saying('Wear a hat.'),
        letters: settings.letters.map((one) => ({
          ...one,
          sections: [{ id: 'p', kind: 'passage', passageId: passage.id }, ...one.sections],
        })),
      },
      exampleClient,
      moment('2026-05-14 07:40'),
    )
    world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
    world.carryOut(writePersonalLine(world.slice(), id(world), 'The blue one!'))
    const before = wordsAt(reminder(world) as Send, world.slice(), moment('2026-05-15 18:00'))?.text
    world.carryOut(decideSend(world.slice(), id(world), 'approve', world.context()))
    world.changeSettings((present) => ({ ...present, passages: saying('Wear a helmet.') }))
    world.advance(moment('2026-05-15 18:00'))
    expect(world.outbox().at(-1)?.text).toContain('Wear a hat.')
    expect(world.outbox().at(-1)?.text).toBe(before)
  })
})

describe('a line for one copy', () => {
  const line = 'Bring the blue hat.'
  const read = { ...settings, letters: settings.letters.map((one) => ({ ...one, isStarter: false })) }

  function waitingWorld() {
    const world = createWorld(read, exampleClient, moment('2026-05-14 07:40'))
    const booking = { ...exampleBookingInput, startLocal: '2026-05-16T10:00', endLocal: '2026-05-16T12:00' }
    world.carryOut(makeBooking(world.slice(), booking, () => 0, world.context()))
    const [send] = world.facts().sends
    if (send?.state !== 'waiting') throw new Error('It does not wait')
    return { world, id: send.id }
  }

  test('goes with that copy, after the greeting, and stays out of the letter', () => {
    const { world, id } = waitingWorld()
    world.carryOut(writePersonalLine(world.slice(), id, ` ${line} `))
    world.carryOut(decideSend(world.slice(), id, 'approve', world.context()))
    world.advance(world.now() + 60_000)
    const text = world.outbox()[0]?.text ?? ''
    expect(text.split('\n').filter(Boolean)[1]).toBe(line)
    expect(JSON.stringify(world.slice().settings.letters)).not.toContain('blue hat')
    expect(writePersonalLine(world.slice(), id, 'too late')).toMatchObject({
      ok: false,
      problem: { code: 'not allowed now' },
    })
  })

  test('taken out again, the letter goes as it is; without a text it stands first', () => {
    const { world, id } = waitingWorld()
    world.carryOut(writePersonalLine(world.slice(), id, line))
    world.carryOut(writePersonalLine(world.slice(), id, '  '))
    expect(world.facts().sends[0]?.decision.personalLine).toBeNull()
    const [letter] = settings.letters
    if (!letter) throw new Error('no letter')
    expect(withPersonalLine(letter, null)).toBe(letter)
    const bare = { ...letter, sections: [{ id: 'facts', kind: 'facts' as const }] }
    expect(withPersonalLine(bare, line).sections.map(({ kind }) => kind)).toEqual(['text', 'facts'])
  })
})
