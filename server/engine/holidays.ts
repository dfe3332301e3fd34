import Holidays from 'date-holidays'
import type { Business } from '#core/model/business.ts'
import { isoDateOf, yearMonthDayOf, type EpochDay } from '#core/time/calendar.ts'

/** The name of the public holiday on a date, or null. */
export type HolidayName = (day: EpochDay) => string | null

/** A region whose public holidays are known. */
export interface Region {
  readonly country: string
  readonly name: string
  readonly subdivisions: { code: string; name: string }[]
}

let regions: readonly Region[] | null = null

/** All regions whose public holidays are known, by name. */
export function knownRegions(): readonly Region[] {
  const all = new Holidays()
  regions ??= Object.entries(all.getCountries('en'))
    .map(([country, name]) => {
      const states = Object.entries(
        (all.getStates(country, 'en') as Record<string, string> | undefined) ?? {},
      )
      return { country, name, subdivisions: states.map(([code, state]) => ({ code, name: state })) }
    })
    .sort((one, other) => one.name.localeCompare(other.name, 'en'))
  return regions
}

/** Public holidays of a region. A year's set is worked out once: each look-up in the package costs milliseconds. */
export function holidaysOf({ country, subdivision }: Business['holidayRegion']): HolidayName {
  const calendar = subdivision === null ? new Holidays(country) : new Holidays(country, subdivision)
  calendar.setLanguages('en')
  const years = new Map<number, ReadonlyMap<string, string>>()
  const namesOf = (year: number) => {
    const known = years.get(year)
    if (known) return known
    const names = new Map(
      calendar
        .getHolidays(year)
        .filter(({ type }) => type === 'public')
        .map(({ date, name }) => [date.slice(0, 10), name]),
    )
    years.set(year, names)
    return names
  }
  return (day) => namesOf(yearMonthDayOf(day).year).get(isoDateOf(day)) ?? null
}
