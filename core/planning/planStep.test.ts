import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import type { MailStep } from '../model/step.ts'
import type { Timing } from '../model/timing.ts'
import {
  at,
  exampleBooking,
  exampleClient,
  exampleRun,
  exampleSettings,
  exampleStep,
} from '../rehearsal/exampleBusiness.ts'
import { hourMs, minuteMs } from '../time/calendar.ts'
import { firstOpenFrom } from '../time/openTimes.ts'
import { realZones } from '../time/realZones.ts'
import { leadMs } from '../sequences/lead.ts'
import { planClient, type PlannedSend } from './planClient.ts'
import { calendarsOf, factsOf, type Settings, type Slice } from './slice.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const settings = exampleSettings(realZones)

const daysBefore = (amount: number, atTime: string | null): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})
const hoursBefore = (amount: number): Timing => ({
  kind: 'elapsed',
  amount,
  unit: 'hours',
  direction: 'before',
  anchor: { of: 'booking start' },
})

interface Case {
  readonly step: MailStep
  readonly slice: Slice
  readonly madeAt: number
  readonly startAt: number
}

function caseOf(
  step: MailStep,
  startAt: number,
  madeAt: number,
  of: Settings = settings,
  zoneName = 'Europe/Berlin',
): Case {
  const booking = exampleBooking(startAt, madeAt)
  const own = exampleSettings(realZones, [step])
  const services = own.services.map((service) => ({ ...service, placeZone: zoneName }))
  const run = exampleRun({ subject: { kind: 'booking', id: booking.id }, startedAt: madeAt })
  const facts = factsOf(exampleClient, { bookings: [booking], runs: [run] })
  return { step, slice: { settings: { ...own, business: of.business, services }, facts }, madeAt, startAt }
}

function planStep({ slice, madeAt }: Case): PlannedSend {
  const [plan] = planClient(slice, madeAt)
  if (!plan) throw new Error('nothing planned')
  return plan
}

function planned(timing: Timing, start: string, made: string, part: Partial<MailStep> = {}) {
  const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing, ...part })
  return planStep(caseOf(step, moment(start), moment(made)))
}

const closedOn = (...dates: string[]): Settings => ({
  ...settings,
  business: { ...settings.business, sendingHours: { ...settings.business.sendingHours, closedDates: dates } },
})

describe('the wanted time', () => {
  test('1 day before at 18:00 is the evening before', () => {
    expect(planned(daysBefore(1, '18:00'), '2026-05-16 19:00', '2026-05-14 07:40').dueAt).toBe(
      moment('2026-05-15 18:00'),
    )
  })

  test('days without a time of day keep the reading across the clock change of 29 March 2026', () => {
    expect(planned(daysBefore(1, null), '2026-03-29 10:00', '2026-03-01 09:00').wantedAt).toBe(
      moment('2026-03-28 10:00'),
    )
  })

  test('hours are exact across the same change', () => {
    expect(planned(hoursBefore(24), '2026-03-29 10:00', '2026-03-01 09:00').wantedAt).toBe(
      moment('2026-03-28 09:00'),
    )
  })

  test('an after-step whose time of day falls before its anchor takes the next day', () => {
    const timing: Timing = {
      kind: 'calendar',
      amount: 0,
      unit: 'days',
      direction: 'after',
      anchor: { of: 'booking end' },
      atTime: '10:00',
    }
    const plan = planned(timing, '2026-05-16 19:00', '2026-05-14 07:40', { purpose: 'follow-up' })
    expect(plan.dueAt).toBe(moment('2026-05-17 10:00'))
  })

  test('offsets and times of day run on the clock of the place', () => {
    const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing: daysBefore(1, '18:00') })
    const start = at(realZones, 'Atlantic/Azores', '2026-05-16 17:30')
    const plan = planStep(caseOf(step, start, moment('2026-05-01 09:00'), settings, 'Atlantic/Azores'))
    expect(plan.wantedAt).toBe(at(realZones, 'Atlantic/Azores', '2026-05-15 18:00'))
    expect(plan.wantedAt).toBe(moment('2026-05-15 20:00'))
  })
})

describe('sending hours', () => {
  test('a reminder wanted in the night goes at the last open moment before', () => {
    const plan = planned(hoursBefore(3), '2026-05-16 05:30', '2026-05-01 09:00')
    expect(plan.wantedAt).toBe(moment('2026-05-16 02:30'))
    expect(plan.dueAt).toBe(moment('2026-05-15 20:00'))
    expect(plan.trace.map(({ rule, code }) => [rule, code])).toEqual([
      ['wanted', 'offset'],
      ['sending hours', 'moved earlier'],
    ])
  })

  test('a confirmation ignores them', () => {
    const plan = planned({ kind: 'at once' }, '2026-05-16 19:00', '2026-05-14 03:10', {
      purpose: 'confirmation',
    })
    expect(plan.dueAt).toBe(moment('2026-05-14 03:10'))
  })

  test('what follows up goes later: due at 20:30, it goes at 08:00 the next day', () => {
    const timing: Timing = {
      kind: 'elapsed',
      amount: 90,
      unit: 'minutes',
      direction: 'after',
      anchor: { of: 'booking end' },
    }
    const plan = planned(timing, '2026-05-16 17:00', '2026-05-14 07:40', { purpose: 'follow-up' })
    expect(plan.dueAt).toBe(moment('2026-05-17 08:00'))
  })

  test('a set time of day on a closed day takes the nearest open day on that side at that time', () => {
    const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing: daysBefore(1, '18:00') })
    const facts = caseOf(step, moment('2026-05-17 10:00'), moment('2026-05-01 09:00'), closedOn('2026-05-16'))
    expect(planStep(facts).dueAt).toBe(moment('2026-05-15 18:00'))
  })

  test('nothing open within 60 days: dropped, and it says so', () => {
    const never: Settings = {
      ...settings,
      business: {
        ...settings.business,
        sendingHours: { weekly: Array.from({ length: 7 }, () => []), holidays: 'open', closedDates: [] },
      },
    }
    const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing: daysBefore(1, '18:00') })
    const plan = planStep(caseOf(step, moment('2026-05-17 10:00'), moment('2026-05-01 09:00'), never))
    expect(plan.dueAt).toBeNull()
    expect(plan.dropped?.code).toBe('no open moment')
  })
})

describe('the lead', () => {
  test('is the smaller of an hour and half the offset', () => {
    const step = (timing: Timing) => exampleStep({ id: 'st_x', purpose: 'reminder', timing })
    expect(leadMs(step(hoursBefore(3)))).toBe(hourMs)
    expect(leadMs(step(hoursBefore(1)))).toBe(30 * minuteMs)
    expect(leadMs(step(daysBefore(0, '09:00')))).toBe(0)
  })

  test('a step that says later, pushed beyond it, takes the last open moment up to it', () => {
    const plan = planned(hoursBefore(3), '2026-05-16 08:30', '2026-05-01 09:00', { sendingHours: 'later' })
    expect(plan.notAfter).toBe(moment('2026-05-16 07:30'))
    expect(plan.dueAt).toBe(moment('2026-05-15 20:00'))
    expect(plan.trace.at(-1)?.code).toBe('last open moment')
  })

  test('a step of its own lead keeps that', () => {
    const plan = planned(hoursBefore(3), '2026-05-16 19:00', '2026-05-01 09:00', {
      lead: { amount: 2, unit: 'hours' },
    })
    expect(plan.notAfter).toBe(moment('2026-05-16 17:00'))
  })

  test('a confirmation of a booking that is over is dropped', () => {
    const facts = caseOf(
      exampleStep({ id: 'st_x', purpose: 'confirmation', timing: { kind: 'at once' } }),
      moment('2026-05-16 10:00'),
      moment('2026-05-16 13:00'),
    )
    expect(planStep(facts).dropped?.code).toBe('too late')
  })
})

describe('lateness', () => {
  test('a reminder whose wanted time was past when booked is dropped', () => {
    const plan = planned(daysBefore(1, '18:00'), '2026-05-15 10:00', '2026-05-14 19:00')
    expect(plan.dueAt).toBeNull()
    expect(plan.dropped?.code).toBe('late')
  })

  test('a preparation goes at once instead, if there is still time', () => {
    const plan = planned(daysBefore(1, '18:00'), '2026-05-15 10:00', '2026-05-14 19:00', {
      purpose: 'preparation',
    })
    expect(plan.dueAt).toBe(moment('2026-05-14 19:00'))
  })

  test('a reminder still wanted ahead but moved into the past takes the first open moment', () => {
    const plan = planned(hoursBefore(3), '2026-05-16 12:00', '2026-05-16 07:30', { sendingHours: 'earlier' })
    expect(plan.wantedAt).toBe(moment('2026-05-16 09:00'))
    const nightly = planned(hoursBefore(3), '2026-05-16 10:30', '2026-05-16 06:00')
    expect(nightly.wantedAt).toBe(moment('2026-05-16 07:30'))
    expect(nightly.dueAt).toBe(moment('2026-05-16 08:00'))
    expect(nightly.trace.at(-1)).toMatchObject({ rule: 'lateness', code: 'first open moment' })
  })

  test('booked Friday 20:30, after hours, for Saturday 08:00: no reminder, with the reason', () => {
    const plan = planned(hoursBefore(3), '2026-05-16 08:00', '2026-05-15 20:30')
    expect(plan.dueAt).toBeNull()
    expect(plan.dropped?.code).toBe('no open moment')
  })
})

describe('whatever the facts', () => {
  const anyStep = fc
    .record({
      timing: fc.oneof(
        fc
          .record({ amount: fc.integer({ min: 1, max: 96 }), atTime: fc.constant(null) })
          .map(({ amount }) => hoursBefore(amount)),
        fc
          .record({
            amount: fc.integer({ min: 0, max: 30 }),
            atTime: fc.option(fc.constantFrom('00:30', '07:59', '09:00', '18:00', '23:15')),
          })
          .map(({ amount, atTime }) => daysBefore(amount, atTime)),
      ),
      purpose: fc.constantFrom('reminder', 'preparation', 'payment'),
      sendingHours: fc.option(fc.constantFrom('earlier', 'later', 'ignore')),
    })
    .map((part) => exampleStep({ id: 'st_x', ...part }))
  const origin = moment('2026-03-20 00:00')
  const anyFacts = fc
    .record({
      step: anyStep,
      lead: fc.integer({ min: 1, max: 40 * 24 * 60 }),
      made: fc.integer({ min: 0, max: 30 * 24 * 60 }),
    })
    .map(({ step, lead, made }) => {
      const madeAt = origin + made * minuteMs
      return caseOf(step, madeAt + lead * minuteMs, madeAt)
    })

  test('after all rules a send satisfies all of them or is dropped with a reason', () => {
    fc.assert(
      fc.property(anyFacts, (facts) => {
        const plan = planStep(facts)
        if (plan.dueAt === null) {
          expect(plan.dropped?.sentence).toBeTruthy()
          return
        }
        expect(plan.dueAt).toBeGreaterThanOrEqual(plan.notBefore ?? 0)
        if (plan.notAfter !== null) expect(plan.dueAt).toBeLessThanOrEqual(plan.notAfter)
        const hours = facts.step.sendingHours
        if (hours !== 'ignore')
          expect(firstOpenFrom(calendarsOf(settings).sending, plan.dueAt)).toBe(plan.dueAt)
      }),
      { numRuns: 2000 },
    )
  })

  test('no before-step is ever later than its anchor less its lead', () => {
    fc.assert(
      fc.property(anyFacts, (facts) => {
        const { dueAt } = planStep(facts)
        if (dueAt !== null) expect(dueAt).toBeLessThanOrEqual(facts.startAt - leadMs(facts.step))
      }),
      { numRuns: 1000 },
    )
  })

  test('planning twice gives the same plan', () => {
    fc.assert(
      fc.property(anyFacts, (facts) => {
        expect(planStep(facts)).toEqual(planStep(facts))
      }),
      { numRuns: 200 },
    )
  })
})
