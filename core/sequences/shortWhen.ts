import type { OnlyDays } from '../model/step.ts'
import { yearlyOffset, type Span, type Timing } from '../model/timing.ts'
import { shortDayWords } from './dayWords.ts'

const shortUnit: Readonly<Record<Span['unit'], string>> = {
  minutes: 'min',
  hours: 'h',
  'business hours': 'business h',
  days: 'd',
  'working days': 'working d',
  weeks: 'wk',
  months: 'mo',
  years: 'y',
}

const short = ({ amount, unit }: Span) => `${amount} ${shortUnit[unit]}`
const at = (atTime: string | null) => (atTime === null ? '' : ` · ${atTime}`)

/**
 * A step's timing and days as a pin's second line: `3 d before · 18:00`. With days the line has no room for before or
 * after, which the pin's place says already: `3 d · 18:00 · Mon–Fri`.
 */
export function shortWhen(timing: Timing, onlyDays: OnlyDays | null): string {
  if (onlyDays === null) return timed(timing)
  return `${timed(timing).replace(/ (before|after)/, '')} · ${shortDayWords(onlyDays)}`
}

function timed(timing: Timing): string {
  switch (timing.kind) {
    case 'at once':
      return 'at once'
    case 'elapsed':
      return `${short(timing)} ${timing.direction}`
    case 'calendar':
      return timing.amount === 0
        ? `that day${at(timing.atTime)}`
        : `${short(timing)} ${timing.direction}${at(timing.atTime)}`
    case 'after previous':
      return timing.amount === 0 ? 'right after' : `+ ${short(timing)}${at(timing.atTime)}`
    case 'yearly':
      return yearlyOffset(timing).amount === 0
        ? `that day · ${timing.atTime}`
        : `${short(yearlyOffset(timing))} ${yearlyOffset(timing).direction} · ${timing.atTime}`
    case 'evening':
      return `evenings · ${timing.atTime}`
  }
}
