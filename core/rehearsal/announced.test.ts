import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { announcedOf, isStillSo } from '../engine/consequences/announced.ts'
import {
  cancelBooking,
  confirmBooking,
  makeBooking,
  missBooking,
  moveBooking,
} from '../engine/commands/bookingCommands.ts'
import { consequencesOf, hypothetical, settledDifference } from '../engine/consequences/consequences.ts'
import type { EngineContext } from '../engine/context.ts'
import { settingsWithEffects, withEffects, type Effect } from '../engine/effects.ts'
import { bookingHeldBack } from '../engine/following/heldBack.ts'
import { putIntoEffect, rolledOut } from '../engine/consequences/rollout.ts'
import type { Result } from '../model/problem.ts'
import type { Send } from '../model/send.ts'
import { startRule, type Sequence, type SequenceVersion } from '../model/sequence.ts'
import type { StartEvent } from '../model/startEvent.ts'
import type { MailStep } from '../model/step.ts'
import { purpose, type Timing } from '../model/timing.ts'
import { changedSend, messageName, type Change } from '../planning/difference.ts'
import type { Settings } from '../planning/slice.ts'
import { dayMs, hourMs, minuteMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { exampleClient, exampleSettings, exampleStep } from './exampleBusiness.ts'
import { createWorld, type World } from './world.ts'

/*
 * What is announced before an act is what then happens, message by message, as long as no other facts change.
 */

const startsAt = Date.UTC(2026, 4, 14, 5, 40)
const noSeats = () => 0

const timing: fc.Arbitrary<Timing> = fc.oneof(
  fc.constant({ kind: 'at once' as const }),
  fc.record({
    kind: fc.constant('calendar' as const),
    amount: fc.integer({ min: 0, max: 6 }),
    unit: fc.constant('days' as const),
    direction: fc.constantFrom('before' as const, 'after' as const),
    anchor: fc.constantFrom({ of: 'booking start' as const }, { of: 'booking end' as const }),
    atTime: fc.constantFrom('08:30', '12:00', '18:00', '21:30'),
  }),
  fc.record({
    kind: fc.constant('elapsed' as const),
    amount: fc.integer({ min: 1, max: 30 }),
    unit: fc.constant('hours' as const),
    direction: fc.constantFrom('before' as const, 'after' as const),
    anchor: fc.constantFrom({ of: 'booking start' as const }, { of: 'booking made' as const }),
  }),
)
const kinds = purpose.exclude(['internal', 'occasion', 'promotional']).options
const steps = fc
  .array(fc.record({ timing, purpose: fc.constantFrom(...kinds) }), { minLength: 1, maxLength: 4 })
  .map((parts) => parts.map((part, index): MailStep => exampleStep({ id: `st_${index}`, ...part })))

function settingsWith(all: readonly (readonly [StartEvent, readonly MailStep[]])[]): Settings {
  const sequences = all.map(([,], index): Sequence => ({
    id: `sq_${index}`,
    name: `Sequence ${index}`,
    state: 'live',
    liveSince: 0,
    currentVersion: 1,
  }))
  const sequenceVersions = all.map(([on, own], index): SequenceVersion => ({
    sequenceId: `sq_${index}`,
    version: 1,
    start: startRule.parse({ on, again: { kind: 'every time', gap: null } }),
    steps: [...own],
    stops: [],
  }))
  return { ...exampleSettings(realZones), sequences, sequenceVersions }
}

const letterless = (settings: Settings): Settings => ({
  ...settings,
  letters: settings.letters.map((letter) => ({ ...letter, isStarter: false })),
})

function booked(settings: Settings, inDays: number, status: 'requested' | 'confirmed'): World {
  const world = createWorld(letterless(settings), exampleClient, startsAt)
  const date = (day: number) => new Date(startsAt + day * dayMs).toISOString().slice(0, 10)
  const input = {
    clientId: exampleClient.id,
    serviceId: 'sv_lesson',
    startLocal: `${date(inDays)}T10:00`,
    endLocal: `${date(inDays)}T12:00`,
    partySize: 1,
    status,
    personInChargeId: null,
  }
  world.carryOut(makeBooking(world.slice(), input, noSeats, world.context()))
  return world
}

const act = fc.oneof(
  fc.record({
    kind: fc.constant('move' as const),
    day: fc.integer({ min: 0, max: 14 }),
    hour: fc.integer({ min: 6, max: 20 }),
  }),
  fc.record({ kind: fc.constantFrom('cancel' as const, 'miss' as const, 'confirm' as const) }),
)
type Act = { kind: 'move'; day: number; hour: number } | { kind: 'cancel' | 'miss' | 'confirm' }

function decide(world: World, asked: Act, context: EngineContext): Result<readonly Effect[]> {
  const slice = world.slice()
  const [booking] = slice.facts.bookings
  if (!booking) throw new Error('no booking')
  const { id, revision } = booking
  switch (asked.kind) {
    case 'cancel':
      return cancelBooking(slice, id, revision, context)
    case 'miss':
      return missBooking(slice, id, revision, context)
    case 'confirm':
      return confirmBooking(slice, id, revision, context)
    case 'move': {
      const date = new Date(world.now() + asked.day * dayMs).toISOString().slice(0, 10)
      const pad = String(asked.hour).padStart(2, '0')
      const times = { startLocal: `${date}T${pad}:15`, endLocal: `${date}T${pad}:55` }
      return moveBooking(slice, id, revision, times, noSeats, context)
    }
  }
}

const sentAfter = (world: World, from: number) =>
  world.facts().sends.filter(({ state, sentAt }) => state === 'sent' && (sentAt ?? 0) >= from)

/** Compares what was announced with what went, message by message, up to the end of everything. */
function expectAsAnnounced(world: World, before: readonly Send[], changes: readonly Change[], from: number) {
  world.advance(from + 60 * dayMs)
  const sent = sentAfter(world, from)
  const went = (name: string) => sent.filter((send) => messageName(send) === name).map(({ sentAt }) => sentAt)
  const touched = new Set<string>()
  for (const change of changes) {
    const { name, kind, at } = announcedOf(change, [])
    touched.add(name)
    if (kind === 'dropped') expect([name, went(name)]).toEqual([name, []])
    // What was due a moment ago goes now.
    else expect([name, went(name)]).toEqual([name, [at === null ? null : Math.max(at, from)]])
  }
  const untouched = before.filter(
    (send) => send.state === 'ready' && (send.dueAt ?? 0) >= from && !touched.has(messageName(send)),
  )
  for (const send of untouched) {
    expect([messageName(send), went(messageName(send))]).toEqual([messageName(send), [send.dueAt]])
  }
  const known = new Set([...touched, ...untouched.map(messageName)])
  expect(sent.filter((send) => !known.has(messageName(send)))).toEqual([])
}

describe('what is announced before an act', () => {
  test('on a booking is what then happens', () => {
    let compared = 0
    fc.assert(
      fc.property(
        steps,
        steps,
        steps,
        fc.constantFrom('requested' as const, 'confirmed' as const),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 12 * 24 }),
        act,
        (confirmed, moved, cancelled, status, inDays, hours, asked) => {
          const settings = settingsWith([
            ['booking confirmed', confirmed],
            ['booking moved', moved],
            ['booking cancelled', cancelled],
          ])
          const world = booked(settings, inDays, status)
          world.advance(startsAt + hours * hourMs + 7 * minuteMs)
          const from = world.now()
          const slice = world.slice()
          const context = hypothetical(from)
          const decided = decide(world, asked, context)
          if (!decided.ok) return
          const announced = consequencesOf(slice, decided, from)
          if (!announced.ok) throw new Error(announced.problem.sentence)
          compared += announced.value.length
          world.carryOut(decide(world, asked, world.context()))
          expectAsAnnounced(world, slice.facts.sends, announced.value, from)
        },
      ),
      { numRuns: 250 },
    )
    expect(compared).toBeGreaterThan(100)
  })

  test('on a live sequence is what then happens', () => {
    let compared = 0
    fc.assert(
      fc.property(
        steps,
        steps,
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 8 * 24 }),
        fc.boolean(),
        (old, next, inDays, hours, includesExisting) => {
          const settings = settingsWith([['booking confirmed', old]])
          const world = booked(settings, inDays, 'confirmed')
          world.advance(startsAt + hours * hourMs + 7 * minuteMs)
          const from = world.now()
          const slice = world.slice()
          const design = {
            name: 'Sequence 0',
            start: startRule.parse({ on: 'booking confirmed', again: { kind: 'every time', gap: null } }),
            steps: [...next],
            stops: [],
          }
          const put = putIntoEffect(slice.settings, 'sq_0', design, hypothetical(from))
          if (!put.ok) throw new Error(put.problem.sentence)
          const after = settingsWithEffects(slice.settings, put.value)
          const choice = { movesRunning: !includesExisting, includesExisting }
          const roll = (context: EngineContext) => rolledOut(slice, after, 'sq_0', choice, context)
          const facts = withEffects(slice.facts, roll(hypothetical(from)))
          const changes = settledDifference(slice, { settings: after, facts }, from)
          // Two runs of one sequence for one booking send messages of one name: those are told apart by nothing here.
          if (includesExisting && slice.facts.runs.length > 0) return
          compared += changes.length
          world.changeSettings(() => after)
          world.carryOut({ ok: true, value: roll(world.context()) })
          expectAsAnnounced(world, slice.facts.sends, changes, from)
        },
      ),
      { numRuns: 250 },
    )
    expect(compared).toBeGreaterThan(50)
  })
})

describe('held back before the act', () => {
  test('a message waits for a person, also one that follows only when the change has settled', () => {
    const reminder = exampleStep({
      id: 'st_0',
      purpose: 'reminder',
      timing: {
        kind: 'calendar',
        amount: 1,
        unit: 'days',
        direction: 'before',
        anchor: { of: 'booking start' },
        atTime: '18:00',
      },
    })
    const told = exampleStep({ id: 'st_0', purpose: 'change', timing: { kind: 'at once' } })
    const world = booked(
      settingsWith([
        ['booking confirmed', [reminder]],
        ['booking moved', [told]],
      ]),
      5,
      'confirmed',
    )
    const from = world.now()
    const asked: Act = { kind: 'move', day: 9, hour: 10 }
    const context = hypothetical(from)
    const announced = consequencesOf(world.slice(), decide(world, asked, context), from)
    const names = announced.ok ? announced.value.map((change) => messageName(changedSend(change))) : []
    expect(names).toHaveLength(2)
    const decided = decide(world, asked, world.context())
    if (!decided.ok) throw new Error(decided.problem.sentence)
    world.carryOut({ ok: true, value: bookingHeldBack(decided.value, names, from) })
    world.advance(from + 10 * minuteMs)
    const standing = world.facts().sends.filter(({ state }) => state !== 'cancelled')
    expect(standing.map(({ state, reason }) => [state, reason?.code])).toEqual([
      ['waiting', 'held back'],
      ['waiting', 'held back'],
    ])
    expect(world.outbox()).toEqual([])
  })
})

describe('whether it is still so', () => {
  test('two messages of one name are told apart by their moments', () => {
    const twice = [1000, 9000].map(
      (at) => ({ clientId: 'cl_1', name: 'a', kind: 'added', at, manner: '' }) as const,
    )
    expect(isStillSo(twice, twice.toReversed(), 0)).toBe(true)
    expect(
      isStillSo(
        twice,
        [twice[0], twice[0]].flatMap((one) => one ?? []),
        0,
      ),
    ).toBe(false)
  })

  const one = { clientId: 'cl_1', name: 'a', kind: 'added', at: 1000, manner: '' } as const
  test.each([
    ['the same', [one], 0, true],
    [
      'a moment that counts from now, drifted no further than time has passed',
      [{ ...one, at: 1400 }],
      400,
      true,
    ],
    ['another moment', [{ ...one, at: 1401 }], 400, false],
    ['one more', [one, { ...one, name: 'b' }], 0, false],
    ['one less', [], 0, false],
    ['another manner, such as waiting for a person now', [{ ...one, manner: 'approved' }], 0, false],
    ['another kind', [{ ...one, kind: 'moved' as const }], 0, false],
    ['no moment any more', [{ ...one, at: null }], 400, false],
  ])('%s', (_, present, drift, expected) => {
    expect(isStillSo([one], present, drift)).toBe(expected)
  })
})
