import { describe, expect, test } from '@jest/globals'
import { exampleStep } from '../rehearsal/exampleBusiness.ts'
import { purposeDefaults, rulesOf } from './purposes.ts'
import { spanWords, stepFault, writtenLengthMs } from './span.ts'

const before = {
  kind: 'elapsed',
  amount: 3,
  unit: 'hours',
  direction: 'before',
  anchor: { of: 'booking start' },
} as const

describe('spans', () => {
  test('are compared as written: a day 24 hours, a month 28 days', () => {
    expect(writtenLengthMs({ amount: 1, unit: 'days' })).toBe(writtenLengthMs({ amount: 24, unit: 'hours' }))
    expect(writtenLengthMs({ amount: 1, unit: 'months' })).toBe(writtenLengthMs({ amount: 4, unit: 'weeks' }))
  })

  test('read as people say them', () => {
    expect(spanWords({ amount: 1, unit: 'days' })).toBe('1 day')
    expect(spanWords({ amount: 3, unit: 'hours' })).toBe('3 hours')
  })
})

describe('a step', () => {
  test('whose lead is longer than its offset is refused', () => {
    const step = exampleStep({
      id: 'st_x',
      purpose: 'reminder',
      timing: before,
      lead: { amount: 4, unit: 'hours' },
    })
    expect(stepFault(step)).toMatch('longer than')
    expect(stepFault({ ...step, lead: { amount: 3, unit: 'hours' } })).toBeNull()
  })

  test('that is no before-step has no lead', () => {
    const step = exampleStep({
      id: 'st_x',
      purpose: 'reminder',
      timing: { kind: 'at once' },
      lead: { amount: 4, unit: 'hours' },
    })
    expect(stepFault(step)).toMatch('before its anchor')
  })

  test('follows its purpose where it says nothing else', () => {
    const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing: before })
    expect(rulesOf(step)).toEqual(purposeDefaults.reminder)
    expect(rulesOf({ ...step, ifLate: 'send now' }).ifLate).toBe('send now')
  })
})
