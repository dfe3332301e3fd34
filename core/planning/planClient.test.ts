import { describe, expect, test } from '@jest/globals'
import { newInvoice, type Invoice } from '../model/dealings.ts'
import type { Send } from '../model/send.ts'
import type { Run } from '../model/sequence.ts'
import type { Subject } from '../model/subject.ts'
import type { MailStep, Step } from '../model/step.ts'
import type { Anchor, Timing } from '../model/timing.ts'
import {
  at,
  exampleBooking,
  exampleClient,
  examplePerson,
  exampleRun,
  exampleSend,
  exampleSettings,
  exampleStep,
} from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { planClient, type PlannedSend } from './planClient.ts'
import { factsOf, type ClientFacts, type Settings, type Slice } from './slice.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const start: Anchor = { of: 'booking start' }

const before = (
  amount: number,
  unit: 'days' | 'weeks' | 'working days',
  atTime: string | null,
  anchor: Anchor = start,
): Timing => ({
  kind: 'calendar',
  amount,
  unit,
  direction: 'before',
  anchor,
  atTime,
})
const hoursBefore = (amount: number, anchor: Anchor = start): Timing => ({
  kind: 'elapsed',
  amount,
  unit: 'hours',
  direction: 'before',
  anchor,
})
const afterPrevious = (
  amount: number,
  unit: 'days' | 'hours' | 'business hours',
  atTime: string | null = null,
): Timing => ({
  kind: 'after previous',
  amount,
  unit,
  atTime,
})

const runOf = (subject: Subject, startedAt: number, id = 'ru_1'): Run =>
  exampleRun({ id, subject, startedAt })

interface World {
  readonly steps: readonly Step[]
  readonly facts?: Partial<ClientFacts>
  readonly business?: Partial<Settings['business']>
  readonly people?: Settings['people']
  readonly now: string
}

function plan({ steps, facts, business, people, now }: World): readonly PlannedSend[] {
  const settings = exampleSettings(realZones, steps)
  const slice: Slice = {
    settings: {
      ...settings,
      business: { ...settings.business, ...business },
      people: people ?? settings.people,
    },
    facts: factsOf(exampleClient, facts),
  }
  return planClient(slice, moment(now))
}

const step = (id: string, purpose: MailStep['purpose'], timing: Timing, part: Partial<MailStep> = {}) =>
  exampleStep({ id: `st_${id}`, purpose, timing, ...part })

function bookedAt(startLocal: string, madeLocal: string): Partial<ClientFacts> {
  const booking = exampleBooking(moment(startLocal), moment(madeLocal))
  return { bookings: [booking], runs: [runOf({ kind: 'booking', id: booking.id }, moment(madeLocal))] }
}

const dues = (planned: readonly PlannedSend[]) =>
  planned.map((one) => [one.step.id.slice(3), one.dueAt ?? one.dropped?.code ?? one.awaits?.code])

const stored = exampleSend

describe('two reminders of one booking', () => {
  const ladder = [
    step('evening', 'reminder', before(1, 'days', '18:00')),
    step('three', 'reminder', hoursBefore(3)),
  ]

  test('the 3-hour one before 05:30 would go the evening before: the evening call at 18:00 then stands alone', () => {
    const planned = plan({
      steps: ladder,
      facts: bookedAt('2026-05-16 05:30', '2026-05-01 09:00'),
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['evening', moment('2026-05-15 18:00')],
      ['three', 'two reminders'],
    ])
  })

  test.each([
    ['16:00', 'two reminders'],
    ['15:59', moment('2026-05-15 20:00')],
  ])('within four hours, the fourth included: beside the call at %s', (atTime, three) => {
    const planned = plan({
      steps: [step('evening', 'reminder', before(1, 'days', atTime)), ...ladder.slice(1)],
      facts: bookedAt('2026-05-16 05:30', '2026-05-01 09:00'),
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['evening', moment(`2026-05-15 ${atTime}`)],
      ['three', three],
    ])
  })

  test('both stay where no rule moved either, however close they are', () => {
    const close = [step('three', 'reminder', hoursBefore(3)), step('one', 'reminder', hoursBefore(1))]
    const planned = plan({
      steps: close,
      facts: bookedAt('2026-05-16 15:00', '2026-05-01 09:00'),
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['three', moment('2026-05-16 12:00')],
      ['one', moment('2026-05-16 14:00')],
    ])
  })

  test('one that has gone for this time stays; the other is dropped', () => {
    const facts = bookedAt('2026-05-16 05:30', '2026-05-01 09:00')
    const [, three] = plan({ steps: [...ladder].reverse(), facts, now: '2026-05-01 09:00' })
    expect(three?.step.id).toBe('st_evening')
    const early = plan({
      steps: ladder.slice(1),
      facts,
      now: '2026-05-01 09:00',
    })[0]
    if (!early) throw new Error('nothing planned')
    const planned = plan({
      steps: ladder,
      facts: { ...facts, sends: [stored(early, {})] },
      now: '2026-05-15 17:00',
    })
    expect(dues(planned)).toEqual([
      ['evening', 'two reminders'],
      ['three', moment('2026-05-15 20:00')],
    ])
  })
})

describe('no burst', () => {
  test('of several that come late at once only the one wanted last goes', () => {
    const steps = [
      step('week', 'preparation', before(1, 'weeks', '10:00')),
      step('three', 'preparation', before(3, 'days', '10:00')),
      step('one', 'preparation', before(1, 'days', '10:00')),
    ]
    const planned = plan({
      steps,
      facts: bookedAt('2026-05-16 15:00', '2026-05-14 09:00'),
      now: '2026-05-14 09:00',
    })
    expect(dues(planned)).toEqual([
      ['week', 'burst'],
      ['three', moment('2026-05-14 09:00')],
      ['one', moment('2026-05-15 10:00')],
    ])
  })
})

describe('after the previous step', () => {
  const ladder = [
    step('answer', 'follow-up', { kind: 'at once' }, { sendingHours: 'ignore' }),
    step('second', 'follow-up', afterPrevious(3, 'days', '10:00')),
    step('farewell', 'follow-up', afterPrevious(7, 'days', '10:00')),
  ]
  const facts: Partial<ClientFacts> = {
    runs: [runOf({ kind: 'client', id: exampleClient.id }, moment('2026-05-11 18:00'))],
  }

  test('what has no moment yet is expected, with an estimate for showing', () => {
    const planned = plan({ steps: ladder, facts, now: '2026-05-11 18:00' })
    expect(dues(planned)).toEqual([
      ['answer', moment('2026-05-11 18:00')],
      ['second', 'previous step'],
      ['farewell', 'previous step'],
    ])
    expect(planned[1]?.estimateAt).toBe(moment('2026-05-14 10:00'))
    expect(planned[2]?.estimateAt).toBe(moment('2026-05-21 10:00'))
  })

  test('it counts from the moment the previous one went, and the next from that', () => {
    const [answer] = plan({ steps: ladder, facts, now: '2026-05-11 18:00' })
    if (!answer) throw new Error('nothing planned')
    const sends = [stored(answer, { sentAt: moment('2026-05-12 09:00') })]
    const planned = plan({ steps: ladder, facts: { ...facts, sends }, now: '2026-05-12 09:00' })
    expect(dues(planned).slice(1)).toEqual([
      ['second', moment('2026-05-15 10:00')],
      ['farewell', 'previous step'],
    ])
  })

  test('one that failed does not count until a person says so', () => {
    const [answer] = plan({ steps: ladder, facts, now: '2026-05-11 18:00' })
    if (!answer) throw new Error('nothing planned')
    const sends = [stored(answer, { state: 'failed', sentAt: null })]
    expect(dues(plan({ steps: ladder, facts: { ...facts, sends }, now: '2026-05-12 09:00' }))[1]).toEqual([
      'second',
      'previous step',
    ])
  })

  test('one skipped counts from the later of that decision and its wanted time', () => {
    const steps = [
      step('offer', 'follow-up', before(0, 'days', '09:00', { of: 'booking start' })),
      step('next', 'follow-up', afterPrevious(2, 'days')),
    ]
    const booked = bookedAt('2026-05-20 10:00', '2026-05-11 18:00')
    const [offer] = plan({ steps, facts: booked, now: '2026-05-11 18:00' })
    if (!offer) throw new Error('nothing planned')
    const skipped = stored(offer, { state: 'skipped', sentAt: null, stateSince: moment('2026-05-12 08:00') })
    const planned = plan({ steps, facts: { ...booked, sends: [skipped] }, now: '2026-05-12 08:00' })
    expect(dues(planned)[1]).toEqual(['next', moment('2026-05-22 09:00')])
  })
})

describe('a repeat', () => {
  // Common practice, no source: a filing reminder 21 days before it is due, at 09:00, not on weekends, every
  // 2 days until the papers are in.
  const due: Anchor = { of: 'invoice due' }
  const filing = step('filing', 'payment', before(21, 'days', '09:00', due), {
    repeat: {
      every: { amount: 2, unit: 'days' },
      untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
      untilAnchor: due,
      atMost: null,
    },
  })
  const asked = { id: 'in_1', clientId: exampleClient.id, bookingId: null, amountCents: 20_000 }
  const invoice = newInvoice({ ...asked, dueOn: '2026-06-05', reason: 'other' }, moment('2026-05-01 09:00'))
  const weekdays = {
    sendingHours: {
      weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '08:00', to: '17:00' }] : [])),
      holidays: 'open' as const,
      closedDates: [],
    },
  }
  const factsOf = (sends: readonly Send[], part: Partial<Invoice> = {}): Partial<ClientFacts> => ({
    invoices: [{ ...invoice, ...part }],
    runs: [runOf({ kind: 'invoice', id: 'in_1' }, invoice.issuedAt)],
    sends,
  })
  const world = (sends: readonly Send[], now: string, part: Partial<Invoice> = {}) =>
    plan({ steps: [filing], facts: factsOf(sends, part), business: weekdays, now })

  /** Plays the repeat: each planned one goes at its time, until nothing more is planned or a number has gone. */
  function played(count: number): { times: number[]; sends: Send[] } {
    const sends: Send[] = []
    const times: number[] = []
    while (times.length < count) {
      const next = world(sends, '2026-05-01 09:00').find(
        (one) => one.dueAt !== null && !sends.some(({ occurrence }) => occurrence === one.occurrence),
      )
      if (!next?.dueAt) break
      times.push(next.dueAt)
      sends.push(stored(next, {}))
    }
    return { times, sends }
  }

  test('counts on from the day it went where a closed day lay between, and keeps its time of day', () => {
    expect(played(4).times).toEqual([
      moment('2026-05-15 09:00'),
      moment('2026-05-18 09:00'),
      moment('2026-05-20 09:00'),
      moment('2026-05-22 09:00'),
    ])
  })

  test('ends at the due date', () => {
    const { times } = played(50)
    expect(times.at(-1)).toBe(moment('2026-06-05 09:00'))
  })

  test('once the fact is there the pending one is void', () => {
    const { sends } = played(2)
    const planned = world(sends, '2026-05-19 10:00', { paidAt: moment('2026-05-19 09:30') })
    expect(planned.map(({ occurrence }) => occurrence)).toEqual([0, 1])
  })

  test('without an end it is refused', () => {
    const endless = {
      every: { amount: 1, unit: 'days' as const },
      untilCondition: null,
      untilAnchor: null,
      atMost: null,
    }
    expect(() => step('x', 'payment', { kind: 'at once' }, { repeat: endless })).toThrow(
      'A repeat needs an end',
    )
  })

  test('monthly from the 31st clamps and comes back', () => {
    const monthly = step(
      'monthly',
      'follow-up',
      { kind: 'at once' },
      {
        usefulFor: { amount: 1, unit: 'years' },
        repeat: { every: { amount: 1, unit: 'months' }, untilCondition: null, untilAnchor: null, atMost: 4 },
      },
    )
    const facts: Partial<ClientFacts> = {
      runs: [runOf({ kind: 'client', id: exampleClient.id }, moment('2026-01-31 10:00'))],
    }
    const sends: Send[] = []
    for (let count = 0; count < 4; count += 1) {
      const next = plan({ steps: [monthly], facts: { ...facts, sends }, now: '2026-01-31 10:00' }).at(-1)
      if (!next) throw new Error('nothing planned')
      sends.push(stored(next, {}))
    }
    expect(sends.map(({ sentAt }) => sentAt)).toEqual([
      moment('2026-01-31 10:00'),
      moment('2026-02-28 10:00'),
      moment('2026-03-31 10:00'),
      moment('2026-04-30 10:00'),
    ])
  })
})

describe('dates without a time of day', () => {
  const asked = { id: 'in_1', clientId: exampleClient.id, bookingId: null, amountCents: 20_000 }
  const issuedAt = moment('2026-05-01 09:00')
  const invoice: Invoice = {
    ...newInvoice({ ...asked, dueOn: null, reason: 'other' }, issuedAt),
    dueSetAt: null,
  }
  const reminder = step('due', 'payment', before(3, 'days', '09:00', { of: 'invoice due' }))
  const facts = (part: Partial<Invoice>): Partial<ClientFacts> => ({
    invoices: [{ ...invoice, ...part }],
    runs: [runOf({ kind: 'invoice', id: 'in_1' }, invoice.issuedAt)],
  })

  test('an anchor without a value is no error: the step is expected and says what it waits for', () => {
    const [planned] = plan({ steps: [reminder], facts: facts({}), now: '2026-05-01 09:00' })
    expect(planned).toMatchObject({ dueAt: null, awaits: { sentence: 'Waits for the due date.' } })
  })

  test('once it has one the step is planned, and a payment is of use until the end of that day', () => {
    const part = { dueOn: '2026-05-20', dueSetAt: moment('2026-05-02 09:00') }
    const [planned] = plan({ steps: [reminder], facts: facts(part), now: '2026-05-02 09:00' })
    expect(planned).toMatchObject({
      anchorValue: '2026-05-20',
      dueAt: moment('2026-05-17 09:00'),
      notAfter: moment('2026-05-21 00:00') - 1,
    })
  })
})

describe('every year', () => {
  const birthday = step('wish', 'occasion', {
    kind: 'yearly',
    label: 'birthday',
    daysBefore: 0,
    offset: null,
    atTime: '07:00',
  })
  const born = (monthDay: string) => ({
    client: { ...exampleClient, namedDates: [{ label: 'birthday', monthDay, year: null }] },
    runs: [runOf({ kind: 'client', id: exampleClient.id }, moment('2026-05-14 12:00'))],
  })

  test('within waking hours, on the day itself', () => {
    expect(dues(plan({ steps: [birthday], facts: born('06-01'), now: '2026-05-14 12:00' }))).toEqual([
      ['wish', moment('2026-06-01 08:00')],
    ])
  })

  test('29 February falls on the 28th in a common year; the year after follows once it has ended', () => {
    const facts = born('02-29')
    const [wish] = plan({ steps: [birthday], facts, now: '2026-05-14 12:00' })
    expect(wish).toMatchObject({ dueAt: moment('2027-02-28 08:00'), occurrence: 2027 })
    if (!wish) throw new Error('nothing planned')
    const later = plan({
      steps: [birthday],
      facts: { ...facts, sends: [stored(wish, {})] },
      now: '2027-03-01 09:00',
    })
    expect(later.at(-1)).toMatchObject({ dueAt: moment('2028-02-29 08:00'), occurrence: 2028 })
  })

  test('a client without that date has the step expected', () => {
    expect(
      dues(plan({ steps: [birthday], facts: { runs: born('06-01').runs }, now: '2026-05-14 12:00' })),
    ).toEqual([['wish', 'no value yet']])
  })
})

describe('several sessions', () => {
  const sessions = ['2026-05-20 10:00', '2026-05-27 10:00', '2026-06-03 10:00'].map((local) => ({
    startAt: moment(local),
    endAt: moment(local) + 3_600_000,
  }))
  const facts = (): Partial<ClientFacts> => {
    const booked = bookedAt('2026-05-20 10:00', '2026-05-01 09:00')
    return { ...booked, bookings: (booked.bookings ?? []).map((booking) => ({ ...booking, sessions })) }
  }
  const on = (session: 'each' | 'first' | 'last') =>
    plan({
      steps: [step('eve', 'reminder', before(1, 'days', '18:00', { of: 'booking start', session }))],
      facts: facts(),
      now: '2026-05-01 09:00',
    }).map(({ dueAt, occurrence }) => [occurrence, dueAt])

  test('each, the first or the last, as the step says', () => {
    expect(on('each')).toEqual([
      [0, moment('2026-05-19 18:00')],
      [1, moment('2026-05-26 18:00')],
      [2, moment('2026-06-02 18:00')],
    ])
    expect(on('first')).toEqual([[0, moment('2026-05-19 18:00')]])
    expect(on('last')).toEqual([[2, moment('2026-06-02 18:00')]])
  })
})

describe('crowding', () => {
  const offer = (id: string, atTime: string, priority: number) =>
    step(id, 'promotional', before(2, 'days', atTime), { priority, ifLate: 'send now' })

  test('one promotional message a day, the one with the better priority first', () => {
    const steps = [offer('second', '09:00', 5), offer('first', '10:00', 1)]
    const planned = plan({
      steps,
      facts: bookedAt('2026-05-20 15:00', '2026-05-01 09:00'),
      business: { promotionalGapHours: 2 },
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['second', moment('2026-05-19 08:00')],
      ['first', moment('2026-05-18 10:00')],
    ])
    expect(planned[0]?.trace.at(-1)?.rule).toBe('crowding')
  })

  test("a colleague's copy is none of the client's messages: it crowds nothing and is not crowded", () => {
    const copy = step('copy', 'promotional', before(2, 'days', '10:00'), {
      ifLate: 'send now',
      recipients: [{ to: 'copy to self', letterId: null }],
    })
    const planned = plan({
      steps: [offer('own', '09:00', 5), copy],
      facts: bookedAt('2026-05-20 15:00', '2026-05-01 09:00'),
      business: { promotionalGapHours: 2 },
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['own', moment('2026-05-18 09:00')],
      ['copy', moment('2026-05-18 10:00')],
    ])
  })

  test('a distance to every service message, which stays where it is', () => {
    const steps = [step('call', 'reminder', before(2, 'days', '10:00')), offer('offer', '11:00', 5)]
    const planned = plan({
      steps,
      facts: bookedAt('2026-05-20 15:00', '2026-05-01 09:00'),
      business: { promotionalGapHours: 6 },
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)).toEqual([
      ['call', moment('2026-05-18 10:00')],
      ['offer', moment('2026-05-18 16:00')],
    ])
  })

  test('with no moment left before its end it is dropped, and says so', () => {
    const steps = [step('call', 'reminder', hoursBefore(4)), step('late', 'promotional', hoursBefore(3))]
    const planned = plan({
      steps,
      facts: bookedAt('2026-05-20 15:00', '2026-05-01 09:00'),
      business: { promotionalGapHours: 24 },
      now: '2026-05-01 09:00',
    })
    expect(dues(planned)[1]).toEqual(['late', 'crowded out'])
  })
})

describe('recipients', () => {
  const two = {
    ...exampleClient,
    contacts: [
      ...exampleClient.contacts,
      {
        id: 'ct_2',
        firstName: 'Rike',
        lastName: '',
        email: 'ENNO@brackwater.example',
        phone: '',
        isPrimary: false,
      },
      {
        id: 'ct_3',
        firstName: 'Jasper',
        lastName: '',
        email: 'jasper@brackwater.example',
        phone: '',
        isPrimary: false,
      },
    ],
  }

  test('all contacts get one copy an address', () => {
    const steps = [
      step('eve', 'reminder', before(1, 'days', '18:00'), {
        recipients: [{ to: 'all contacts', letterId: null }],
      }),
    ]
    const facts = { ...bookedAt('2026-05-20 15:00', '2026-05-01 09:00'), client: two }
    const planned = plan({ steps, facts, now: '2026-05-01 09:00' })
    expect(planned.map(({ recipient }) => recipient.id)).toEqual(['ct_1', 'ct_3'])
  })

  test('one colleague by name gets it, and the business once the colleague has left', () => {
    const steps = [
      step('eve', 'reminder', before(1, 'days', '18:00'), {
        recipients: [{ to: 'person', personId: 'pe_ilse', letterId: null }],
      }),
    ]
    const ilse = { ...examplePerson, id: 'pe_ilse', name: 'Ilse', email: 'ilse@kiteworks.example' }
    const facts = bookedAt('2026-05-20 15:00', '2026-05-01 09:00')
    const whoGets = (isActive: boolean) =>
      plan({ steps, facts, now: '2026-05-01 09:00', people: [{ ...ilse, isActive }] }).map(
        ({ recipient: { id, email } }) => [id, email],
      )
    expect(whoGets(true)).toEqual([['pe_ilse', 'ilse@kiteworks.example']])
    expect(whoGets(false)).toEqual([['business', exampleSettings(realZones).business.senderAddress]])
  })
})
