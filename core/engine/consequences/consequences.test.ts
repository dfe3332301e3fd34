import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { sequence, startRule, type Sequence, type StartRule } from '../../model/sequence.ts'
import type { Settings } from '../../planning/slice.ts'
import { difference } from '../../planning/difference.ts'
import { at, exampleClient, exampleService, exampleSettings } from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import type { Trigger } from '../../sequences/startRules.ts'
import { realZones } from '../../time/realZones.ts'
import { cancelBooking, makeBooking, moveBooking } from '../commands/bookingCommands.ts'
import { changeClient } from '../commands/clientCommands.ts'
import { consequencesOf, hypothetical, settledDifference } from './consequences.ts'
import { whyNoRun } from './whyNot.ts'

const settings = exampleSettings(realZones)
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)

function booked(): World {
  const world = createWorld(settings, exampleClient, moment('2026-05-14 07:40'))
  const input = {
    clientId: exampleClient.id,
    serviceId: exampleService.id,
    startLocal: '2026-05-20T19:00',
    endLocal: '2026-05-20T21:00',
    partySize: 1,
    status: 'confirmed' as const,
    personInChargeId: null,
  }
  world.carryOut(makeBooking(world.slice(), input, () => 0, world.context()))
  world.advance(world.now())
  return world
}

const times = (day: number) => ({ startLocal: `2026-05-${day}T19:00`, endLocal: `2026-05-${day}T21:00` })

function bookingOf(world: World) {
  const [booking] = world.facts().bookings
  if (!booking) throw new Error('no booking')
  return booking
}

const changes = (world: World, decided: Parameters<typeof consequencesOf>[1]) => {
  const result = consequencesOf(world.slice(), decided, world.now())
  if (!result.ok) throw new Error(result.problem.sentence)
  return result.value
}

describe('consequences', () => {
  test('of moving: the reminder moves, and nothing has happened', () => {
    const world = booked()
    const { id, revision } = bookingOf(world)
    const before = world.facts()
    const found = changes(
      world,
      moveBooking(world.slice(), id, revision, times(25), () => 0, hypothetical(world.now())),
    )
    expect(found.map(({ kind, after }) => [kind, after?.dueAt])).toEqual([
      ['moved', moment('2026-05-24 18:00')],
    ])
    expect(world.facts()).toBe(before)
  })

  test('of moving after the reminder went: it goes again', () => {
    const world = booked()
    world.advance(moment('2026-05-19 19:00'))
    const { id, revision } = bookingOf(world)
    const found = changes(
      world,
      moveBooking(world.slice(), id, revision, times(25), () => 0, hypothetical(world.now())),
    )
    expect(found.map(({ kind }) => kind)).toEqual(['again'])
  })

  test('of cancelling: the reminder is dropped, with the reason', () => {
    const world = booked()
    const { id, revision } = bookingOf(world)
    const [dropped] = changes(world, cancelBooking(world.slice(), id, revision, hypothetical(world.now())))
    expect(dropped).toMatchObject({
      kind: 'dropped',
      after: { reason: { sentence: 'The booking was cancelled.' } },
    })
  })

  test('of another address: the recipient changes', () => {
    const world = booked()
    const { name, zone, language, namedDates, tags, takesPromotional, isActive } = exampleClient
    const contacts = exampleClient.contacts.map((one) => ({ ...one, email: 'new@brackwater.example' }))
    const input = { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive }
    const found = changes(world, changeClient(world.slice(), 1, input, hypothetical(world.now())))
    expect(found.map(({ kind }) => kind)).toEqual(['changed recipient'])
  })

  test('the announced difference is what then really happens', () => {
    fc.assert(
      fc.property(fc.integer({ min: 15, max: 30 }), fc.integer({ min: 0, max: 140 }), (day, hours) => {
        const world = booked()
        world.advance(world.now() + hours * 3_600_000)
        const { id, revision } = bookingOf(world)
        const decide = (context = world.context()) =>
          moveBooking(world.slice(), id, revision, times(day), () => 0, context)
        const asked = consequencesOf(world.slice(), decide(hypothetical(world.now())), world.now())
        if (!asked.ok) return
        const before = world.slice()
        world.carryOut(decide())
        const plain = (found: ReturnType<typeof difference>) =>
          found.map(({ kind, after }) => [kind, after?.dueAt, after?.state])
        expect(plain(settledDifference(before, world.slice(), world.now()))).toEqual(plain(asked.value))
      }),
      { numRuns: 200 },
    )
  })

  test('of nothing is nothing', () => {
    const slice = booked().slice()
    expect(difference(slice, slice)).toEqual([])
  })
})

describe('why not', () => {
  const world = booked()
  const [run] = world.facts().runs
  const trigger = (part: Partial<Trigger> = {}): Trigger => ({
    on: 'booking confirmed',
    name: '',
    at: moment('2026-05-14 07:40'),
    clientId: exampleClient.id,
    subject: { kind: 'booking', id: bookingOf(world).id },
    ...part,
  })
  const ask = (part: Partial<Sequence>, start: object, asked = trigger(), runs = false) => {
    const own: Sequence = {
      ...sequence.parse({ id: 'sq_1', name: 'Try', state: 'live', liveSince: 0, currentVersion: 1 }),
      ...part,
    }
    const rule: StartRule = startRule.parse({ on: 'booking confirmed', ...start })
    const with_: Settings = {
      ...settings,
      sequenceVersions: settings.sequenceVersions.map((version) => ({ ...version, start: rule })),
    }
    const facts = { ...world.facts(), runs: runs && run ? [run] : [] }
    return whyNoRun(own, asked, { settings: with_, facts })
  }

  test.each([
    ['a draft', { state: 'draft' as const }, {}, 'not live'],
    ['draft', { state: 'draft' as const }, {}, 'not live'],
    ['live only since', { liveSince: moment('2026-05-14 08:00') }, {}, 'before going live'],
    ['another event', {}, { on: 'booking cancelled' }, 'another event'],
    ['another service', {}, { serviceIds: ['sv_lesson'] }, null],
    [
      'a condition on tags',
      {},
      { onlyIf: { field: 'client.tag', comparison: 'is', value: 'family' } },
      'condition',
    ],
    [
      'a condition on people',
      {},
      { onlyIf: { field: 'booking.party size', comparison: 'is at least', value: 2 } },
      'condition',
    ],
    [
      'a nested condition',
      {},
      { onlyIf: { none: [{ field: 'client.language', comparison: 'is', value: 'en' }] } },
      'condition',
    ],
    ['nothing in the way', {}, {}, null],
  ])('%s', (_, part, start, code) => {
    expect(ask(part, start)?.code ?? null).toBe(code)
  })

  test('what has run already says so', () => {
    expect(ask({}, {}, trigger(), true)).toMatchObject({
      code: 'has run',
      sentence: 'It has run already, and starts once for each booking.',
    })
  })

  test('the sentence names the fact, the change what would remedy it', () => {
    const answer = ask({}, { onlyIf: { field: 'booking.party size', comparison: 'is at least', value: 2 } })
    expect(answer).toEqual({
      code: 'condition',
      sentence: 'booking.party size is at least 2: it is 1.',
      change: 'booking.party size would have to be at least 2.',
      remedy: null,
    })
  })
})
