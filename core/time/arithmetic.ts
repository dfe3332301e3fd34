import type { CalendarUnit, ExactUnit } from '../model/timing.ts'
import { addMonths, hourMs, minuteMs, type EpochDay, type MinuteOfDay } from './calendar.ts'
import { isClosedOn, openSearchDays, type OpenTimes } from './openTimes.ts'
import { dayAt, instantOf, wallAt, type Zone } from './zones.ts'

/** An instant some time away within office hours, elapsed; null when no office hours are found for it. */
function addBusinessTime(office: OpenTimes, instant: number, ms: number): number | null {
  if (ms === 0) return instant
  const isForward = ms > 0
  let rest = Math.abs(ms)
  let closedDays = 0
  for (let day = dayAt(office.zone, instant); closedDays <= openSearchDays; day += isForward ? 1 : -1) {
    const stretches = office.stretchesOn(day)
    closedDays = stretches.length === 0 ? closedDays + 1 : 0
    for (const stretch of isForward ? stretches : stretches.toReversed()) {
      const from = isForward ? Math.max(stretch.from, instant) : stretch.from
      const to = isForward ? stretch.to : Math.min(stretch.to, instant)
      if (to <= from) continue
      if (rest <= to - from) return isForward ? from + rest : to - rest
      rest -= to - from
    }
  }
  return null
}

/**
 * An instant some minutes or hours away: exact elapsed time, whatever the clocks do; or hours that pass only
 * while the office is open. Negative: before. A sum that ends exactly at closing is closing time. Null when there
 * are no office hours to count in.
 */
export function addExact(instant: number, amount: number, unit: ExactUnit, office: OpenTimes): number | null {
  switch (unit) {
    case 'minutes':
      return instant + amount * minuteMs
    case 'hours':
      return instant + amount * hourMs
    case 'business hours':
      return addBusinessTime(office, instant, amount * hourMs)
  }
}

/**
 * A working day some working days away. 0 working days is the day itself if it is one, else the next on the side.
 * Null when 60 days in a row are closed.
 */
export function addWorkingDays(
  office: OpenTimes,
  day: EpochDay,
  amount: number,
  side: 'after' | 'before',
): EpochDay | null {
  const stepOfDay = side === 'after' ? 1 : -1
  let left = Math.abs(amount)
  let closed = 0
  let at = day
  if (left === 0 && !isClosedOn(office, at)) return at
  while (closed <= openSearchDays) {
    at += stepOfDay
    if (isClosedOn(office, at)) {
      closed += 1
      continue
    }
    closed = 0
    left -= 1
    if (left <= 0) return at
  }
  return null
}

/**
 * A date some calendar units away; months and years clamp to the month's last day. Null only for working days
 * where there are none.
 */
export function addToDay(
  day: EpochDay,
  amount: number,
  unit: CalendarUnit,
  side: 'after' | 'before',
  office: OpenTimes,
): EpochDay | null {
  const signed = side === 'after' ? amount : -amount
  switch (unit) {
    case 'days':
      return day + signed
    case 'working days':
      return addWorkingDays(office, day, amount, side)
    case 'weeks':
      return day + 7 * signed
    case 'months':
      return addMonths(day, signed)
    case 'years':
      return addMonths(day, 12 * signed)
  }
}

/**
 * An instant some days or longer away, counted on the local clock: the same reading on another date, or `atMinute`
 * where a time of day is set. 0 days without a time of day is the instant itself. An after-step whose time of day
 * falls before its anchor takes the next day (working days: the next working day).
 */
export function addCalendar(
  zone: Zone,
  instant: number,
  span: { readonly amount: number; readonly unit: CalendarUnit },
  side: 'after' | 'before',
  atMinute: MinuteOfDay | null,
  office: OpenTimes,
): number | null {
  const wall = wallAt(zone, instant)
  const day = addToDay(wall.day, span.amount, span.unit, side, office)
  if (day === null) return null
  if (atMinute === null && day === wall.day) return instant
  const msOfDay = atMinute === null ? wall.msOfDay : atMinute * minuteMs
  const target = instantOf(zone, { day, msOfDay })
  if (side === 'before' || target >= instant) return target
  const next = span.unit === 'working days' ? addWorkingDays(office, day, 1, 'after') : day + 1
  return next === null ? null : instantOf(zone, { day: next, msOfDay })
}
