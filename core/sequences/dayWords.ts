import type { OnlyDays } from '../model/step.ts'
import { weekdayNames } from '../time/calendar.ts'

const sorted = (weekdays: readonly number[]) => [...new Set(weekdays)].sort((one, other) => one - other)
const nameOf = (day: number) => weekdayNames[day - 1] ?? ''

/** Whether some days follow each other, three at least. */
function isStretch(days: readonly number[]): boolean {
  return days.length > 2 && days.every((day, index) => index === 0 || day === (days[index - 1] ?? 0) + 1)
}

function listed(words: readonly string[]): string {
  return words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`
}

/** The days on which a step goes: `only on working days`, `only from Monday to Friday`, `only on Tuesdays and Fridays`. */
export function dayWords(days: OnlyDays): string {
  if (days === 'working days') return 'only on working days'
  const all = sorted(days.weekdays)
  if (isStretch(all)) return `only from ${nameOf(all[0] ?? 1)} to ${nameOf(all.at(-1) ?? 7)}`
  return `only on ${listed(all.map((day) => `${nameOf(day)}s`))}`
}

/** The same in a few letters, for a pin: `Mon–Fri`, `Tue Fri`, `working days`. */
export function shortDayWords(days: OnlyDays): string {
  if (days === 'working days') return 'working days'
  const all = sorted(days.weekdays)
  const short = all.map((day) => nameOf(day).slice(0, 3))
  return isStretch(all) ? `${short[0] ?? ''}–${short.at(-1) ?? ''}` : short.join(' ')
}
