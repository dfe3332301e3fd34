import { describe, expect, test } from '@jest/globals'
import { condition, type Condition } from '../model/condition.ts'
import { exampleBooking, exampleClient } from '../rehearsal/exampleBusiness.ts'
import { hourMs } from '../time/calendar.ts'
import { alwaysOpen } from '../time/openTimes.ts'
import { realZones } from '../time/realZones.ts'
import { evaluate, testWords, type ConditionFacts } from './evaluate.ts'

const facts: ConditionFacts = {
  now: 100 * hourMs,
  runStartedAt: 50 * hourMs,
  client: { ...exampleClient, tags: ['regular', 'family'] },
  booking: exampleBooking(130 * hourMs, 90 * hourMs),
  enquiry: null,
  invoice: null,
  bookings: [exampleBooking(130 * hourMs, 90 * hourMs)],
  happenings: [
    { kind: 'opened', name: '', at: 40 * hourMs },
    { kind: 'answered', name: '', at: 60 * hourMs },
    { kind: 'list joined', name: 'newsletter', at: 10 * hourMs },
  ],
  clock: { zone: realZones.zone('Europe/Berlin'), officeHours: alwaysOpen(realZones.zone('Europe/Berlin')) },
}

const ask = (field: string, comparison: string, value: unknown): Condition =>
  condition.parse({ field, comparison, value })
const answer = (asked: Condition) => evaluate(asked, facts).holds

describe('one test', () => {
  test.each([
    ['booking.status', 'is', 'confirmed', true],
    ['booking.status', 'is not', 'confirmed', false],
    ['booking.service', 'is one of', ['sv_lesson', 'sv_other'], true],
    ['booking.party size', 'is at least', 2, true],
    ['booking.party size', 'is at most', 1, false],
    ['booking.hours until start', 'is at least', 30, true],
    ['booking.hours between booking and start', 'is', 40, true],
    ['client.tag', 'is', 'family', true],
    ['client.tag', 'is none of', ['family', 'voucher'], false],
    ['client.list', 'is', 'newsletter', true],
    ['client.language', 'is', 'en', true],
    ['client.takes promotional mail', 'is', true, true],
    ['client.has a booking ahead', 'is', true, true],
    ['since the run started: answered', 'is', true, true],
    ['since the run started: opened', 'is', true, false],
    ['since the run started: booked', 'is', true, true],
    ['invoice.paid', 'is', true, false],
    ['invoice.paid', 'is not', true, true],
    ['enquiry.stage', 'is', 'offer', false],
  ])('%s %s %p: %p', (field, comparison, value, expected) => {
    expect(answer(ask(field, comparison, value))).toBe(expected)
  })
})

describe('tests together', () => {
  const yes = ask('client.language', 'is', 'en')
  const no = ask('client.language', 'is', 'de')

  test('all, any and none, nested', () => {
    expect(answer({ all: [yes, { any: [no, yes] }, { none: [no] }] })).toBe(true)
    expect(answer({ all: [yes, { none: [yes] }] })).toBe(false)
    expect(answer({ any: [no, no] })).toBe(false)
  })

  test('nothing in all or none holds, nothing in any does not', () => {
    expect(answer({ all: [] })).toBe(true)
    expect(answer({ none: [] })).toBe(true)
    expect(answer({ any: [] })).toBe(false)
  })

  test('the first that fails is named, with the fact', () => {
    const outcome = evaluate({ all: [yes, no] }, facts)
    expect(outcome).toMatchObject({ holds: false, because: no, fact: ['en'] })
    if (!outcome.holds && outcome.because) {
      expect(testWords(outcome.because, outcome.fact)).toBe('client.language is de: it is en.')
    }
    expect(testWords({ field: 'enquiry.stage', comparison: 'is', value: 'x' }, [])).toMatch('no value')
  })

  test('what is no condition is refused', () => {
    expect(condition.safeParse({ field: 'the weather', comparison: 'is', value: 'fine' }).success).toBe(false)
    expect(condition.safeParse({ all: [{ every: [] }] }).success).toBe(false)
  })
})
