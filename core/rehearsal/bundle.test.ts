import { describe, expect, test } from '@jest/globals'
import { bundle } from './bundle.ts'

/** A bundle with one booking; each test puts something wrong in. */
const good = {
  format: 'vorfreude-bundle-1',
  now: '2026-05-14T07:40',
  business: { zone: 'Europe/Berlin' },
  services: [{ id: 'sv_one' }],
  clients: [{ id: 'cl_one', name: 'Oona', contacts: [{ id: 'ct_one', email: 'oona@siltanen.example' }] }],
  sequences: [],
  events: [],
}

const booked = (change: object) => ({
  ...good,
  events: [
    {
      act: 'book',
      at: '2026-05-14T07:40',
      clientId: 'cl_one',
      id: 'bk_one',
      serviceId: 'sv_one',
      start: '2026-05-23T05:30',
      end: '2026-05-23T09:00',
      status: 'confirmed',
      ...change,
    },
  ],
})

const open = [{ from: '08:00', to: '20:00' }]
const hours = (change: object) => ({
  ...good,
  business: {
    zone: 'Europe/Berlin',
    sendingHours: { weekly: [open, open, open, open, open, [], []], ...change },
  },
})

const step = (timing: object, change: object = {}) => ({
  ...good,
  sequences: [
    {
      id: 'sq_one',
      start: { on: 'booking made or confirmed' },
      steps: [{ kind: 'mail', id: 'st_one', letterId: 'lt_one', purpose: 'occasion', timing, ...change }],
    },
  ],
})

const refusals = (value: unknown) =>
  bundle.safeParse(value).error?.issues.map(({ path, message }) => `${path.join('.')}: ${message}`) ?? []

test('nothing is wrong with the bundles the faults are put into', () => {
  expect([good, booked({}), hours({})].flatMap(refusals)).toEqual([])
  expect(refusals(step({ kind: 'yearly', label: 'Birthday', atTime: '09:00' }))).toEqual([])
})

describe('a time that no clock and no calendar shows is refused with its path', () => {
  const clock = 'A moment looks like'
  const calendar = 'There is no such day'
  test.each([
    ['now', { ...good, now: '2026-05-13T25:00' }, clock],
    ['now', { ...good, now: '2026-05-13T24:00' }, clock],
    ['now', { ...good, now: '2026-05-13T12:60' }, clock],
    ['now', { ...good, now: '2026-05-13T12:00:60' }, clock],
    ['now', { ...good, now: '2026-05-13T25:00:00+02:00' }, clock],
    ['now', { ...good, now: '2026-05-13T12:00+25:00' }, clock],
    ['now', { ...good, now: '2026-05-13' }, clock],
    ['now', { ...good, now: '2026-02-30T12:00' }, calendar],
    ['now', { ...good, now: '2026-13-01T12:00' }, calendar],
    ['events.0.at', booked({ at: '2026-05-13T25:00' }), clock],
    ['events.0.start', booked({ start: '2026-05-23T29:30' }), clock],
    ['events.0.end', booked({ end: '2026-05-23T09:75' }), clock],
    [
      'events.0.sessions.0.start',
      booked({ sessions: [{ start: '2026-05-23T25:00', end: '2026-05-23T23:00' }] }),
      clock,
    ],
    ['business.sendingHours.closedDates.0', hours({ closedDates: ['2026-04-31'] }), ''],
    ['business.sendingHours.weekly.0.0.to', hours({ weekly: [[{ from: '08:00', to: '25:00' }]] }), ''],
    ['sequences.0.steps.0.timing.atTime', step({ kind: 'yearly', label: 'Birthday', atTime: '25:00' }), ''],
    ['sequences.0.steps.0.timing.atTime', step({ kind: 'yearly', label: 'Birthday', atTime: '09:60' }), ''],
  ])('%s, %#', (path, value, reason) => {
    expect(refusals(value).some((line) => line.startsWith(`${path}: ${reason}`))).toBe(true)
  })
})

describe('the days of a step', () => {
  const yearly = { kind: 'yearly', label: 'Birthday', atTime: '09:00' }
  test.each([[['no day']], [[0]], [[8]], [[]]])('are weekdays from 1 to 7, one at least: %j', (weekdays) => {
    const lines = refusals(step(yearly, { onlyDays: { weekdays } }))
    expect(lines.some((line) => line.startsWith('sequences.0.steps.0.onlyDays'))).toBe(true)
  })

  test('or the working days', () => {
    expect(refusals(step(yearly, { onlyDays: 'working days' }))).toEqual([])
    expect(refusals(step(yearly, { onlyDays: { weekdays: [2, 4] } }))).toEqual([])
  })
})

test.each(['services', 'clients', 'sequences'] as const)('the same of %s twice is refused', (list) => {
  const one = step({ kind: 'yearly', label: 'Birthday', atTime: '09:00' })
  const id = (one[list][0] as { id: string }).id
  expect(refusals({ ...one, [list]: [...one[list], ...one[list]] })).toEqual([
    `${list}.1.id: There is another ${id} in this list.`,
  ])
})
