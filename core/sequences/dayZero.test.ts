import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { startRule } from '../model/sequence.ts'
import { plainStep, type PlainStep, type Step } from '../model/step.ts'
import { purpose, timing as timingSchema, type Anchor, type Timing } from '../model/timing.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { anchorWords } from './anchorWords.ts'
import {
  atAnotherTime,
  crossesDayZero,
  nextTiming,
  offsetOf,
  pinsOf,
  timingAt,
  type EventShape,
} from './dayZero.ts'
import {
  flipped,
  newMail,
  withNewStep,
  withStep,
  withStepBeside,
  withStepMoved,
  withTiming,
} from './editing.ts'
import { sentenceOf, sentenceText } from './sentence.ts'
import { timingProblem } from './span.ts'

const start = startRule.parse({ on: 'booking confirmed' })
const names = { serviceName: (id: string) => id, personName: (id: string) => id, action: () => 'Letter' }
const anchors: readonly Anchor[] = [
  { of: 'booking start' },
  { of: 'booking end' },
  { of: 'booking made' },
  { of: 'invoice due' },
  { of: 'run started' },
]

/**
 * Reads a sentence's "when" back, written by itself from the grammar of the sentences: `3 days before the start of the
 * booking, at 18:00`.
 */
function readWhen(words: string): Timing {
  const text = words.toLowerCase()
  if (text === 'at once') return { kind: 'at once' }
  const at = /, at (\d\d:\d\d)$/.exec(text)?.[1] ?? null
  const rest = text.replace(/, at (\d\d:\d\d|the same time of day)$/, '')
  const yearly = /^every year (?:on|(\d+) days? before) “(.+)”$/.exec(rest)
  if (yearly) {
    const daysBefore = Number(yearly[1] ?? 0)
    return { kind: 'yearly', label: yearly[2] ?? '', daysBefore, offset: null, atTime: at ?? '' }
  }
  if (rest === 'right after the step before') {
    return { kind: 'after previous', amount: 0, unit: 'minutes', atTime: at }
  }
  const offset = /^(\d+) ((?:business |working )?\w+?)s? (before|after) (.+)$/.exec(rest)
  if (!offset) throw new Error(`Cannot read: ${words}`)
  const [, amount = '', unit = '', direction = '', from = ''] = offset
  const span = { amount: Number(amount), unit: `${unit}s` }
  if (from === 'the step before') return timingSchema.parse({ kind: 'after previous', ...span, atTime: at })
  const anchor = anchors.find((one) => anchorWords(one).toLowerCase() === from)
  const isExact = ['minutes', 'hours', 'business hours'].includes(span.unit)
  return timingSchema.parse(
    isExact
      ? { kind: 'elapsed', ...span, direction, anchor }
      : { kind: 'calendar', ...span, direction, anchor, atTime: at },
  )
}

const timeOfDay = fc
  .integer({ min: 0, max: 95 })
  .map((quarter) => new Date(quarter * 900_000).toISOString().slice(11, 16))
const exact = fc.record({
  kind: fc.constant('elapsed' as const),
  amount: fc.integer({ min: 1, max: 72 }),
  unit: fc.constantFrom('minutes' as const, 'hours' as const),
  direction: fc.constantFrom('before' as const, 'after' as const),
  anchor: fc.constantFrom<Anchor>({ of: 'booking start' }, { of: 'booking end' }),
})
const calendar = fc.record({
  kind: fc.constant('calendar' as const),
  amount: fc.integer({ min: 1, max: 90 }),
  unit: fc.constantFrom('days' as const, 'weeks' as const, 'months' as const),
  direction: fc.constantFrom('before' as const, 'after' as const),
  anchor: fc.constantFrom<Anchor>({ of: 'booking start' }, { of: 'booking end' }, { of: 'invoice due' }),
  atTime: timeOfDay,
})
const chained = fc.record({
  kind: fc.constant('after previous' as const),
  amount: fc.integer({ min: 1, max: 40 }),
  unit: fc.constantFrom('hours' as const, 'days' as const),
  atTime: fc.constant(null),
})
const yearly = fc.record({
  kind: fc.constant('yearly' as const),
  label: fc.constant('birthday'),
  daysBefore: fc.integer({ min: 0, max: 20 }),
  offset: fc.constant(null),
  atTime: timeOfDay,
})
const timing: fc.Arbitrary<Timing> = fc.oneof(
  exact,
  calendar,
  chained,
  yearly,
  fc.constant({ kind: 'at once' as const }),
)
const shape: fc.Arbitrary<EventShape> = fc.record({
  startMinute: fc.integer({ min: 0, max: 1439 }),
  durationMs: fc.integer({ min: 1, max: 30 }).map((hours) => hours * hourMs),
})

const stepWith = (of: Timing): PlainStep =>
  plainStep.parse({ kind: 'mail', id: 'st_1', letterId: 'lt_1', purpose: 'reminder', timing: of })

/** What the sentence says of the step's time, read back. */
function saidTiming(step: Step): Timing {
  const part = sentenceOf(step, names).find(({ key }) => key === 'when')
  return readWhen(part?.text ?? '')
}

/** What the pin's place says: its offset on its lane. */
function shownOffset(step: Step, of: EventShape): number | undefined {
  return pinsOf([step], start, of)[0]?.offsetMs
}

const move = fc.oneof(
  fc.record({
    by: fc.constant('drag' as const),
    ms: fc.integer({ min: -400, max: 400 }).map((days) => days * dayMs),
  }),
  fc.record({
    by: fc.constant('drag' as const),
    ms: fc.integer({ min: -600, max: 600 }).map((m) => m * 60_000),
  }),
  fc.record({ by: fc.constant('key' as const), side: fc.constantFrom('earlier' as const, 'later' as const) }),
  fc.record({ by: fc.constant('time' as const), minutes: fc.constantFrom(15, -15) }),
)
type Move =
  { by: 'drag'; ms: number } | { by: 'key'; side: 'earlier' | 'later' } | { by: 'time'; minutes: number }

function moved(of: Timing, by: Move, at: EventShape): Timing {
  if (by.by === 'drag') return timingAt(of, by.ms, at)
  return by.by === 'key' ? nextTiming(of, by.side, at) : atAnotherTime(of, by.minutes)
}

describe('line and sentences', () => {
  test('say the same, whatever was moved, and however often', () => {
    fc.assert(
      fc.property(timing, fc.array(move, { maxLength: 12 }), shape, (first, moves, at) => {
        let step = stepWith(first)
        for (const one of [null, ...moves]) {
          if (one !== null) step = withTiming(step, moved(step.timing, one, at))
          const said = saidTiming(step)
          expect(said).toEqual(step.timing)
          // The sentence, typed in again, puts the pin where it is.
          expect(shownOffset(stepWith(said), at)).toBe(shownOffset(step, at))
          expect(timingProblem(step)).toBeNull()
        }
      }),
      { numRuns: 1500 },
    )
  })

  test('a pin stays where it was put down', () => {
    fc.assert(
      fc.property(timing, fc.integer({ min: -400, max: 400 }), shape, (first, days, at) => {
        const put = timingAt(first, days * dayMs, at)
        expect(offsetOf(timingAt(put, offsetOf(put, at), at), at)).toBe(offsetOf(put, at))
      }),
      { numRuns: 500 },
    )
  })

  test('the arrow keys always go further to their side, or stay', () => {
    fc.assert(
      fc.property(timing, shape, (first, at) => {
        expect(offsetOf(nextTiming(first, 'later', at), at)).toBeGreaterThanOrEqual(offsetOf(first, at))
        expect(offsetOf(nextTiming(first, 'earlier', at), at)).toBeLessThanOrEqual(offsetOf(first, at))
      }),
      { numRuns: 500 },
    )
  })
})

const noon: EventShape = { startMinute: 720, durationMs: 2 * hourMs }
const before = (amount: number, atTime = '18:00'): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})

describe('where pins lie', () => {
  test('the evening before lies 18 hours before noon, and hours count to the minute', () => {
    expect(offsetOf(before(1), noon)).toBe(-18 * hourMs)
    expect(offsetOf({ ...exactBefore, amount: 3 }, noon)).toBe(-3 * hourMs)
  })

  test('what comes after another hangs from it, other dates have a lane of their own', () => {
    const steps: Step[] = [
      stepWith(before(7, '12:00')),
      { ...stepWith({ kind: 'after previous', amount: 2, unit: 'days', atTime: null }), id: 'st_2' },
      { ...stepWith({ ...before(1), anchor: { of: 'invoice due' } } as Timing), id: 'st_3' },
    ]
    expect(pinsOf(steps, start, noon)).toMatchObject([
      { lane: 'event', offsetMs: -7 * dayMs, hangsFrom: null },
      { lane: 'event', offsetMs: -5 * dayMs, hangsFrom: 'st_1' },
      { lane: 'the due date', hangsFrom: null },
    ])
  })

  test('what goes at once in an arm lies where the fork is decided', () => {
    const fork: Step = {
      kind: 'branch',
      id: 'st_fork',
      condition: { all: [] },
      timing: { kind: 'after previous', amount: 7, unit: 'days', atTime: null },
      yes: [{ ...stepWith({ kind: 'at once' }), id: 'st_yes' }],
      no: [],
    }
    expect(pinsOf([stepWith({ kind: 'at once' }), fork], start, noon)).toMatchObject([
      { lane: 'start', offsetMs: 0 },
      { offsetMs: 7 * dayMs, hangsFrom: 'st_1', isBranch: true },
      { offsetMs: 7 * dayMs, hangsFrom: 'st_fork', arm: { branchId: 'st_fork', side: 'yes' } },
    ])
  })

  test('repeats lie behind their pin, up to their most', () => {
    const again = { every: { amount: 4, unit: 'days' }, untilCondition: null, untilAnchor: null, atMost: 3 }
    const step = plainStep.parse({ ...stepWith(before(14, '12:00')), repeat: again })
    expect(pinsOf([step], start, noon)[0]?.repeatsMs).toEqual([-10 * dayMs, -6 * dayMs])
  })
})

const exactBefore = {
  kind: 'elapsed',
  amount: 1,
  unit: 'hours',
  direction: 'before',
  anchor: { of: 'booking start' },
} as const

describe('over day 0', () => {
  test('a reminder becomes a follow-up, and it is told what that changes', () => {
    const step = { ...stepWith(before(1)), lead: { amount: 2, unit: 'hours' as const } }
    const after: Timing = { ...before(1), direction: 'after' } as Timing
    expect(crossesDayZero(step.timing, after)).toBe(true)
    const flip = flipped(step, after)
    expect(flip.step).toMatchObject({ purpose: 'follow-up', lead: null })
    expect(flip.changes).toEqual([
      'It goes after the event.',
      'As a follow-up instead of a reminder: outside the sending hours it goes later; sent at the first open moment if it is late; not sent again if the booking moves; useful for 14 days.',
      'Its lead falls away: nothing has to have gone before.',
    ])
  })
})

describe('a sentence', () => {
  test('leaves unsaid what the purpose says, and says what differs', () => {
    const step = stepWith(before(3))
    expect(sentenceText(sentenceOf(step, names))).toBe(
      '3 days before the start of the booking, at 18:00 send Letter to the primary contact, by itself.',
    )
    const differing = plainStep.parse({
      ...step,
      needsApproval: true,
      sender: 'person in charge',
      ifLate: 'send now',
      sendingHours: 'ignore',
      onlyIf: { field: 'client.tag', comparison: 'is', value: 'VIP' },
    })
    expect(sentenceText(sentenceOf(differing, names))).toBe(
      '3 days before the start of the booking, at 18:00 send Letter to the primary contact from the person in charge, after approval, only if a tag of the client is “VIP”; at whatever hour; sent at the first open moment if it is late.',
    )
  })
})

describe('editing steps', () => {
  const fork: Step = {
    kind: 'branch',
    id: 'st_fork',
    condition: { field: 'since the run started: answered', comparison: 'is', value: true },
    timing: { kind: 'after previous', amount: 1, unit: 'days', atTime: null },
    yes: [],
    no: [],
  }
  const one = newMail('st_a', 'confirmation', 'lt_1', start, null)
  const two = newMail('st_b', 'reminder', 'lt_1', start, null)

  test('a step goes into an arm, is found there, changed, moved and taken out', () => {
    const within = withNewStep(withNewStep([one, fork], { branchId: 'st_fork', side: 'no' }, two), null, {
      ...two,
      id: 'st_c',
    })
    expect(within.map(({ id }) => id)).toEqual(['st_a', 'st_fork', 'st_c'])
    expect(withStepMoved(within, 'st_c', -1).map(({ id }) => id)).toEqual(['st_a', 'st_c', 'st_fork'])
    expect(withStep(within, 'st_b', () => null)[1]).toMatchObject({ no: [] })
    expect(withStepMoved([one], 'st_a', 1)).toEqual([one])
    expect(withStepBeside(within, 'st_c', 'st_a').map(({ id }) => id)).toEqual(['st_c', 'st_a', 'st_fork'])
    expect(withStepBeside(within, 'st_a', 'st_c').map(({ id }) => id)).toEqual(['st_fork', 'st_c', 'st_a'])
    expect(withStepBeside(within, 'st_a', 'st_b').map(({ id }) => id)).toEqual(['st_a', 'st_fork', 'st_c'])
  })

  test.each(purpose.exclude(['internal']).options)('a new %s has a timing that can be used', (kind) => {
    for (const on of ['booking confirmed', 'enquiry received', 'invoice issued', 'tag added'] as const) {
      const made = newMail('st_1', kind, 'lt_1', startRule.parse({ on }), null)
      expect(timingProblem(made)).toBeNull()
    }
  })
})
