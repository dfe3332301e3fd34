import type { Allowance } from '../model/allowance.ts'
import { allowanceLeft, inAllowanceOrder, windowsAt, type Claimant } from '../engine/atSending/allowance.ts'
import { hourMs } from '../time/calendar.ts'
import type { Zone } from '../time/zones.ts'
import { quarterMs, type QuarterCount } from './load.ts'

/** When the allowance will let a message go that is to go earlier. */
export interface Delay {
  readonly id: string
  readonly dueAt: number
  readonly at: number
}

/**
 * Forecast: which messages the allowance will hold back, and until when. Service messages go first. `sentSince`
 * counts what has gone already.
 */
export function forecastDelays(
  allowance: Allowance,
  zone: Zone,
  now: number,
  coming: readonly Claimant[],
  sentSince: (from: number) => number,
): readonly Delay[] {
  if (windowsAt(allowance, zone, now).length === 0) return []
  const queue = coming.toSorted((one, other) => one.dueAt - other.dueAt || (one.id < other.id ? -1 : 1))
  const gone: number[] = []
  const delays: Delay[] = []
  let waiting: Claimant[] = []
  let at = now
  let index = 0
  const goneSince = (from: number) => sentSince(from) + gone.length - firstFrom(gone, from)
  while (index < queue.length || waiting.length > 0) {
    const next = queue[index]
    if (waiting.length === 0 && next) at = Math.max(at, next.dueAt)
    for (let one = queue[index]; one && one.dueAt <= at; one = queue[index]) {
      waiting.push(one)
      index += 1
    }
    waiting = waiting.toSorted(inAllowanceOrder)
    const { left, freeAt } = allowanceLeft(allowance, zone, at, goneSince)
    const going = waiting.slice(0, Math.min(left, waiting.length))
    waiting = waiting.slice(going.length)
    for (const { id, dueAt } of going) {
      gone.push(at)
      if (at > Math.max(dueAt, now)) delays.push({ id, dueAt, at })
    }
    if (waiting.length > 0) at = freeAt ?? at
  }
  return delays
}

/**
 * Whether all that is coming surely fits in: no hour, day and month has more due than the account takes. Each of them
 * begins at a whole quarter of an hour. What is overdue counts from now on.
 */
export function surelyFits(
  allowance: Allowance,
  zone: Zone,
  now: number,
  coming: readonly QuarterCount[],
  sentSince: (from: number) => number,
): boolean {
  const due = new Map<number, number>()
  for (const { quarter, count } of coming) {
    const at = Math.max(now, quarter * quarterMs)
    for (const { limit, from, to } of windowsAt(allowance, zone, at)) {
      // An hour and a day may begin together: the length tells them apart.
      const key = from * 4096 + Math.round((to - from) / hourMs)
      const sum = (due.get(key) ?? sentSince(from)) + count
      if (limit !== null && sum > limit) return false
      due.set(key, sum)
    }
  }
  return true
}

/** Index of the first of some ascending moments that is not before another. */
function firstFrom(moments: readonly number[], from: number): number {
  let low = 0
  let high = moments.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((moments[middle] ?? 0) < from) low = middle + 1
    else high = middle
  }
  return low
}
