import { minuteMs } from '#core/time/calendar.ts'

const first = minuteMs
const longest = 60 * minuteMs

/**
 * How long to wait before the next attempt, in milliseconds of business time: doubling from one minute up to an
 * hour, spread by up to a quarter so that many do not return at once. `chance` lies in [0, 1).
 */
export function backOffMs(attempts: number, chance: number): number {
  const doubled = Math.min(first * 2 ** Math.max(0, attempts - 1), longest)
  return Math.round(doubled * (1 + chance / 4))
}

/** After so many attempts a message that never got through is a failure for a person to look at. */
export const mostAttempts = 12
