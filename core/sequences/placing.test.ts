import { describe, expect, test } from '@jest/globals'
import { startRule } from '../model/sequence.ts'
import type { Step } from '../model/step.ts'
import type { Timing } from '../model/timing.ts'
import { exampleStep } from '../rehearsal/exampleBusiness.ts'
import { newMail } from './editing.ts'
import { inItsPlace, neighbourFor } from './placing.ts'
import { unsaidOf } from './unsaid.ts'

const start = startRule.parse({ on: 'booking confirmed' })
const before = (amount: number, atTime = '18:00'): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})
const after = (amount: number): Timing => ({ ...before(amount), direction: 'after' }) as Timing
const chained: Timing = { kind: 'after previous', amount: 2, unit: 'days', atTime: '10:00' }
const step = (id: string, timing: Timing) => exampleStep({ id: `st_${id}`, purpose: 'reminder', timing })
const order = (steps: readonly Step[], id: string) =>
  inItsPlace(steps, `st_${id}`, start)
    .map((one) => one.id.slice(3))
    .join(' ')

describe('a step finds its place in time', () => {
  const booked = step('booked', { kind: 'at once' })
  test.each([
    [
      'between those before and after it',
      [booked, step('one', before(1)), step('new', before(3))],
      'booked new one',
    ],
    ['first of all', [step('one', before(1)), step('new', { kind: 'at once' })], 'new one'],
    [
      'behind one at the same time',
      [booked, step('new', before(1)), step('one', before(1))],
      'booked one new',
    ],
    ['by its hour', [step('late', before(1, '20:00')), step('new', before(1, '08:00'))], 'new late'],
    ['after the event', [booked, step('new', after(2)), step('one', before(1))], 'booked one new'],
    [
      'behind what hangs from the one before it',
      [booked, step('then', chained), step('one', before(1)), step('new', before(3))],
      'booked then new one',
    ],
  ])('%s', (_, steps, expected) => {
    expect(order(steps, 'new')).toBe(expected)
  })

  test('one that hangs from another stays, and one that another hangs from', () => {
    expect(order([step('one', before(1)), step('new', chained), step('far', before(9))], 'new')).toBe(
      'one new far',
    )
    expect(order([step('one', before(1)), step('new', before(3)), step('then', chained)], 'new')).toBe(
      'one new then',
    )
  })

  test('nothing comes before a first step that counts from the start', () => {
    const steps = [step('then', chained), step('one', before(1)), step('new', { kind: 'at once' })]
    expect(order(steps, 'new')).toBe('then new one')
  })

  test('within the arm of a fork it stays in that arm', () => {
    const fork: Step = {
      kind: 'branch',
      id: 'st_fork',
      condition: { all: [] },
      timing: { kind: 'after previous', amount: 1, unit: 'days', atTime: null },
      yes: [step('one', before(1)), step('new', before(3))],
      no: [],
    }
    const [found] = inItsPlace([fork], 'st_new', start)
    expect(found?.kind === 'branch' && found.yes.map(({ id }) => id)).toEqual(['st_new', 'st_one'])
  })
})

describe('a new message is like its neighbours', () => {
  const held = exampleStep({
    id: 'st_held',
    purpose: 'preparation',
    letterId: 'lt_wear',
    timing: before(3),
    needsApproval: true,
    recipients: [{ to: 'all contacts', letterId: null }],
  })
  const follow = exampleStep({
    id: 'st_thanks',
    purpose: 'follow-up',
    letterId: 'lt_thanks',
    timing: after(1),
  })

  test('of the same purpose first, else the last message', () => {
    expect(neighbourFor([held, follow], 'preparation')).toBe(held)
    expect(neighbourFor([held, follow], 'reminder')).toBe(follow)
    expect(neighbourFor([], 'reminder')).toBeNull()
  })

  test('approval and recipients come along', () => {
    expect(newMail('st_new', 'preparation', 'lt_x', start, held)).toMatchObject({
      letterId: 'lt_x',
      needsApproval: true,
      recipients: [{ to: 'all contacts', letterId: null }],
    })
    expect(newMail('st_new', 'preparation', 'lt_x', start, null)).toMatchObject({ needsApproval: false })
  })
})

describe('what the sentence of a step does not say', () => {
  const names = { serviceName: () => '', personName: () => '', action: () => 'Letter' }
  const one = step('one', before(3))
  const asWords = (of: Step, changing: Parameters<typeof unsaidOf>[2] = null) =>
    Object.fromEntries(unsaidOf(of, names, changing).map(({ key, text }) => [key, text]))

  test('holds as its purpose says, in words', () => {
    expect(asWords(one)).toEqual({
      days: 'on any day',
      from: 'from the business',
      repeat: 'only once',
      'only if': 'in any case',
      'sending hours': 'outside the sending hours it goes earlier',
      'if late': 'left out if its moment has passed',
      'if moved': 'sent again if the booking moves',
      'useful for': 'useful without a limit of its own',
      lead: 'gone 1 hour before at the latest',
      'on or off': 'switched on',
    })
  })

  test('a lead is of steps before something, and half of a short offset', () => {
    expect(asWords(step('x', after(1)))).not.toHaveProperty('lead')
    const hour: Timing = {
      kind: 'elapsed',
      amount: 1,
      unit: 'hours',
      direction: 'before',
      anchor: { of: 'booking start' },
    }
    expect(asWords(step('x', hour))['lead']).toBe('gone 30 minutes before at the latest')
  })

  test('what is said is not listed, but for the part that is being changed', () => {
    const mondays: Step = { ...one, onlyDays: { weekdays: [1] } }
    expect(asWords(mondays)).not.toHaveProperty('days')
    expect(asWords(mondays, 'days')['days']).toBe('only on Mondays')
  })
})
