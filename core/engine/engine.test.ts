import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { sendKey, type Send } from '../model/send.ts'
import { isBranch } from '../model/step.ts'
import type { Settings } from '../planning/slice.ts'
import { at, exampleClient, exampleService, exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../rehearsal/world.ts'
import { hourMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import {
  cancelBooking,
  confirmBooking,
  makeBooking,
  missBooking,
  moveBooking,
  type MakeBookingInput,
} from './commands/bookingCommands.ts'
import { changeClient } from './commands/clientCommands.ts'
import { catchUp } from './following/catchUp.ts'
import { decideSend, missWhileHeldBack } from './commands/sendCommands.ts'

const settings = exampleSettings(realZones)
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const noneTaken = () => 0

const input = (start: string, end: string, part: Partial<MakeBookingInput> = {}): MakeBookingInput => ({
  clientId: exampleClient.id,
  serviceId: exampleService.id,
  startLocal: start,
  endLocal: end,
  partySize: 2,
  status: 'confirmed',
  personInChargeId: null,
  ...part,
})

function worldAt(local: string, of: Settings = settings, client = exampleClient): World {
  return createWorld(of, client, moment(local))
}

const make = (world: World, part: MakeBookingInput) =>
  world.carryOut(makeBooking(world.slice(), part, noneTaken, world.context()))

function booking(world: World) {
  const found = world.facts().bookings[0]
  if (!found) throw new Error('no booking')
  return found
}

const move = (world: World, startLocal: string, endLocal: string) =>
  world.carryOut(
    moveBooking(
      world.slice(),
      booking(world).id,
      booking(world).revision,
      { startLocal, endLocal },
      noneTaken,
      world.context(),
    ),
  )

const summary = (world: World) =>
  world.facts().sends.map(({ stepId, state, dueAt }) => [stepId, state, dueAt] as const)

describe('a confirmed booking', () => {
  test('sends its confirmation at once and its reminder at exactly its time', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.advance(world.now())
    expect(world.outbox().map(({ subject }) => subject)).toEqual([
      'Kite lesson on Saturday 16 May 2026, 19:00',
    ])
    world.advance(moment('2026-05-15 17:59'))
    expect(world.outbox()).toHaveLength(1)
    world.advance(moment('2026-05-20 12:00'))
    expect(world.outbox()[1]).toMatchObject({
      at: moment('2026-05-15 18:00'),
      subject: 'Kite lesson: tomorrow at 19:00',
    })
    expect(booking(world).status).toBe('completed')
  })

  test('only asked for, it starts nothing until it is confirmed', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00', { status: 'requested' }))
    expect(world.facts().runs).toHaveLength(0)
    world.carryOut(confirmBooking(world.slice(), booking(world).id, 1, world.context()))
    expect(world.facts().sends).toHaveLength(2)
  })

  test('acts before going live start nothing', () => {
    const later: Settings = {
      ...settings,
      sequences: settings.sequences.map((one) => ({ ...one, liveSince: moment('2026-05-14 07:40') })),
    }
    const world = worldAt('2026-05-14 07:40', later)
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    expect(world.facts().runs).toHaveLength(0)
  })
})

describe('a moved booking', () => {
  test('plans its unsent reminder anew and voids the old one', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.advance(world.now())
    move(world, '2026-05-20T19:00', '2026-05-20T21:00')
    expect(summary(world)).toEqual([
      ['st_confirm', 'sent', moment('2026-05-14 07:40')],
      ['st_evening', 'cancelled', moment('2026-05-15 18:00')],
      ['st_evening', 'ready', moment('2026-05-19 18:00')],
    ])
  })

  test('there and back, it ends with the sends it began with', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.advance(world.now())
    const before = summary(world)
    move(world, '2026-05-20T19:00', '2026-05-20T21:00')
    move(world, '2026-05-16T19:00', '2026-05-16T21:00')
    const alive = summary(world).filter(([, state]) => state !== 'cancelled')
    expect(alive).toEqual(before)
    expect(world.facts().sends).toHaveLength(3)
  })

  test('after its reminder went, the reminder is due again; below the threshold it is not', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.advance(moment('2026-05-15 19:00'))
    move(world, '2026-05-16T19:10', '2026-05-16T21:10')
    expect(summary(world).filter(([step]) => step === 'st_evening')).toHaveLength(1)
    move(world, '2026-05-18T19:00', '2026-05-18T21:00')
    expect(summary(world).at(-1)).toEqual(['st_evening', 'ready', moment('2026-05-17 18:00')])
  })

  test('moved so near that the reminder is past already, it gets none', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-20T19:00', '2026-05-20T21:00'))
    world.advance(moment('2026-05-15 19:00'))
    move(world, '2026-05-16T10:00', '2026-05-16T12:00')
    expect(summary(world).at(-1)?.slice(0, 2)).toEqual(['st_evening', 'dropped'])
  })
})

describe('a cancelled booking', () => {
  test('stops its run and voids what is unsent, with the reason', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.advance(world.now())
    world.carryOut(cancelBooking(world.slice(), booking(world).id, 1, world.context()))
    const reminder = world.facts().sends.find(({ stepId }) => stepId === 'st_evening')
    expect(reminder).toMatchObject({ state: 'cancelled', reason: { sentence: 'The booking was cancelled.' } })
    world.advance(moment('2026-06-01 12:00'))
    expect(world.outbox()).toHaveLength(1)
    expect(booking(world).status).toBe('cancelled')
  })
})

describe('what is refused', () => {
  const sentence = (result: ReturnType<typeof makeBooking>) => (result.ok ? null : result.problem.sentence)

  test('a start in the past', () => {
    const world = worldAt('2026-05-14 07:40')
    const made = makeBooking(
      world.slice(),
      input('2026-05-14T07:00', '2026-05-14T09:00'),
      noneTaken,
      world.context(),
    )
    expect(sentence(made)).toBe('This start is already past.')
  })

  test('more people than seats', () => {
    const world = worldAt('2026-05-14 07:40')
    const part = input('2026-05-16T19:00', '2026-05-16T21:00', { partySize: 3 })
    expect(sentence(makeBooking(world.slice(), part, () => 2, world.context()))).toBe(
      'Kite lesson has only 2 of 4 seats left at that time.',
    )
    expect(sentence(makeBooking(world.slice(), part, () => 4, world.context()))).toBe(
      'Kite lesson has no seats left at that time.',
    )
  })

  test('an old revision, and cancelling what is cancelled already', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    world.carryOut(cancelBooking(world.slice(), booking(world).id, 1, world.context()))
    const { id, revision } = booking(world)
    const times = { startLocal: '2026-05-20T19:00', endLocal: '2026-05-20T21:00' }
    expect(sentence(moveBooking(world.slice(), id, revision - 1, times, noneTaken, world.context()))).toMatch(
      'Somebody has changed this booking meanwhile.',
    )
    expect(sentence(cancelBooking(world.slice(), id, revision, world.context()))).toBe(
      'A booking that is cancelled cannot be cancelled.',
    )
    expect(sentence(missBooking(world.slice(), id, revision, world.context()))).toBe(
      'A booking that is cancelled cannot be marked as missed.',
    )
  })

  test('an old revision, an unknown booking, an unknown service, the same time', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    const { id } = booking(world)
    const times = { startLocal: '2026-05-16T19:00', endLocal: '2026-05-16T21:00' }
    expect(sentence(cancelBooking(world.slice(), id, 7, world.context()))).toMatch(
      'changed this booking meanwhile',
    )
    expect(sentence(cancelBooking(world.slice(), 'bk_none', 1, world.context()))).toBe(
      'There is no such booking.',
    )
    expect(sentence(moveBooking(world.slice(), id, 1, times, noneTaken, world.context()))).toMatch(
      'already has',
    )
    const unknown = input('2026-05-16T19:00', '2026-05-16T21:00', { serviceId: 'sv_none' })
    expect(sentence(makeBooking(world.slice(), unknown, noneTaken, world.context()))).toBe(
      'There is no such service.',
    )
  })
})

describe('a client without an address', () => {
  const silent = {
    ...exampleClient,
    contacts: exampleClient.contacts.map((one) => ({ ...one, email: null })),
  }

  const states = (world: World) => summary(world).map(([, state]) => state)
  function mendedAt(local: string, present: Settings) {
    const world = worldAt('2026-05-14 07:40', present, silent)
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    const before = states(world)
    world.advance(moment(local))
    const { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive } = exampleClient
    const data = { name, zone, language, contacts, namedDates, tags, takesPromotional, isActive }
    world.carryOut(changeClient(world.slice(), 1, data, world.context()))
    return { before, after: states(world) }
  }
  const approving = {
    ...settings,
    sequenceVersions: settings.sequenceVersions.map((version) => ({
      ...version,
      steps: version.steps.map((step) => (isBranch(step) ? step : { ...step, needsApproval: true })),
    })),
  }

  test('has its messages blocked; once mended those ahead go, those past are missed', () => {
    const { before, after } = mendedAt('2026-05-14 09:00', settings)
    expect(before).toEqual(['blocked', 'blocked'])
    expect(after).toEqual(['missed', 'ready'])
  })

  test('where a person approves them, those wait up to their last chance, and are missed after it', () => {
    expect(mendedAt('2026-05-16 10:00', approving).after).toEqual(['waiting', 'waiting'])
    expect(mendedAt('2026-05-16 20:00', approving).after).toEqual(['waiting', 'missed'])
  })
})

describe('decisions of a person', () => {
  function withOneMissed(): { world: World; missed: Send } {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    const [confirmation] = world.facts().sends
    if (!confirmation) throw new Error('no send')
    world.carryOut({ ok: true, value: missWhileHeldBack([confirmation], world.slice(), world.context()) })
    return { world, missed: confirmation }
  }

  test('a missed message can be sent now', () => {
    const { world, missed } = withOneMissed()
    world.carryOut(decideSend(world.slice(), missed.id, 'send now', world.context()))
    world.advance(world.now())
    expect(world.outbox()).toHaveLength(1)
  })

  test('or skipped; what has gone can be neither', () => {
    const { world, missed } = withOneMissed()
    world.carryOut(decideSend(world.slice(), missed.id, 'skip', world.context()))
    expect(decideSend(world.slice(), missed.id, 'send now', world.context()).ok).toBe(false)
    expect(decideSend(world.slice(), 'sd_none', 'skip', world.context()).ok).toBe(false)
  })

  test('nothing is sent now while sending is held back', () => {
    const { world, missed } = withOneMissed()
    const slice = { ...world.slice(), settings: { ...settings, isSendingOn: false } }
    const refused = decideSend(slice, missed.id, 'send now', world.context())
    expect(refused).toMatchObject({
      ok: false,
      problem: { sentence: 'Sending is held back. Switch it on first.' },
    })
  })

  test('nothing is sent now after its last useful moment', () => {
    const { world, missed } = withOneMissed()
    world.advance(moment('2026-05-16 21:30'))
    const refused = decideSend(world.slice(), missed.id, 'send now', world.context())
    expect(refused).toMatchObject({ ok: false, problem: { code: 'not allowed now' } })
  })

  test('only what is in doubt can be said to have gone', () => {
    const { world, missed } = withOneMissed()
    expect(decideSend(world.slice(), missed.id, 'it went', world.context()).ok).toBe(false)
  })
})

describe('after the machine was off', () => {
  test('one message per client and booking goes within its tolerance, the confirmation first; the rest is missed', () => {
    const world = worldAt('2026-05-14 07:40')
    make(world, input('2026-05-16T19:00', '2026-05-16T21:00'))
    const [confirmation, reminder] = world.facts().sends
    if (!confirmation || !reminder) throw new Error('no sends')
    const context = { ...world.context(), now: moment('2026-05-15 19:00') }
    const both = [{ ...confirmation, dueAt: context.now - 11 * hourMs }, reminder]
    const put = catchUp(both, world.slice(), context).flatMap((effect) =>
      effect.kind === 'put send' ? [effect.send] : [],
    )
    expect(put).toMatchObject([{ id: reminder.id, state: 'missed' }])
    const tooLate = catchUp([{ ...confirmation, dueAt: context.now - 13 * hourMs }], world.slice(), context)
    expect(tooLate[0]).toMatchObject({ kind: 'put send', send: { state: 'missed' } })
    expect(catchUp([reminder], world.slice(), context)).toEqual([])
  })
})

describe('whatever happens to a booking', () => {
  const act = fc.oneof(
    fc.record({
      kind: fc.constant('move' as const),
      day: fc.integer({ min: 15, max: 30 }),
      hour: fc.integer({ min: 6, max: 20 }),
    }),
    fc.record({ kind: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 60 }) }),
    fc.record({ kind: fc.constant('cancel' as const) }),
  )

  test('never two sends with one key, never a message twice for one time', () => {
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const world = worldAt('2026-05-14 07:40')
        make(world, input('2026-05-22T19:00', '2026-05-22T21:00'))
        for (const one of acts) {
          const { id, revision } = booking(world)
          const pad = (part: number) => String(part).padStart(2, '0')
          if (one.kind === 'wait') world.advance(world.now() + one.hours * hourMs)
          else if (one.kind === 'cancel') {
            const result = cancelBooking(world.slice(), id, revision, world.context())
            if (result.ok) world.carryOut(result)
          } else {
            const times = {
              startLocal: `2026-05-${one.day}T${pad(one.hour)}:00`,
              endLocal: `2026-05-${one.day}T${pad(one.hour + 2)}:00`,
            }
            const result = moveBooking(world.slice(), id, revision, times, noneTaken, world.context())
            if (result.ok) world.carryOut(result)
          }
        }
        world.advance(moment('2026-07-01 00:00'))
        const { sends } = world.facts()
        expect(new Set(sends.map(sendKey)).size).toBe(sends.length)
        expect(world.outbox()).toHaveLength(sends.filter(({ state }) => state === 'sent').length)
        expect(sends.filter(({ state }) => state === 'ready')).toHaveLength(0)
      }),
      { numRuns: 200 },
    )
  })
})
