import type { StartRule } from '../model/sequence.ts'
import { startTraits } from '../model/startEvent.ts'
import { isBranch, type PlainStep, type Step } from '../model/step.ts'
import type { SubjectKind } from '../model/subject.ts'
import { yearlyOffset, type Anchor, type Repeat, type Timing, type YearlyTiming } from '../model/timing.ts'
import { minuteMs, minuteOfDay, timeOfDayOf } from '../time/calendar.ts'
import { anchorWords } from './anchorWords.ts'
import { calendarOffsets, drawnLengthMs, exactOffsets, stretch } from './snapping.ts'
import { isDateAnchor } from './span.ts'
import { usualTime } from './usualTime.ts'

/*
 * A sequence as a line around day 0. The steps' timings are the one model: a pin is where a timing lies, and moving a
 * pin is another timing. Nothing is kept twice.
 */

/** How the event is assumed to lie in its day while no real one is looked at. */
export interface EventShape {
  /** Minutes after midnight at which it starts. */
  readonly startMinute: number
  readonly durationMs: number
}

export const usualShape: EventShape = { startMinute: 12 * 60, durationMs: 120 * minuteMs }

/** What a sequence for each kind of subject leads up to; null: it has no event. */
const eventOf = {
  booking: 'booking start',
  enquiry: 'enquiry wished date',
  invoice: 'invoice due',
  client: null,
} as const satisfies Readonly<Record<SubjectKind, Anchor['of'] | null>>

/** What stands in the middle of the line of a sequence; null: it has no event. */
export function eventAnchor({ on }: Pick<StartRule, 'on'>): (typeof eventOf)[SubjectKind] {
  return eventOf[startTraits[on].subject]
}

const startAnchors: readonly Anchor['of'][] = [
  'run started',
  'booking made',
  'enquiry received',
  'invoice issued',
]

/** Where a step hangs: at the beginning on the left, around day 0, or on a lane of its own. */
export type Lane = 'start' | 'event' | (string & { readonly isOther?: never })

export interface Pin {
  readonly stepId: string
  readonly lane: Lane
  /** Milliseconds after the lane's zero; negative: before. */
  readonly offsetMs: number
  /** The step it comes after; null: it hangs on its lane alone. */
  readonly hangsFrom: string | null
  /** Where its repeats lie. */
  readonly repeatsMs: readonly number[]
  /** The arm of a branch it is in, innermost. */
  readonly arm: { readonly branchId: string; readonly side: 'yes' | 'no' } | null
  readonly isBranch: boolean
}

function laneOf(timing: Timing, start: StartRule): Lane {
  if (timing.kind === 'at once') return 'start'
  if (timing.kind === 'yearly') return timing.label
  if (timing.kind === 'evening') return 'each evening'
  if (timing.kind === 'after previous') return 'start'
  const { of } = timing.anchor
  const event = eventAnchor(start)
  if (of === event || (of === 'booking end' && event === 'booking start')) return 'event'
  return startAnchors.includes(of) ? 'start' : anchorWords(timing.anchor)
}

/** Minutes between a time of day and the one the anchor is assumed to have. */
function timeShiftMs(anchor: Anchor, atTime: string | null, { startMinute }: EventShape): number {
  if (atTime === null) return 0
  const zero = isDateAnchor(anchor) ? usualShape.startMinute : startMinute
  return (minuteOfDay(atTime) - zero) * minuteMs
}

/** How far a timing lies from its lane's zero. */
export function offsetOf(timing: Timing, shape: EventShape): number {
  switch (timing.kind) {
    case 'at once':
    case 'evening':
      return 0
    case 'after previous':
      return drawnLengthMs(timing)
    case 'yearly':
      return (yearlyOffset(timing).direction === 'before' ? -1 : 1) * drawnLengthMs(yearlyOffset(timing))
    case 'elapsed':
    case 'calendar': {
      const sign = timing.direction === 'before' ? -1 : 1
      const end = timing.anchor.of === 'booking end' ? shape.durationMs : 0
      const atTime = timing.kind === 'calendar' ? timing.atTime : null
      return end + sign * drawnLengthMs(timing) + timeShiftMs(timing.anchor, atTime, shape)
    }
  }
}

const mostRepeatsDrawn = 5

function repeatsOf(repeat: Repeat | null, from: number, zeroEnds: boolean): readonly number[] {
  if (!repeat) return []
  const every = drawnLengthMs(repeat.every)
  const count = Math.min(repeat.atMost === null ? mostRepeatsDrawn : repeat.atMost - 1, mostRepeatsDrawn)
  return Array.from({ length: count }, (_, index) => from + (index + 1) * every).filter(
    (at) => !zeroEnds || at <= 0,
  )
}

interface Where {
  readonly stepId: string | null
  readonly lane: Lane
  readonly offsetMs: number
}

const beginning: Where = { stepId: null, lane: 'start', offsetMs: 0 }

/** Where every step lies, in the order of reading. What comes after another hangs from it. */
export function pinsOf(
  steps: readonly Step[],
  start: StartRule,
  shape: EventShape,
  from: Where = beginning,
  arm: Pin['arm'] = null,
): readonly Pin[] {
  let previous = from
  return steps.flatMap((step): readonly Pin[] => {
    const { timing } = step
    // Within an arm, at once means as soon as the fork has been decided.
    const isChained = timing.kind === 'after previous' || (timing.kind === 'at once' && arm !== null)
    const lane = isChained ? previous.lane : laneOf(timing, start)
    const offsetMs = (isChained ? previous.offsetMs : 0) + offsetOf(timing, shape)
    const repeat = isBranch(step) ? null : step.repeat
    const pin: Pin = {
      stepId: step.id,
      lane,
      offsetMs,
      hangsFrom: isChained ? previous.stepId : null,
      repeatsMs: repeatsOf(repeat, offsetMs, lane === 'event' && repeat?.untilAnchor !== null),
      arm,
      isBranch: isBranch(step),
    }
    previous = { stepId: step.id, lane, offsetMs }
    if (!isBranch(step)) return [pin]
    const within = (side: 'yes' | 'no') =>
      pinsOf(step[side], start, shape, previous, { branchId: step.id, side })
    return [pin, ...within('yes'), ...within('no')]
  })
}

type Moving = Pick<PlainStep, 'timing'>

function anchoredChoices(timing: Extract<Timing, { anchor: Anchor }>, staysOn: boolean): readonly Timing[] {
  const { anchor } = timing
  const set = timing.kind === 'calendar' ? timing.atTime : undefined
  const isStart = startAnchors.includes(anchor.of)
  const directions = staysOn || isStart ? (['after'] as const) : (['before', 'after'] as const)
  return directions.flatMap((direction): Timing[] => [
    ...(isDateAnchor(anchor)
      ? []
      : exactOffsets.map((offset): Timing => ({ kind: 'elapsed', ...offset, direction, anchor }))),
    ...calendarOffsets.map((offset): Timing => ({
      kind: 'calendar',
      ...offset,
      direction,
      anchor,
      atTime: set === undefined ? usualTime[direction] : set,
    })),
  ])
}

function chainedChoices(timing: Extract<Timing, { kind: 'after previous' }>): readonly Timing[] {
  const atTime = timing.atTime ?? null
  return [
    { ...timing, amount: 0, unit: 'minutes', atTime: null },
    ...exactOffsets.map((offset): Timing => ({ ...timing, ...offset, atTime: null })),
    ...calendarOffsets.map((offset): Timing => ({ ...timing, ...offset, atTime })),
  ]
}

/** A yearly step some other number of its unit away, on the side it stands on. */
function withYearlyAmount(timing: YearlyTiming, amount: number): YearlyTiming {
  return timing.offset
    ? { ...timing, offset: { ...timing.offset, amount } }
    : { ...timing, daysBefore: amount }
}

/** The sensible timings a pin can be moved to, all on the same anchor. */
function choicesFor(timing: Timing): readonly Timing[] {
  switch (timing.kind) {
    case 'elapsed':
    case 'calendar':
      return anchoredChoices(timing, false)
    case 'after previous':
      return chainedChoices(timing)
    case 'yearly':
      return [0, 1, 2, 3, 4, 5, 6, 7, 10, 14, 21, 28].map((amount) => withYearlyAmount(timing, amount))
    case 'at once':
      return [
        timing,
        ...anchoredChoices(
          { kind: 'elapsed', amount: 1, unit: 'hours', direction: 'after', anchor: { of: 'run started' } },
          true,
        ),
      ]
    case 'evening':
      return [timing]
  }
}

/** Whether a pin can be moved at all. */
export function canMove({ timing }: Moving): boolean {
  return timing.kind !== 'evening'
}

/** The sensible timing nearest to a place on the line, as the eye sees it. */
export function timingAt(timing: Timing, offsetMs: number, shape: EventShape): Timing {
  const wanted = stretch(offsetMs)
  const distance = (one: Timing) => Math.abs(stretch(offsetOf(one, shape)) - wanted)
  return choicesFor(timing).reduce((best, one) => (distance(one) < distance(best) ? one : best))
}

const sideOf = (timing: Timing) => ('direction' in timing ? timing.direction : null)

/**
 * The next sensible timing towards one side: of the same kind and on the same side of day 0 as long as there is one,
 * so that days stay days; the same one at the end of the line.
 */
export function nextTiming(timing: Timing, side: 'earlier' | 'later', shape: EventShape): Timing {
  const present = offsetOf(timing, shape)
  const beyond = choicesFor(timing)
    .map((one) => ({ one, at: offsetOf(one, shape) }))
    .filter(({ at }) => (side === 'earlier' ? at < present : at > present))
    .sort((one, other) => (side === 'earlier' ? other.at - one.at : one.at - other.at))
  const alike = beyond.find(({ one }) => one.kind === timing.kind && sideOf(one) === sideOf(timing))
  return (alike ?? beyond[0])?.one ?? timing
}

/** The same timing at a time of day some minutes later; unchanged where it has none. */
export function atAnotherTime(timing: Timing, minutes: number): Timing {
  if (!('atTime' in timing) || timing.atTime === null) return timing
  const minute = (minuteOfDay(timing.atTime) + minutes + 1440) % 1440
  return { ...timing, atTime: timeOfDayOf(minute) }
}

/** Whether another timing has its step on the other side of day 0. */
export function crossesDayZero(from: Timing, to: Timing): boolean {
  return 'direction' in from && 'direction' in to && from.direction !== to.direction
}
