import { describe, expect, test } from '@jest/globals'
import type { Timing } from '../model/timing.ts'
import { exampleSettings, exampleStep } from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { sendingsOf } from './sendingsOfLetter.ts'

const office = {
  weekly: [1, 2, 3, 4, 5, 6, 7].map((day) => (day < 6 ? [{ from: '08:00', to: '17:00' }] : [])),
  holidays: 'open' as const,
  closedDates: [],
}

function sendingOf(timing: Timing) {
  const step = exampleStep({ id: 'st_x', purpose: 'reminder', timing, letterId: 'lt_x' })
  const settings = exampleSettings(realZones, [step])
  return sendingsOf({ ...settings, business: { ...settings.business, officeHours: office } }, 'lt_x')[0]
}

const before = (amount: number, unit: 'days' | 'weeks' | 'months', atTime: string | null): Timing => ({
  kind: 'calendar',
  amount,
  unit,
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})

describe('how a letter goes out', () => {
  test.each([
    [before(3, 'days', '18:00'), '3 days before, at 18:00', 3, 'never'],
    [before(2, 'weeks', '09:00'), '2 weeks before, at 09:00', 14, 'sometimes'],
    [before(1, 'months', '17:00'), '1 months before, at 17:00', null, 'never'],
    [{ ...before(2, 'days', '08:00'), direction: 'after' }, '2 days after, at 08:00', -2, 'sometimes'],
    [{ kind: 'at once' }, 'at once, at whatever hour', null, 'sometimes'],
    [{ kind: 'evening', atTime: '18:30' }, 'in the evening, at 18:30', null, 'never'],
  ] as [Timing, string, number | null, string][])('%j', (timing, when, daysAhead, officeOpen) => {
    expect(sendingOf(timing)).toEqual({
      sequenceName: 'Before a lesson',
      about: 'booking',
      when,
      daysAhead,
      officeOpen,
    })
  })

  test('the office open around the clock is always open', () => {
    const settings = exampleSettings(realZones, [
      exampleStep({ id: 'st_x', purpose: 'reminder', timing: { kind: 'at once' }, letterId: 'lt_x' }),
    ])
    const weekly = Array.from({ length: 7 }, () => [{ from: '00:00', to: '24:00' as const }])
    const business = { ...settings.business, officeHours: { ...office, weekly } }
    expect(sendingsOf({ ...settings, business }, 'lt_x')[0]?.officeOpen).toBe('always')
  })

  test('a letter for one kind of recipient, and one that a variation puts in, go out too', () => {
    const step = exampleStep({
      id: 'st_x',
      purpose: 'reminder',
      timing: { kind: 'at once' },
      letterId: 'lt_x',
    })
    const withOther = { ...step, recipients: step.recipients.map((one) => ({ ...one, letterId: 'lt_y' })) }
    expect(sendingsOf(exampleSettings(realZones, [withOther]), 'lt_y')).toHaveLength(1)
    expect(sendingsOf(exampleSettings(realZones, [step]), 'lt_z')).toEqual([])
  })
})
