import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import type { Invoice } from '../../model/dealings.ts'
import { standardOffer, type Paying } from '../../model/offer.ts'
import { openOf } from '../../model/policy.ts'
import {
  at,
  exampleClient,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { dayMs, hourMs } from '../../time/calendar.ts'
import { realZones } from '../../time/realZones.ts'
import {
  cancelBooking,
  cancelForClient,
  confirmBooking,
  makeBooking,
  moveBooking,
} from './bookingCommands.ts'
import { addInvoice, notePayment, receivePayment, voidInvoice } from './paymentCommands.ts'
import { endsOn, startRule } from '../../model/sequence.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
/** Thursday 14 May 2026, 09:00. */
const start = moment('2026-05-14 09:00')
const terms: Paying = { deposit: { percent: 30, withinDays: 7 }, balanceDaysBefore: 14 }

/** From the issue of an invoice on every day until it is paid, at most ten times: what must end with the payment. */
const reminder = exampleStep({
  id: 'st_remind',
  purpose: 'payment',
  letterId: 'lt_starter-invoice',
  timing: {
    kind: 'calendar',
    amount: 1,
    unit: 'days',
    direction: 'after',
    anchor: { of: 'invoice issued' },
    atTime: null,
  },
  repeat: {
    every: { amount: 1, unit: 'days' },
    untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
    untilAnchor: null,
    atMost: 10,
  },
})

interface Options {
  readonly paying?: Paying | null
  readonly feePercent?: number
}

function worldWith({ paying = terms, feePercent = 50 }: Options = {}): World {
  const settings = exampleSettings(realZones, [reminder])
  const service = {
    ...exampleService,
    seats: 100,
    offer: {
      ...standardOffer,
      price: { cents: 10_000, per: 'person' as const },
      paying,
      cancelling: { freeUntilHours: 72, feePercent },
    },
  }
  const onInvoices = {
    start: startRule.parse({ on: 'invoice issued' }),
    stops: [endsOn('invoice paid')],
  }
  const sequenceVersions = settings.sequenceVersions.map((one) => ({ ...one, ...onInvoices }))
  return createWorld({ ...settings, services: [service], sequenceVersions }, exampleClient, start)
}

const times = (date: string) => ({ startLocal: `${date}T19:00`, endLocal: `${date}T21:00` })

function book(
  world: World,
  date = '2026-07-01',
  partySize = 2,
  status: 'confirmed' | 'requested' = 'confirmed',
) {
  const asked = { clientId: exampleClient.id, serviceId: exampleService.id, personInChargeId: null }
  world.carryOut(
    makeBooking(world.slice(), { ...asked, ...times(date), partySize, status }, () => 0, world.context()),
  )
  return bookingOf(world)
}

function bookingOf(world: World) {
  const booking = world.facts().bookings.at(-1)
  if (!booking) throw new Error('There is no booking')
  return booking
}

const owed = (world: World) =>
  world.facts().invoices.map((one) => [one.reason, one.amountCents, one.dueOn, openOf(one)] as const)

function first(world: World, reason: Invoice['reason']): Invoice {
  const found = world.facts().invoices.findLast((one) => one.reason === reason)
  if (!found) throw new Error(`There is no ${reason}`)
  return found
}

const tasks = (world: World) =>
  world
    .events()
    .filter(({ kind }) => kind === 'task set')
    .map(({ sentence }) => sentence)
const reminders = (world: World, invoice: Invoice) =>
  world.facts().sends.filter(({ subject, state }) => subject.id === invoice.id && state === 'sent').length
const cancelNow = (world: World) => {
  const { id, revision } = bookingOf(world)
  world.carryOut(cancelForClient(world.slice(), id, revision, '', world.context()))
}
const settle = (world: World) => world.advance(world.now() + 5 * 60_000)

describe('what is asked for', () => {
  test('once it is confirmed: a deposit of its part and the rest, each by its date', () => {
    const world = worldWith()
    book(world)
    expect(owed(world)).toEqual([
      ['deposit', 6_000, '2026-05-21', 6_000],
      ['balance', 14_000, '2026-06-17', 14_000],
    ])
  })

  test('of a request nothing, until somebody confirms it', () => {
    const world = worldWith()
    const { id } = book(world, '2026-07-01', 2, 'requested')
    settle(world)
    expect(owed(world)).toEqual([])
    world.carryOut(confirmBooking(world.slice(), id, bookingOf(world).revision, world.context()))
    expect(owed(world)).toHaveLength(2)
  })

  test('shortly before all of it at once, by today at the latest', () => {
    const world = worldWith()
    book(world, '2026-05-20')
    expect(owed(world)).toEqual([['balance', 20_000, '2026-05-14', 20_000]])
  })

  test('nothing where the service asks for nothing', () => {
    const world = worldWith({ paying: null })
    book(world)
    expect(owed(world)).toEqual([])
  })
})

describe('a booking that changes', () => {
  test('moved: the rest is due by its new date, the deposit as before', () => {
    const world = worldWith()
    const { id, revision } = book(world)
    world.carryOut(moveBooking(world.slice(), id, revision, times('2026-07-11'), () => 0, world.context()))
    expect(owed(world).map(([reason, , dueOn]) => [reason, dueOn])).toEqual([
      ['deposit', '2026-05-21'],
      ['balance', '2026-06-27'],
    ])
  })

  test('cancelled and taken back while it settles: nothing has happened to its invoices', () => {
    const world = worldWith()
    book(world)
    const before = owed(world)
    cancelNow(world)
    const { id, revision } = bookingOf(world)
    world.carryOut(confirmBooking(world.slice(), id, revision, world.context()))
    settle(world)
    expect(owed(world)).toEqual(before)
    world.advance(world.now() + 2 * dayMs)
    expect(reminders(world, first(world, 'deposit'))).toBe(2)
  })

  test('cancelled early: what is open is void, nothing reminds, and what was paid is paid back', () => {
    const world = worldWith()
    book(world)
    const deposit = first(world, 'deposit')
    world.carryOut(notePayment(world.slice(), deposit.id, 6_000, world.context()))
    cancelNow(world)
    settle(world)
    expect(owed(world).map(([, , , open]) => open)).toEqual([0, 0])
    expect(tasks(world)).toEqual([
      'Task: Pay back €60.00 to Enno Brackwater: cancelled; €60.00 paid, fee €0.00.',
    ])
    world.advance(world.now() + 3 * dayMs)
    expect(world.outbox()).toEqual([])
  })

  test('cancelled late: the fee is asked for, less what was paid, and reminded of', () => {
    const world = worldWith()
    book(world, '2026-05-16')
    cancelNow(world)
    settle(world)
    expect(owed(world)).toEqual([
      ['balance', 20_000, '2026-05-14', 0],
      ['fee', 10_000, '2026-05-28', 10_000],
    ])
    world.advance(world.now() + dayMs + hourMs)
    expect(reminders(world, first(world, 'fee'))).toBe(1)
  })

  test('cancelled by the business costs nothing', () => {
    const world = worldWith()
    const { id, revision } = book(world, '2026-05-16')
    world.carryOut(cancelBooking(world.slice(), id, revision, world.context()))
    settle(world)
    expect(owed(world).map(([reason, , , open]) => [reason, open])).toEqual([['balance', 0]])
    expect(tasks(world)).toEqual([])
  })

  test('standing again after all: its fee is void, and what is left of the price is asked for', () => {
    const world = worldWith()
    book(world, '2026-05-17')
    world.carryOut(notePayment(world.slice(), first(world, 'balance').id, 4_000, world.context()))
    world.advance(moment('2026-05-15 09:00'))
    cancelNow(world)
    settle(world)
    expect(openOf(first(world, 'fee'))).toBe(6_000)
    const { id, revision } = bookingOf(world)
    world.carryOut(confirmBooking(world.slice(), id, revision, world.context()))
    expect(owed(world)).toEqual([
      ['balance', 20_000, '2026-05-14', 0],
      ['fee', 6_000, '2026-05-29', 0],
      ['balance', 16_000, '2026-05-15', 16_000],
    ])
  })
})

describe('a payment', () => {
  test('in part leaves the rest open and reminded of; the last ends the reminders', () => {
    const world = worldWith()
    book(world)
    const { id } = first(world, 'deposit')
    world.carryOut(notePayment(world.slice(), id, 2_500, world.context()))
    expect(openOf(first(world, 'deposit'))).toBe(3_500)
    world.advance(start + dayMs + hourMs)
    expect(reminders(world, first(world, 'deposit'))).toBe(1)
    world.carryOut(notePayment(world.slice(), id, 3_500, world.context()))
    expect(first(world, 'deposit').paidAt).toBe(world.now())
    world.advance(start + 20 * dayMs)
    expect(reminders(world, first(world, 'deposit'))).toBe(1)
  })

  test('that came in a second before the reminder stops it', () => {
    const world = worldWith()
    book(world)
    const { id } = first(world, 'deposit')
    const dueAt = world.facts().sends.find(({ subject }) => subject.id === id)?.dueAt ?? 0
    world.approach(dueAt)
    world.carryOut(receivePayment(world.slice(), id, { reference: 'r1', cents: 6_000 }, world.context()))
    world.advance(dueAt + hourMs)
    expect(reminders(world, first(world, 'deposit'))).toBe(0)
  })

  test('told twice counts once; a second one is kept, and paid back', () => {
    const world = worldWith()
    book(world)
    const { id } = first(world, 'deposit')
    const told = { reference: 'r1', cents: 6_000 }
    world.carryOut(receivePayment(world.slice(), id, told, world.context()))
    world.carryOut(receivePayment(world.slice(), id, told, world.context()))
    expect(first(world, 'deposit').payments).toHaveLength(1)
    expect(tasks(world)).toEqual([])
    world.carryOut(receivePayment(world.slice(), id, { ...told, reference: 'r2' }, world.context()))
    expect(tasks(world)).toEqual(['Task: Pay back €60.00 to Enno Brackwater: paid more than was open.'])
  })

  test('that comes after the cancellation is paid back', () => {
    const world = worldWith()
    book(world)
    cancelNow(world)
    settle(world)
    const { id } = first(world, 'deposit')
    world.carryOut(receivePayment(world.slice(), id, { reference: 'late', cents: 6_000 }, world.context()))
    expect(tasks(world)).toEqual(['Task: Pay back €60.00 to Enno Brackwater: paid although it was void.'])
  })

  test.each([['more than is open', 6_001, 'Only €60.00 of it is open.']])(
    'by hand of %s is refused',
    (_, cents, sentence) => {
      const world = worldWith()
      book(world)
      const refused = notePayment(world.slice(), first(world, 'deposit').id, cents, world.context())
      expect(refused).toMatchObject({ ok: false, problem: { sentence, field: 'cents' } })
    },
  )

  test('of what is paid or void is refused, and so is taking back twice', () => {
    const world = worldWith()
    const { id: bookingId } = book(world)
    const { id } = first(world, 'deposit')
    world.carryOut(notePayment(world.slice(), id, 6_000, world.context()))
    const again = notePayment(world.slice(), id, 1, world.context())
    expect(again).toMatchObject({ problem: { sentence: 'This invoice has been paid already.' } })
    const asked = { amountCents: 5_000, dueOn: null }
    world.carryOut(addInvoice(world.slice(), bookingId, asked, world.context()))
    const other = first(world, 'other')
    world.carryOut(voidInvoice(world.slice(), other.id, world.context()))
    const late = notePayment(world.slice(), other.id, 1, world.context())
    expect(late).toMatchObject({ problem: { sentence: 'This invoice is void.' } })
    const twice = voidInvoice(world.slice(), other.id, world.context())
    expect(twice).toMatchObject({ problem: { sentence: 'This invoice is void already.' } })
  })
})

const lifeStep = fc.oneof(
  fc.record({ do: fc.constant('pay' as const), cents: fc.integer({ min: 500, max: 25_000 }) }),
  fc.record({ do: fc.constant('move' as const), day: fc.integer({ min: 1, max: 28 }) }),
  fc.record({ do: fc.constant('cancel' as const) }),
  fc.record({ do: fc.constant('confirm' as const) }),
  fc.record({ do: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 90 }) }),
)

test('no payment reminder after a payment, after a cancellation without fee, or for what is void, in 300 random lives', () => {
  fc.assert(
    fc.property(fc.array(lifeStep, { minLength: 2, maxLength: 14 }), (life) => {
      const world = worldWith({ feePercent: 0 })
      book(world)
      let references = 0
      for (const step of life) {
        const { id, revision, status } = bookingOf(world)
        const open = world.facts().invoices.filter((one) => openOf(one) > 0)
        const [invoice] = open
        if (step.do === 'wait') world.advance(world.now() + step.hours * hourMs)
        else if (step.do === 'pay' && invoice) {
          const told = { reference: `r${(references += 1)}`, cents: step.cents }
          world.carryOut(receivePayment(world.slice(), invoice.id, told, world.context()))
        } else if (step.do === 'move' && status === 'confirmed') {
          const date = `2026-07-${String(step.day).padStart(2, '0')}`
          const moved = moveBooking(world.slice(), id, revision, times(date), () => 0, world.context())
          if (moved.ok) world.carryOut(moved)
        } else if (step.do === 'cancel' && status === 'confirmed') cancelNow(world)
        else if (step.do === 'confirm' && status === 'cancelled') {
          world.carryOut(confirmBooking(world.slice(), id, revision, world.context()))
        }
        const cancelledAt =
          bookingOf(world).status === 'cancelled' ? bookingOf(world).statusAt.cancelled : null
        for (const send of world.facts().sends) {
          const about = world.facts().invoices.find((one) => one.id === send.subject.id)
          if (!about || send.state !== 'sent') continue
          const ends = [about.paidAt, about.voidedAt, cancelledAt].filter((end) => end != null)
          for (const end of ends) expect(send.sentAt).toBeLessThanOrEqual(end)
        }
      }
      // Whatever happened: as much is asked for as the price, as long as it stands and was never paid too much.
      const standing = world.facts().invoices.filter(({ voidedAt }) => voidedAt === null)
      const asked = standing.reduce((sum, { amountCents }) => sum + amountCents, 0)
      if (bookingOf(world).status === 'confirmed') expect(asked).toBeLessThanOrEqual(20_000)
    }),
    { numRuns: 300 },
  )
})
