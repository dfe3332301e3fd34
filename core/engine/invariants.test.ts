import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { sendKey, type Send } from '../model/send.ts'
import { canTurn, sendStateTraits, type SendState } from '../model/sendState.ts'
import type { Step } from '../model/step.ts'
import { planClient } from '../planning/planClient.ts'
import type { Slice } from '../planning/slice.ts'
import {
  at,
  exampleClient,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../rehearsal/exampleBusiness.ts'
import { createWorld, type Watch, type World } from '../rehearsal/world.ts'
import { hourMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import {
  cancelBooking,
  confirmBooking,
  makeBooking,
  missBooking,
  moveBooking,
} from './commands/bookingCommands.ts'
import { decideSend, goStale } from './commands/sendCommands.ts'

const start = { of: 'booking start' } as const
const steps: readonly Step[] = [
  exampleStep({ id: 'st_confirm', purpose: 'confirmation', timing: { kind: 'at once' } }),
  exampleStep({
    id: 'st_wear',
    purpose: 'preparation',
    needsApproval: true,
    timing: {
      kind: 'calendar',
      amount: 3,
      unit: 'days',
      direction: 'before',
      anchor: start,
      atTime: '18:00',
    },
  }),
  exampleStep({
    id: 'st_three',
    purpose: 'reminder',
    timing: { kind: 'elapsed', amount: 3, unit: 'hours', direction: 'before', anchor: start },
  }),
  exampleStep({
    id: 'st_pictures',
    purpose: 'follow-up',
    timing: { kind: 'after previous', amount: 2, unit: 'days', atTime: '10:00' },
    repeat: { every: { amount: 4, unit: 'days' }, untilCondition: null, untilAnchor: null, atMost: 3 },
  }),
]
const settings = exampleSettings(realZones, steps)
const origin = at(realZones, 'Europe/Berlin', '2026-05-14 07:40')
const pad = (part: number) => String(part).padStart(2, '0')
const times = (day: number, hour: number) => ({
  startLocal: `2026-05-${pad(day)}T${pad(hour)}:30`,
  endLocal: `2026-05-${pad(day)}T${pad(hour + 2)}:30`,
})

const anyAct = fc.oneof(
  fc.record({
    kind: fc.constant('move' as const),
    day: fc.integer({ min: 15, max: 31 }),
    hour: fc.integer({ min: 5, max: 20 }),
  }),
  fc.record({ kind: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 72 }) }),
  fc.record({ kind: fc.constantFrom('cancel' as const, 'miss' as const, 'confirm' as const) }),
  fc.record({
    kind: fc.constant('decide' as const),
    index: fc.nat(10),
    decision: fc.constantFrom('approve' as const, 'send now' as const, 'skip' as const, 'it went' as const),
  }),
)
type Act = typeof anyAct extends fc.Arbitrary<infer One> ? One : never

function begun(watch?: Watch): World {
  const world = createWorld(settings, exampleClient, origin, watch)
  const input = {
    clientId: exampleClient.id,
    serviceId: exampleService.id,
    ...times(24, 10),
    partySize: 1,
    status: 'requested' as const,
    personInChargeId: null,
  }
  world.carryOut(makeBooking(world.slice(), input, () => 0, world.context()))
  return world
}

function perform(world: World, act: Act) {
  const [booking] = world.facts().bookings
  if (!booking) throw new Error('no booking')
  const { id, revision } = booking
  const decide = () => {
    switch (act.kind) {
      case 'wait':
        return null
      case 'move':
        return moveBooking(world.slice(), id, revision, times(act.day, act.hour), () => 0, world.context())
      case 'cancel':
        return cancelBooking(world.slice(), id, revision, world.context())
      case 'miss':
        return missBooking(world.slice(), id, revision, world.context())
      case 'confirm':
        return confirmBooking(world.slice(), id, revision, world.context())
      case 'decide': {
        const { sends } = world.facts()
        const send = sends[act.index % Math.max(1, sends.length)]
        return send ? decideSend(world.slice(), send.id, act.decision, world.context()) : null
      }
    }
  }
  if (act.kind === 'wait') world.advance(world.now() + act.hours * hourMs)
  const decided = decide()
  if (decided?.ok) world.carryOut(decided)
  world.advance(world.now())
}

describe('whatever people and time do', () => {
  test('only allowed changes of state occur', () => {
    fc.assert(
      fc.property(fc.array(anyAct, { maxLength: 15 }), (acts) => {
        const forbidden: string[] = []
        const watch: Watch = (before, effects) => {
          const states = new Map<string, SendState>(before.sends.map(({ id, state }) => [id, state]))
          for (const effect of effects) {
            if (effect.kind !== 'put send') continue
            const { id, state } = effect.send
            const was = states.get(id)
            // In memory a message goes in one move; for real it is being sent in between.
            const isGoing = state === 'sent' && (was === 'ready' || was === 'approved')
            if (was !== undefined && !isGoing && !canTurn(was, state)) forbidden.push(`${was} → ${state}`)
            states.set(id, state)
          }
        }
        const world = begun(watch)
        acts.forEach((act) => perform(world, act))
        world.advance(origin + 90 * 24 * hourMs)
        expect(forbidden).toEqual([])
      }),
      { numRuns: 300 },
    )
  })

  test('never two sends with one key, and nothing that may go is left when all is over', () => {
    fc.assert(
      fc.property(fc.array(anyAct, { maxLength: 12 }), (acts) => {
        const world = begun()
        acts.forEach((act) => perform(world, act))
        world.advance(origin + 90 * 24 * hourMs)
        const { sends } = world.facts()
        expect(new Set(sends.map(sendKey)).size).toBe(sends.length)
        expect(sends.filter(({ state }) => state === 'ready' || state === 'approved')).toEqual([])
      }),
      { numRuns: 200 },
    )
  })

  test('with nothing sent yet, planning in one go equals planning event by event', () => {
    const moves = fc.array(
      fc.record({ day: fc.integer({ min: 20, max: 31 }), hour: fc.integer({ min: 5, max: 20 }) }),
      {
        minLength: 1,
        maxLength: 6,
      },
    )
    fc.assert(
      fc.property(moves, (list) => {
        const world = begun()
        list.forEach((move) => perform(world, { kind: 'move', ...move }))
        perform(world, { kind: 'confirm' })
        const slice = world.slice()
        const alive = (sends: readonly Send[]) =>
          sends
            .filter(({ state }) => state === 'ready' || state === 'waiting' || state === 'dropped')
            .map(({ stepId, anchorValue, dueAt, wantedAt }) => [stepId, anchorValue, dueAt, wantedAt])
        const fresh = planClient({ ...slice, facts: { ...slice.facts, sends: [] } }, world.now())
          .filter(({ awaits, step }) => awaits === null && step.id !== 'st_confirm')
          .map(({ step, anchorValue, dueAt, wantedAt }) => [step.id, anchorValue, dueAt, wantedAt])
        expect(alive(slice.facts.sends).filter(([step]) => step !== 'st_confirm')).toEqual(fresh)
      }),
      { numRuns: 100 },
    )
  })

  test('planning again changes nothing', () => {
    fc.assert(
      fc.property(fc.array(anyAct, { maxLength: 10 }), (acts) => {
        const world = begun()
        acts.forEach((act) => perform(world, act))
        const slice: Slice = world.slice()
        expect(planClient(slice, world.now())).toEqual(planClient(slice, world.now()))
      }),
      { numRuns: 100 },
    )
  })

  test('the order of the facts does not matter', () => {
    fc.assert(
      fc.property(fc.array(anyAct, { maxLength: 10 }), (acts) => {
        const world = begun()
        acts.forEach((act) => perform(world, act))
        const { settings: own, facts } = world.slice()
        const turned = {
          ...facts,
          sends: facts.sends.toReversed(),
          happenings: facts.happenings.toReversed(),
        }
        const plan = (of: typeof facts) => planClient({ settings: own, facts: of }, world.now())
        expect(plan(turned)).toEqual(plan(facts))
      }),
      { numRuns: 100 },
    )
  })
})

describe('the table of states', () => {
  test('nothing comes back from the post: sent only turns out bounced; what bounced a person sends or lets go', () => {
    expect(sendStateTraits.sent.becomes).toEqual(['bounced'])
    expect(sendStateTraits.bounced.becomes).toEqual(['ready', 'skipped'])
    expect(canTurn('sent', 'ready')).toBe(false)
  })

  test('what is expected or waits for a person can never be sent directly', () => {
    expect(canTurn('expected', 'sending')).toBe(false)
    expect(canTurn('waiting', 'sending')).toBe(false)
  })

  test('a message that is not waiting does not go stale', () => {
    const world = begun()
    perform(world, { kind: 'confirm' })
    const reminder = world.facts().sends.find(({ state }) => state === 'ready')
    if (!reminder) throw new Error('no reminder')
    expect(goStale(world.slice(), reminder.id, world.context())).toEqual([
      { kind: 'clear due moment', moment: { kind: 'goes stale', key: reminder.id } },
    ])
  })
})
