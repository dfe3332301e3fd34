import { describe, expect, test } from '@jest/globals'
import type { Client } from '../../model/client.ts'
import {
  at,
  exampleClient,
  examplePerson,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { priceOf } from '../../model/policy.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { dayMs } from '../../time/calendar.ts'
import { realZones } from '../../time/realZones.ts'
import { cancelBooking, makeBooking } from './bookingCommands.ts'
import { changeBooking, changeBookingInput, type ChangeBookingInput } from './bookingFacts.ts'

/* Who a booking is for, and what changes with that. */

const start = at(realZones, 'Europe/Berlin', '2026-05-14 09:00')
const contact = (id: string, firstName: string, email: string | null) => ({
  id,
  firstName,
  lastName: 'Brackwater',
  email,
  phone: '',
  isPrimary: false,
})
const client: Client = {
  ...exampleClient,
  contacts: [
    ...exampleClient.contacts,
    contact('ct_payer', 'Pia', 'pia@brackwater.example'),
    contact('ct_anna', 'Anna', 'together@brackwater.example'),
    contact('ct_bo', 'Bo', 'Together@brackwater.example'),
  ],
}
const evening = {
  kind: 'calendar',
  amount: 1,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime: '18:00',
} as const
const steps = [
  exampleStep({
    id: 'st_evening',
    purpose: 'reminder',
    timing: evening,
    recipients: [
      { to: 'who takes part', letterId: null },
      { to: 'who pays', letterId: 'lt_starter-confirmation' },
    ],
  }),
]

function booked(settings = exampleSettings(realZones, steps)): World {
  const world = createWorld(settings, client, start)
  const asked = {
    clientId: client.id,
    serviceId: exampleService.id,
    startLocal: '2026-05-20T19:00',
    endLocal: '2026-05-20T21:00',
    partySize: 2,
    status: 'confirmed' as const,
    personInChargeId: null,
  }
  world.carryOut(makeBooking(world.slice(), asked, () => 0, world.context()))
  return world
}

const bookingOf = (world: World) => {
  const [booking] = world.facts().bookings
  if (!booking) throw new Error('There is no booking')
  return booking
}
const same: ChangeBookingInput = {
  partySize: 2,
  personInChargeId: null,
  priceCents: null,
  people: { payerId: null, participantIds: [] },
  answers: [],
}
function change(world: World, part: Partial<ChangeBookingInput>, taken = 0) {
  const { id, revision } = bookingOf(world)
  return changeBooking(world.slice(), id, revision, { ...same, ...part }, () => taken, world.context())
}
const planned = (world: World) =>
  world
    .facts()
    .sends.filter(({ state }) => state === 'ready' || state === 'waiting')
    .map(({ recipientId, address, letterId }) => [recipientId, address, letterId])

describe('who takes part and who pays', () => {
  test('nobody named: the primary contact, once, though they are both', () => {
    expect(planned(booked())).toEqual([['ct_1', 'enno@brackwater.example', 'lt_starter-reminder']])
  })

  test('each kind has its letter; a couple with one address gets one copy that names both', () => {
    const world = booked()
    world.carryOut(change(world, { people: { payerId: 'ct_payer', participantIds: ['ct_anna', 'ct_bo'] } }))
    expect(planned(world)).toEqual([
      ['ct_anna', 'together@brackwater.example', 'lt_starter-reminder'],
      ['ct_payer', 'pia@brackwater.example', 'lt_starter-confirmation'],
    ])
    world.advance(start + 6 * dayMs)
    expect(world.outbox()).toHaveLength(2)
    expect(world.outbox().map(({ to }) => to.name)).toEqual([
      'Anna Brackwater and Bo Brackwater',
      'Pia Brackwater',
    ])
  })

  test('who is named no more gets nothing more', () => {
    const world = booked()
    world.carryOut(change(world, { people: { payerId: null, participantIds: ['ct_payer'] } }))
    world.carryOut(change(world, {}))
    expect(planned(world)).toEqual([['ct_1', 'enno@brackwater.example', 'lt_starter-reminder']])
  })
})

describe('other facts', () => {
  test('are kept with a sentence that says what is another', () => {
    const world = booked()
    const answers = [
      { question: 'Can you swim?', answer: 'Yes' },
      { question: 'Left out', answer: '' },
    ]
    world.carryOut(change(world, { partySize: 3, personInChargeId: examplePerson.id, answers }))
    expect(bookingOf(world)).toMatchObject({ partySize: 3, revision: 2, answers: [answers[0]] })
    expect(world.events().map(({ sentence }) => sentence)).toContain(
      'Booking changed: for 3 instead of 2, in charge now Ada Windermeer, other answers.',
    )
  })

  test.each<[string, Partial<ChangeBookingInput>, number, string, string]>([
    ['more people than seats are left', { partySize: 4 }, 1, 'only 3 of 4 seats left', 'partySize'],
    [
      'more people named than it is for',
      { partySize: 1, people: { payerId: null, participantIds: ['ct_anna', 'ct_bo'] } },
      0,
      '2 people are named, but it is for 1.',
      'partySize',
    ],
    [
      'somebody named twice',
      { people: { payerId: null, participantIds: ['ct_anna', 'ct_anna'] } },
      0,
      'named twice',
      'people',
    ],
    [
      'somebody who is no contact',
      { people: { payerId: 'ct_gone', participantIds: [] } },
      0,
      'no contact of the client any more',
      'people',
    ],
    [
      'somebody who is not in the team',
      { personInChargeId: 'pe_gone' },
      0,
      'no such person',
      'personInChargeId',
    ],
  ])('%s is refused at its field', (_, part, taken, sentence, field) => {
    const refused = change(booked(), part, taken)
    expect(refused).toMatchObject({ ok: false, problem: { field } })
    expect(refused.ok ? '' : refused.problem.sentence).toContain(sentence)
  })

  test('nothing different is said, and fewer people need no seats', () => {
    expect(change(booked(), {})).toMatchObject({ problem: { sentence: 'Nothing is different.' } })
    expect(change(booked(), { partySize: 1 }, 4).ok).toBe(true)
  })

  test('changed in another tab it is looked at again', () => {
    const world = booked()
    const { id, revision } = bookingOf(world)
    world.carryOut(cancelBooking(world.slice(), id, revision, world.context()))
    const late = changeBooking(
      world.slice(),
      id,
      revision,
      { ...same, partySize: 1 },
      () => 0,
      world.context(),
    )
    expect(late).toMatchObject({ problem: { code: 'changed meanwhile' } })
  })
})

test('a price agreed for one booking is what it costs, and what is asked for follows it', () => {
  const settings = exampleSettings(realZones)
  const paying = { deposit: { percent: 40, withinDays: 1 }, balanceDaysBefore: 2 }
  const price = { cents: 5_000, per: 'person' } as const
  const service = { ...exampleService, offer: { ...exampleService.offer, price, paying } }
  const world = booked({ ...settings, services: [service] })
  const asked = () => world.facts().invoices.map(({ reason, amountCents }) => [reason, amountCents])
  expect(asked()).toEqual([
    ['deposit', 4_000],
    ['balance', 6_000],
  ])
  world.carryOut(change(world, { priceCents: 9_000 }))
  expect(priceOf(service, bookingOf(world))).toBe(9_000)
  expect(asked()).toEqual([
    ['deposit', 4_000],
    ['balance', 5_000],
  ])
  // With more people it stays what was agreed; taken back, the service says what it costs.
  world.carryOut(change(world, { priceCents: 9_000, partySize: 3 }))
  expect(asked().at(-1)).toEqual(['balance', 5_000])
  world.carryOut(change(world, { priceCents: null, partySize: 3 }))
  expect(asked().at(-1)).toEqual(['balance', 11_000])
  expect(changeBookingInput.safeParse({ ...same, priceCents: -1 }).success).toBe(false)
})
