import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { alwaysOpen } from '../time/openTimes.ts'
import { realZones } from '../time/realZones.ts'
import { comparison, conditionFields, type Condition, type ConditionField } from '../model/condition.ts'
import { exampleBooking, exampleClient } from '../rehearsal/exampleBusiness.ts'
import { evaluate, type ConditionFacts } from './evaluate.ts'
import { neverHolds } from './never.ts'
import { conditionWords } from './words.ts'

const names = {
  serviceName: (id: string) => ({ sv_sunrise: 'Sunrise flight', sv_private: 'Private basket' })[id] ?? id,
}
const is = (field: ConditionField, value: string | number | boolean): Condition => ({
  field,
  comparison: 'is',
  value,
})

describe('a condition in words', () => {
  test.each<[string, Condition]>([
    [
      'the service is Sunrise flight or Private basket, and the invoice is not paid',
      {
        all: [
          { field: 'booking.service', comparison: 'is one of', value: ['sv_sunrise', 'sv_private'] },
          is('invoice.paid', false),
        ],
      },
    ],
    ['the invoice is paid', { field: 'invoice.paid', comparison: 'is not', value: false }],
    [
      'either a tag of the client is “VIP”, or (the booking is confirmed, and the number of people is at least 4)',
      {
        any: [
          is('client.tag', 'VIP'),
          {
            all: [
              is('booking.status', 'confirmed'),
              { field: 'booking.party size', comparison: 'is at least', value: 4 },
            ],
          },
        ],
      },
    ],
    [
      'the service is neither Sunrise flight nor Private basket',
      { field: 'booking.service', comparison: 'is none of', value: ['sv_sunrise', 'sv_private'] },
    ],
    [
      'it is not so that the client has answered since',
      { none: [is('since the run started: answered', true)] },
    ],
    ['the language of the client is German', is('client.language', 'de')],
    ['always', { all: [] }],
    ['never', { any: [] }],
  ])('%s', (words, condition) => {
    expect(conditionWords(condition, names)).toBe(words)
  })
})

const value = fc.oneof(
  fc.boolean(),
  fc.integer({ min: 0, max: 6 }),
  fc.constantFrom('confirmed', 'a', 'b', 'en'),
)
const aTest = fc.record({
  field: fc.constantFrom(...conditionFields),
  comparison: fc.constantFrom(...comparison.options),
  value: fc.oneof(value, fc.array(value, { maxLength: 3 })),
})
const { condition } = fc.letrec<{ condition: Condition }>((tie) => ({
  condition: fc.oneof(
    { depthSize: 'small' },
    aTest,
    fc.array(tie('condition'), { maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('condition'), { maxLength: 3 }).map((any) => ({ any })),
    fc.array(tie('condition'), { maxLength: 3 }).map((none) => ({ none })),
  ),
}))

const facts = fc
  .record({
    now: fc.integer({ min: 0, max: 10 }),
    tags: fc.subarray(['a', 'b', 'confirmed']),
    partySize: fc.integer({ min: 1, max: 6 }),
    hasBooking: fc.boolean(),
    language: fc.constantFrom('en' as const, 'de' as const),
  })
  .map(({ now, tags, partySize, hasBooking, language }): ConditionFacts => {
    const booking = hasBooking ? { ...exampleBooking(3_600_000 * 20, 0), partySize } : null
    const client = { ...exampleClient, tags, language }
    const bookings = booking ? [booking] : []
    const berlin = realZones.zone('Europe/Berlin')
    const clock = { zone: berlin, officeHours: alwaysOpen(berlin) }
    const none = { enquiry: null, invoice: null, happenings: [] }
    return { now, runStartedAt: 0, client, booking, bookings, clock, ...none }
  })

describe('a condition that can never hold', () => {
  test('is never one that holds for somebody', () => {
    fc.assert(
      fc.property(condition, facts, (asked, of) => {
        if (evaluate(asked, of).holds) expect(neverHolds(asked)).toBe(false)
      }),
      { numRuns: 2000 },
    )
  })

  test.each<[string, Condition]>([
    ['two values of one fact', { all: [is('booking.status', 'confirmed'), is('booking.status', 'missed')] }],
    [
      'a value that is excluded',
      { all: [is('booking.service', 'sv_1'), { none: [is('booking.service', 'sv_1')] }] },
    ],
    [
      'too much and too little',
      {
        all: [
          { field: 'booking.party size', comparison: 'is at least', value: 5 },
          { field: 'booking.party size', comparison: 'is at most', value: 3 },
        ],
      },
    ],
    [
      'less than it is',
      {
        all: [
          { field: 'booking.party size', comparison: 'is at least', value: 5 },
          { none: [{ field: 'booking.party size', comparison: 'is at least', value: 5 }] },
        ],
      },
    ],
    ['one of nothing', { any: [] }],
    [
      'a tag wanted and excluded',
      { all: [is('client.tag', 'VIP'), { field: 'client.tag', comparison: 'is not', value: 'VIP' }] },
    ],
    [
      'each way by itself',
      {
        any: [
          { all: [is('invoice.paid', true), is('invoice.paid', false)] },
          { all: [is('client.language', 'en'), is('client.language', 'de')] },
        ],
      },
    ],
  ])('%s', (_, asked) => {
    expect(neverHolds(asked)).toBe(true)
  })

  test.each<[string, Condition]>([
    ['two tags at once', { all: [is('client.tag', 'a'), is('client.tag', 'b')] }],
    ['a fact that may be missing', { none: [is('invoice.paid', true), is('invoice.paid', false)] }],
    ['one of two ways', { any: [{ any: [] }, is('client.language', 'de')] }],
  ])('but not: %s', (_, asked) => {
    expect(neverHolds(asked)).toBe(false)
  })
})
