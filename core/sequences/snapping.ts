import type { CalendarUnit, ExactUnit, Span } from '../model/timing.ts'
import { dayMs, hourMs, minuteMs } from '../time/calendar.ts'

/** Lengths for drawing: a month counts 30 days, a year 365, a business hour an hour. */
const drawnUnitMs: Readonly<Record<Span['unit'], number>> = {
  minutes: minuteMs,
  hours: hourMs,
  'business hours': hourMs,
  days: dayMs,
  'working days': dayMs,
  weeks: 7 * dayMs,
  months: 30 * dayMs,
  years: 365 * dayMs,
}

/** How far a span reaches on the line, in milliseconds. */
export function drawnLengthMs({ amount, unit }: Span): number {
  return amount * drawnUnitMs[unit]
}

const spans = <Unit extends Span['unit']>(unit: Unit, amounts: readonly number[]) =>
  amounts.map((amount) => ({ amount, unit }))

/** Sensible offsets of elapsed time. */
export const exactOffsets: readonly { readonly amount: number; readonly unit: ExactUnit }[] = [
  ...spans('minutes', [15, 30, 45]),
  ...spans('hours', [1, 2, 3, 4, 6, 8, 12, 18]),
]

/** Sensible offsets counted on the calendar. */
export const calendarOffsets: readonly { readonly amount: number; readonly unit: CalendarUnit }[] = [
  ...spans('days', [1, 2, 3, 4, 5, 6, 7, 10]),
  ...spans('weeks', [2, 3, 4, 6, 8]),
  ...spans('months', [3, 4, 6, 9]),
  ...spans('years', [1, 2]),
]

/** Distances below this lie close to the middle of the scale, above it they grow by ratio. */
const kneeMs = 15 * minuteMs

/** A distance as it lies on the stretched scale: nearly straight up to a quarter of an hour, then by ratio. */
export function stretch(distanceMs: number): number {
  return Math.sign(distanceMs) * Math.log1p(Math.abs(distanceMs) / kneeMs)
}

/** The distance that lies at a place of the stretched scale. */
export function unstretch(place: number): number {
  return Math.sign(place) * Math.expm1(Math.abs(place)) * kneeMs
}
