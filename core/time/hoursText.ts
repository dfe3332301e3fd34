import type { OpeningHours } from '../model/openingHours.ts'

type Interval = OpeningHours['weekly'][number][number]

/** Hours of a day as people type them: `08:00–12:00, 13:00–17:00`; empty: closed. */
export function hoursText(day: readonly Interval[]): string {
  return day.map(({ from, to }) => `${from}–${to}`).join(', ')
}

/** A time as it is typed, `8`, `8:30`, `0830` or `08.30`; null: it is none. */
function timeOf(text: string): string | null {
  const found = /^(\d{1,2})(?:[:.]?(\d{2}))?$/.exec(text.trim())
  if (!found) return null
  const hour = Number(found[1])
  const minute = Number(found[2] ?? 0)
  if (hour > 24 || minute > 59 || (hour === 24 && minute > 0)) return null
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`
}

function intervalOf(text: string): Interval | null {
  const [first = '', second = '', more] = text.split(/–|—|-| to /)
  const from = timeOf(first)
  const to = timeOf(second)
  return more !== undefined || from === null || to === null || from >= to ? null : { from, to }
}

/** Hours of a day as they were typed, in order; null: they cannot be read, or two of them overlap. */
export function readHours(text: string): Interval[] | null {
  const parts = text.split(/[,;]| and /).filter((part) => part.trim() !== '')
  const read = parts.map(intervalOf)
  const all = read
    .flatMap((one) => (one === null ? [] : [one]))
    .sort((one, other) => one.from.localeCompare(other.from))
  if (all.length < read.length) return null
  return all.some((one, index) => one.from < (all[index - 1]?.to ?? '')) ? null : all
}

/** What is wrong with hours as they were typed; null: nothing. */
export const hoursFault = (text: string): string | null =>
  readHours(text) === null ? 'Hours look like 08:00–12:00, 13:00–17:00; nothing means closed.' : null
