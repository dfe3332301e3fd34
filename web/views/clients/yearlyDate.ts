import { de, en } from 'chrono-node'
import type { Client } from '#core/model/client.ts'
import { monthName } from '#core/time/format.ts'

type YearlyDate = Pick<Client['namedDates'][number], 'monthDay' | 'year'>

/** A yearly date as people read it: `29 February 1992`, `29 February`. */
export function yearlyDateWords({ monthDay, year }: YearlyDate): string {
  const [month = 1, day = 1] = monthDay.split('-').map(Number)
  return `${day} ${monthName(month)}${year === null ? '' : ` ${year}`}`
}

/** In a leap year every day of the calendar is there. */
const leapYear = new Date(Date.UTC(2024, 0, 1, 12))
const two = (number: number) => String(number).padStart(2, '0')

/**
 * A yearly date in any usual form, the day before the month where both are numbers: `29.2.1992`, `29 Feb`, `Feb 29`,
 * `29/2/1992`, `1992-02-29`, `02-29`, in English or German. Null: it is none.
 */
export function typedYearlyDate(typed: string): YearlyDate | null {
  // `Feb 29` would be read as a month of 2029.
  const text = typed
    .trim()
    .replace(/\.$/, '')
    .replace(/^(\p{L}+)\.? (\d{1,2})(?=$|,? \d{4}$)/u, '$2 $1')
  if (/^\d{1,2}-\d{1,2}$/.test(text)) {
    const [month = 0, day = 0] = text.split('-').map(Number)
    return { monthDay: `${two(month)}-${two(day)}`, year: null }
  }
  const [short] = /^\d{1,2}[./]\d{1,2}$/.exec(text) ?? []
  if (short !== undefined) {
    const [day = 0, month = 0] = short.split(/[./]/).map(Number)
    return { monthDay: `${two(month)}-${two(day)}`, year: null }
  }
  const found = [...en.GB.parse(text, leapYear), ...de.parse(text, leapYear)].find(
    (one) => one.text.length >= text.length && one.start.isCertain('day') && one.start.isCertain('month'),
  )
  if (!found) return null
  const { start } = found
  return {
    monthDay: `${two(start.get('month') ?? 0)}-${two(start.get('day') ?? 0)}`,
    year: start.isCertain('year') ? start.get('year') : null,
  }
}
