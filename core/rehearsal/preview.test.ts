import { describe, expect, test } from '@jest/globals'
import { startRule, type Sequence, type SequenceVersion } from '../model/sequence.ts'
import { plainStep, type Step } from '../model/step.ts'
import { factsOf } from '../planning/slice.ts'
import { dateAndTime } from '../time/format.ts'
import { realZones } from '../time/realZones.ts'
import { at, exampleBooking, exampleClient, exampleSettings } from './exampleBusiness.ts'
import { hardCases, type HardCase } from './hardCases.ts'
import { previewOf, type Preview } from './preview.ts'
import { previewSurprises } from './previewSurprises.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const berlin = realZones.zone('Europe/Berlin')
const letters = exampleSettings(realZones).letters.map((letter) => ({ ...letter, isStarter: false }))
const settings = { ...exampleSettings(realZones), letters }
const sequence: Sequence = { id: 'sq_x', name: 'X', state: 'draft', liveSince: null, currentVersion: 1 }

const mail = (id: string, purpose: string, timing: object, part: object = {}): Step =>
  plainStep.parse({ kind: 'mail', id: `st_${id}`, letterId: 'lt_starter-reminder', purpose, timing, ...part })
const start = { of: 'booking start' }
const daysBefore = (amount: number, atTime: string) => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: start,
  atTime,
})
const afterEnd = { ...daysBefore(2, '10:00'), direction: 'after', anchor: { of: 'booking end' } }
const hoursBefore = { kind: 'elapsed', amount: 3, unit: 'hours', direction: 'before', anchor: start }

const usual: readonly Step[] = [
  mail('confirm', 'confirmation', { kind: 'at once' }),
  mail('eve', 'reminder', daysBefore(1, '18:00')),
  mail('three', 'reminder', hoursBefore),
  mail('after', 'follow-up', afterEnd, { needsApproval: true }),
]

function preview(
  steps: readonly Step[],
  hardCase: HardCase = 'as it is',
  now = moment('2026-05-14 07:40'),
  own = letters,
): Preview {
  const version: SequenceVersion = {
    sequenceId: 'sq_x',
    version: 2,
    start: startRule.parse({ on: 'booking confirmed' }),
    steps: [...steps],
    stops: [],
  }
  // A Saturday, made eight days before.
  const booking = exampleBooking(moment('2026-05-16 14:00'), moment('2026-05-08 16:20'))
  const slice = {
    settings: { ...settings, letters: own },
    facts: factsOf(exampleClient, { bookings: [booking] }),
  }
  const subject = { kind: 'booking' as const, id: booking.id }
  return previewOf({ sequence, version, slice, subject, hardCase, now })
}

const told = ({ sends }: Preview) =>
  sends.map(({ send, at: when, goes }) => [
    send.stepId.slice(3),
    goes && when !== null ? dateAndTime(berlin, when) : send.reason?.code,
  ])

const reasons = ({ sends }: Preview, stepId: string) =>
  sends
    .filter(({ send }) => send.stepId === `st_${stepId}`)
    .flatMap(({ send }) => [...send.trace.map(({ sentence }) => sentence), send.reason?.sentence ?? ''])
    .join(' ')

describe('a preview', () => {
  test('has every step with its day and time, also those behind an approval', () => {
    expect(told(preview(usual))).toEqual([
      ['confirm', 'Fri 8 May 2026, 16:20'],
      ['eve', 'Fri 15 May 2026, 18:00'],
      ['three', 'Sat 16 May 2026, 11:00'],
      ['after', 'Mon 18 May 2026, 10:00'],
    ])
  })

  test('follows chains, forks and repeats to their end', () => {
    const steps: Step[] = [
      mail('confirm', 'confirmation', { kind: 'at once' }),
      mail('next', 'follow-up', { kind: 'after previous', amount: 2, unit: 'days', atTime: '10:00' }),
      mail('pay', 'payment', daysBefore(6, '09:00'), {
        repeat: {
          every: { amount: 2, unit: 'days' },
          untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
          untilAnchor: start,
          atMost: 5,
        },
      }),
      {
        kind: 'branch',
        id: 'st_fork',
        condition: { field: 'since the run started: answered', comparison: 'is', value: true },
        timing: {
          kind: 'calendar',
          amount: 1,
          unit: 'days',
          direction: 'after',
          anchor: { of: 'booking end' },
          atTime: '12:00',
        },
        yes: [mail('thanks', 'follow-up', { kind: 'at once' })],
        no: [mail('still', 'follow-up', { kind: 'at once' })],
      },
    ]
    const found = told(preview(steps))
    expect(found.filter(([id]) => id === 'pay').map(([, when]) => when)).toEqual([
      'Sun 10 May 2026, 09:00',
      'Tue 12 May 2026, 09:00',
      'Thu 14 May 2026, 09:00',
      'Sat 16 May 2026, 09:00',
    ])
    expect(found.filter(([id]) => id !== 'pay')).toEqual([
      ['confirm', 'Fri 8 May 2026, 16:20'],
      ['next', 'Sun 10 May 2026, 10:00'],
      ['still', 'Sun 17 May 2026, 12:00'],
      ['thanks', 'branch'],
    ])
  })

  test.each(hardCases)('comes to an end: %s', (hardCase) => {
    expect(preview(usual, hardCase).sends.length).toBeGreaterThanOrEqual(usual.length)
  })

  test('a repeat whose letter lacks a value is blocked once each, and comes to an end', () => {
    const [first] = letters
    if (!first) throw new Error('no letter')
    const field = {
      kind: 'field' as const,
      field: 'invoice.amount' as const,
      ifMissing: { kind: 'hold' as const },
    }
    const lacking = { ...first, id: 'lt_lacking', subject: [field], variants: [] }
    const pay = mail('pay', 'payment', daysBefore(6, '09:00'), {
      letterId: 'lt_lacking',
      repeat: { every: { amount: 2, unit: 'days' }, untilCondition: null, untilAnchor: start, atMost: 3 },
    })
    const found = preview([pay], 'as it is', undefined, [...letters, lacking])
    expect(told(found).slice(0, 1)).toEqual([['pay', 'missing field']])
    expect(found.sends.every(({ send }) => send.state !== 'sent')).toBe(true)
  })

  test('booked late: what had passed is left out, with the reason', () => {
    const late = preview(usual, 'booked the evening before')
    expect(told(late)).toContainEqual(['eve', 'late'])
    expect(reasons(late, 'eve')).toContain('past')
    expect(told(preview(usual, 'booked an hour before'))).toContainEqual([
      'confirm',
      'Sat 16 May 2026, 13:00',
    ])
  })

  test('in the night: sending hours move what would go then, and say so', () => {
    const night = preview(usual, 'in the night')
    expect(told(night)).toContainEqual(['eve', 'Fri 15 May 2026, 18:00'])
    expect(reasons(night, 'three')).toMatch(/sending hours|within four hours|lead/)
  })

  test('over the clock change: three hours stay three hours', () => {
    const change = preview(
      [mail('three', 'reminder', { ...hoursBefore, amount: 20 })],
      'over the clock change',
    )
    const [three] = change.sends
    // Clocks go back on 25 October 2026 in the European Union (Directive 2000/84/EC).
    expect(dateAndTime(berlin, change.event?.startAt ?? 0)).toBe('Sun 25 Oct 2026, 14:00')
    expect(((change.event?.startAt ?? 0) - (three?.send.wantedAt ?? 0)) / 3_600_000).toBe(20)
    expect(reasons(change, 'three')).toContain('Sat 24 Oct 2026, 19:00')
  })

  test('living elsewhere: not in the night of the client', () => {
    const elsewhere = preview([mail('eve', 'reminder', daysBefore(1, '09:00'))], 'living elsewhere')
    expect(told(elsewhere)).not.toContainEqual(['eve', 'Fri 15 May 2026, 09:00'])
    expect(reasons(elsewhere, 'eve')).toContain('sending hours')
  })

  test('moved there and back: the reminder that went does not go twice', () => {
    const back = preview(usual, 'moved there and back')
    expect(told(back).filter(([id, when]) => id === 'eve' && String(when).startsWith('Fri 15'))).toHaveLength(
      1,
    )
    expect(reasons(back, 'three')).toContain('moved')
  })
})

describe('what would surprise', () => {
  const surprises = (of: Preview) =>
    previewSurprises({ preview: of, settings, clientZone: 'Europe/Berlin', nameOf: ({ stepId }) => stepId })

  test('a night, a day without office, after the event, the same hour', () => {
    const steps: Step[] = [
      mail('night', 'reminder', daysBefore(2, '23:30'), { sendingHours: 'ignore' }),
      mail('rest', 'preparation', daysBefore(0, '10:30')),
      mail('twin', 'preparation', daysBefore(0, '10:50')),
      mail('late', 'reminder', {
        ...daysBefore(1, '10:00'),
        direction: 'after',
        anchor: { of: 'booking end' },
      }),
    ]
    const found = surprises(preview(steps)).map(({ code, stepId }) => [code, stepId])
    expect(found).toContainEqual(['night', 'st_night'])
    expect(found).toContainEqual(['rest day', 'st_rest'])
    expect(found).toContainEqual(['same hour', 'st_twin'])
    expect(found).not.toContainEqual(['same hour', 'st_rest'])
  })

  test('an ordinary one surprises nobody', () => {
    const weekday = [mail('eve', 'reminder', daysBefore(1, '11:00'))]
    expect(surprises(preview(weekday))).toEqual([])
  })
})
