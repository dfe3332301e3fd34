import { drawnLengthMs, stretch, unstretch } from '#core/sequences/snapping.ts'
import type { Lane, Pin } from '#core/sequences/dayZero.ts'
import { dayMs } from '#core/time/calendar.ts'

export interface LineTick {
  readonly place: number
  readonly label: string
}

/** Where offsets lie on the line of a sequence, as parts of its width, and back again. */
export interface LineScale {
  readonly place: (lane: Lane, offsetMs: number) => number
  readonly offsetAt: (lane: Lane, place: number) => number
  /** Where the sequence begins, and where day 0 is; null: there is none. */
  readonly startPlace: number
  readonly zeroPlace: number | null
  readonly ticks: readonly LineTick[]
}

const rulers = [
  { span: { amount: 15, unit: 'minutes' }, label: '15 min' },
  { span: { amount: 1, unit: 'hours' }, label: '1 h' },
  { span: { amount: 3, unit: 'hours' }, label: '3 h' },
  { span: { amount: 12, unit: 'hours' }, label: '12 h' },
  { span: { amount: 1, unit: 'days' }, label: '1 d' },
  { span: { amount: 3, unit: 'days' }, label: '3 d' },
  { span: { amount: 7, unit: 'days' }, label: '7 d' },
  { span: { amount: 14, unit: 'days' }, label: '14 d' },
  { span: { amount: 30, unit: 'days' }, label: '30 d' },
  { span: { amount: 90, unit: 'days' }, label: '90 d' },
  { span: { amount: 365, unit: 'days' }, label: '1 y' },
  { span: { amount: 730, unit: 'days' }, label: '2 y' },
] as const
const rulerMs = rulers.map(({ span, label }) => ({ ms: drawnLengthMs(span), label }))

/** The first ruler mark that leaves some air beyond the furthest pin. */
function reach(furthestMs: number, atLeastMs: number): number {
  const wanted = Math.max(furthestMs * 1.15, atLeastMs)
  return rulerMs.find(({ ms }) => ms >= wanted)?.ms ?? wanted
}

const furthest = (pins: readonly Pin[], isOf: (pin: Pin) => boolean, sign: 1 | -1) =>
  Math.max(0, ...pins.filter(isOf).map(({ offsetMs }) => sign * offsetMs))

const left = 0.03
const right = 0.985
const gap = 0.035

interface Zone {
  readonly from: number
  readonly zero: number
  readonly to: number
  readonly beforeMs: number
  readonly afterMs: number
}

function placeIn({ from, zero, to, beforeMs, afterMs }: Zone, offsetMs: number): number {
  const side = offsetMs < 0 ? zero - from : to - zero
  const most = offsetMs < 0 ? beforeMs : afterMs
  return zero + (side * stretch(Math.max(-most, Math.min(most, offsetMs)))) / stretch(most)
}

function offsetIn({ from, zero, to, beforeMs, afterMs }: Zone, place: number): number {
  const isBefore = place < zero
  const side = isBefore ? zero - from : to - zero
  if (side <= 0) return 0
  const most = isBefore ? beforeMs : afterMs
  const part = Math.max(-1, Math.min(1, (place - zero) / side))
  return unstretch(part * stretch(most))
}

/** Marks that keep a distance from one another, the outer ones first. */
function ticksOf(zone: Zone): readonly LineTick[] {
  const marks = rulerMs.flatMap(({ ms, label }) => [
    ...(ms <= zone.beforeMs && zone.zero > zone.from ? [{ ms: -ms, label }] : []),
    ...(ms <= zone.afterMs ? [{ ms, label }] : []),
  ])
  const kept: LineTick[] = []
  for (const { ms, label } of marks.sort((one, other) => Math.abs(other.ms) - Math.abs(one.ms))) {
    const place = placeIn(zone, ms)
    const isFree = [...kept.map((one) => one.place), zone.zero].every(
      (other) => Math.abs(other - place) > 0.03,
    )
    if (isFree) kept.push({ place, label })
  }
  return kept
}

/**
 * The beginning on the left with a scale of its own, day 0 in the middle of the rest, both sides stretched so that a
 * quarter of an hour and a year can be told apart.
 */
export function lineScale(pins: readonly Pin[], hasEvent: boolean): LineScale {
  const isStart = ({ lane }: Pin) => lane === 'start'
  const startMs = reach(furthest(pins, isStart, 1), dayMs)
  const hasChain = pins.some((pin) => isStart(pin) && pin.offsetMs > 0)
  const startTo = hasEvent ? left + (hasChain ? 0.2 : 0.06) : right
  const start: Zone = { from: left, zero: left, to: startTo, beforeMs: 0, afterMs: startMs }
  const eventFrom = startTo + gap
  const isOther = (pin: Pin) => !isStart(pin)
  const event: Zone = {
    from: eventFrom,
    zero: (eventFrom + right) / 2,
    to: right,
    beforeMs: reach(furthest(pins, isOther, -1), 7 * dayMs),
    afterMs: reach(furthest(pins, isOther, 1), 3 * dayMs),
  }
  const zoneOf = (lane: Lane) => (lane === 'start' ? start : event)
  const startTicks = hasChain || !hasEvent ? ticksOf(start) : []
  return {
    place: (lane, offsetMs) => placeIn(zoneOf(lane), offsetMs),
    offsetAt: (lane, place) => offsetIn(zoneOf(lane), place),
    startPlace: left,
    zeroPlace: hasEvent ? event.zero : null,
    ticks: hasEvent ? [...startTicks, ...ticksOf(event)] : startTicks,
  }
}
