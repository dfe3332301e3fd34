import { dayMs, hourMs, minuteMs } from '#core/time/calendar.ts'

/** A two-sided stretched scale around day 0: minutes, hours, days and weeks are all readable. */
export interface DayZeroScale {
  /** Place of a moment, 0 at the left end, 1 at the right end. */
  readonly place: (at: number) => number
  readonly ticks: readonly Tick[]
}

export interface Tick {
  readonly at: number
  readonly label: string
}

const steps: readonly { readonly ms: number; readonly label: string }[] = [
  { ms: 15 * minuteMs, label: '15 min' },
  { ms: hourMs, label: '1 h' },
  { ms: 3 * hourMs, label: '3 h' },
  { ms: 12 * hourMs, label: '12 h' },
  { ms: dayMs, label: '1 d' },
  { ms: 3 * dayMs, label: '3 d' },
  { ms: 7 * dayMs, label: '7 d' },
  { ms: 14 * dayMs, label: '14 d' },
  { ms: 30 * dayMs, label: '30 d' },
  { ms: 90 * dayMs, label: '90 d' },
  { ms: 365 * dayMs, label: '1 y' },
]

/** Distances below the knee lie close to day 0, above it they grow by ratio. */
const stretchBy = (knee: number) => (distance: number) =>
  Math.sign(distance) * Math.log1p(Math.abs(distance) / knee)

/**
 * The scale that shows everything from the earliest to the latest moment, with some air at both ends. Around a day that
 * has no time of day hours tell nothing: it begins with days.
 */
export function dayZeroScale(day0At: number, moments: readonly number[], isWholeDay = false): DayZeroScale {
  const stretch = stretchBy(isWholeDay ? dayMs : 15 * minuteMs)
  const finest = isWholeDay ? dayMs : 0
  const before = Math.max(dayMs, ...moments.map((at) => day0At - at)) * 1.25
  const after = Math.max(isWholeDay ? 3 * dayMs : 3 * hourMs, ...moments.map((at) => at - day0At)) * 1.25
  const left = stretch(-before)
  const width = stretch(after) - left
  const place = (at: number) => (stretch(at - day0At) - left) / width
  const ticks = [
    ...steps.filter(({ ms }) => ms <= before).map(({ ms, label }) => ({ at: day0At - ms, label })),
    ...steps.filter(({ ms }) => ms <= after).map(({ ms, label }) => ({ at: day0At + ms, label })),
  ]
  const isFar = (at: number) => Math.abs(at - day0At) >= finest
  return { place, ticks: ticks.filter(({ at }) => isFar(at) && place(at) > 0.015 && place(at) < 0.985) }
}

/** Gives each pin a row so that no two of one row overlap; the rows are filled from the line upwards. */
export function pinRows(centres: readonly number[], width: number): readonly number[] {
  const ends: number[] = []
  const order = centres
    .map((_, index) => index)
    .sort((one, other) => (centres[one] ?? 0) - (centres[other] ?? 0))
  const rows = new Array<number>(centres.length).fill(0)
  for (const index of order) {
    const start = (centres[index] ?? 0) - width / 2
    const free = ends.findIndex((end) => end <= start)
    const row = free < 0 ? ends.length : free
    ends[row] = start + width
    rows[index] = row
  }
  return rows
}
